/** Curves for the eye: a voice as heard or as predicted, laid over the target with the overall gain taken out. */
import { type CurvePoint, curveAt } from '../curve/index.ts';
import { slidingThirdOctaves, sum, TWELFTH_CENTRES, weightedMean } from '../dsp/index.ts';
import { type Decibels, dbToPower, type Hertz, powerToDb } from '../units/index.ts';
import { type HeardSpeech, PARTS, type ToneBasis } from './toneError.ts';

/** [Hz, third-octave level in dB on the target's scale]; null where nothing is known. */
export type ToneCurve = readonly (readonly [Hertz, Decibels | null])[];

/**
 * Third-octave levels of a voice after a change of response, shifted so that they lie on the target on average
 * over the bands that count.
 * @param changeDb change of response at VOICE_TWELFTH_OCTAVES
 */
export function voiceCurve(basis: ToneBasis, voice: HeardSpeech, changeDb: ArrayLike<Decibels>): ToneCurve {
  const changed = voice.speechPowers.map((power, i) => (power === null ? null : power * dbToPower(changeDb[i])));
  // Of this voice, not of the estimate from several overs: that one has a level of its own.
  const heard = basis.bands.flatMap(({ parts, weight, targetDb }) => {
    const power = sum(parts.map((i) => changed[i] ?? 0));
    return power > 0 ? [{ offDb: powerToDb((power * PARTS) / parts.length) - targetDb, weight }] : [];
  });
  const gain = weightedMean(
    heard.map(({ offDb }) => offDb),
    heard.map(({ weight }) => weight),
  );
  return slidingThirdOctaves(changed).map((power, i) => [
    TWELFTH_CENTRES[i],
    power === null || power === 0 ? null : powerToDb(power) - gain,
  ]);
}

/** The target at the same frequencies. */
export const targetCurve = (target: readonly CurvePoint[]): ToneCurve => TWELFTH_CENTRES.map((hz) => [hz, curveAt(target, hz)]);
