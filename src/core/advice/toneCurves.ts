/** Curves for the eye: a voice as heard or as predicted, laid over the aim with the overall gain taken out. */
import { type CurvePoint, curveAt } from '../formats/curve.ts';
import { slidingThirdOctaves, TWELFTH_CENTRES } from '../signal/bands.ts';
import { dbToPower, powerToDb } from '../signal/conversions.ts';
import { weightedMean } from '../signal/statistics.ts';
import type { Decibels, Hertz } from '../signal/units.ts';
import { bandEffects, type HeardVoice, type ToneBasis } from './toneError.ts';

/** [Hz, third-octave level in dB on the aim's scale]; null where nothing is known. */
export type ToneCurve = readonly (readonly [Hertz, Decibels | null])[];

/**
 * Third-octave levels of a voice after a change of response, shifted so that they lie on the aim on average
 * over the bands that count.
 * @param changeDb change of response at VOICE_TWELFTH_OCTAVES
 */
export function voiceCurve(basis: ToneBasis, voice: HeardVoice, changeDb: ArrayLike<Decibels>): ToneCurve {
  const effects = bandEffects(basis, changeDb);
  const gain = weightedMean(
    basis.bands.map((band, b) => band.heardDb + effects[b] - band.aimDb),
    basis.bands.map((band) => band.weight),
  );
  const changed = voice.speechPowers.map((power, i) => (power === null ? null : power * dbToPower(changeDb[i])));
  return slidingThirdOctaves(changed).map((power, i) => [
    TWELFTH_CENTRES[i],
    power === null || power === 0 ? null : powerToDb(power) - gain,
  ]);
}

/** The aim at the same frequencies. */
export const aimCurve = (aim: readonly CurvePoint[]): ToneCurve => TWELFTH_CENTRES.map((hz) => [hz, curveAt(aim, hz)]);
