/** Fractional-octave bands, base 10. Source: IEC 61260-1: G = 10^(3/10), third-octave centres 1000 G^(n/3). */
import { dbToPower, type Hertz, type Power, powerToDb } from '../../units/index.ts';
import { bandPower, highestHz, type Spectrum } from './spectrum.ts';

const OCTAVE_RATIO = 10 ** 0.3;

/** A band by its centre and edges. */
export interface Band {
  readonly centreHz: Hertz;
  readonly lowHz: Hertz;
  readonly highHz: Hertz;
}

const band = (centreHz: Hertz, fraction: number): Band => ({
  centreHz,
  lowHz: centreHz * OCTAVE_RATIO ** (-0.5 / fraction),
  highHz: centreHz * OCTAVE_RATIO ** (0.5 / fraction),
});

/** Third-octave bands with exact centres; index 0 is 1 kHz. */
export const thirdOctave = (index: number): Band => band(1000 * OCTAVE_RATIO ** (index / 3), 3);

/** Exact centre of the third octave with a nominal one, as printed in tables. */
export const exactCentre = (nominalHz: Hertz): Hertz => 1000 * dbToPower(Math.round(powerToDb(nominalHz / 1000)));

/** The third-octave bands from 100 Hz to 4 kHz (17 of them). */
export const VOICE_THIRD_OCTAVES: readonly Band[] = Array.from({ length: 17 }, (_, i) => thirdOctave(i - 10));

/**
 * The four twelfth-octave bands that make up a third-octave band exactly
 * (IEC 61260-1, even fraction: midbands 1000 G^((2k+1)/24)).
 */
export const twelfthsOf = (third: Band): Band[] =>
  [-1.5, -0.5, 0.5, 1.5].map((step) => band(third.centreHz * OCTAVE_RATIO ** (step / 12), 12));

/** The twelfth-octave bands under `VOICE_THIRD_OCTAVES`, in order (68 of them, 91 to 4365 Hz). */
export const VOICE_TWELFTH_OCTAVES: readonly Band[] = VOICE_THIRD_OCTAVES.flatMap(twelfthsOf);

/** Their centre frequencies: where responses are worked out unless something else is asked for. */
export const TWELFTH_CENTRES: readonly Hertz[] = VOICE_TWELFTH_OCTAVES.map((each) => each.centreHz);

/** Power in each band; null for a band that reaches past the spectrum's end. */
export function bandPowers(spectrum: Spectrum, bands: readonly Band[]): (Power | null)[] {
  const end = highestHz(spectrum);
  return bands.map(({ lowHz, highHz }) => (highHz > end ? null : bandPower(spectrum, lowHz, highHz)));
}

/**
 * Third-octave power centred on each of a row of twelfth-octave powers (two neighbours in full, the outer two
 * by half): the smooth curve for drawing. Null where a neighbour is missing.
 */
export function slidingThirdOctaves(twelfths: readonly (Power | null)[]): (Power | null)[] {
  const weights = [0.5, 1, 1, 1, 0.5];
  return twelfths.map((_, i) => {
    let power = 0;
    for (const [k, weight] of weights.entries()) {
      // At the ends the outermost band stands for what lies beyond.
      const part = twelfths[Math.min(Math.max(i + k - 2, 0), twelfths.length - 1)];
      if (part === null) return null;
      power += weight * part;
    }
    return power;
  });
}
