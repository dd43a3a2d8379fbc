/**
 * Speech Intelligibility Index, one-third-octave procedure of ANSI S3.5-1997 (tables from memory; the importance and
 * the speech spectrum are also in the project's list of checks). Hearing is normal, the listener turns the volume to
 * where ordinary speech would be.
 */
import { type Decibels, type Fraction, type Hertz, powerToDb } from '../units/index.ts';

/** Nominal centres of the 18 bands. */
export const SII_BANDS: readonly Hertz[] = [
  160, 200, 250, 315, 400, 500, 630, 800, 1000, 1250, 1600, 2000, 2500, 3150, 4000, 5000, 6300, 8000,
];
/** Importance of each band, sum 1 (average speech). */
export const BAND_IMPORTANCE: readonly Fraction[] = [
  0.0083, 0.0095, 0.015, 0.0289, 0.044, 0.0578, 0.0653, 0.0711, 0.0818, 0.0844, 0.0882, 0.0898, 0.0868, 0.0844, 0.0771, 0.0527, 0.0364,
  0.0185,
];
/** Spectrum level (dB SPL per hertz) of speech at normal effort. */
export const NORMAL_SPEECH: readonly Decibels[] = [
  32.41, 34.48, 34.75, 33.98, 34.59, 34.27, 32.06, 28.3, 25.01, 23, 20.15, 17.32, 13.18, 11.55, 9.33, 5.31, 2.59, 1.13,
];
/** The ear's own noise, as a spectrum level. */
const INTERNAL_NOISE: readonly Decibels[] = [
  0.6, -1.7, -3.9, -6.1, -8.2, -9.7, -10.8, -11.9, -12.5, -13.5, -15.4, -17.7, -21.2, -24.2, -25.9, -23.6, -15.8, -7.1,
];
const BANDS = SII_BANDS.length;

/** log10(0.89 f_i / f_k) and 10 log10 f_k - 6.353 of the spread of masking, worked out once. */
const SPREAD = SII_BANDS.map((hz) => SII_BANDS.map((low) => 3.32 * Math.log10((0.89 * hz) / low)));
const WIDTH_DB = SII_BANDS.map((hz) => powerToDb(hz) - 6.353);
const NEPER = Math.LN10 / 10;

/** What a masker spreads is left out so far under the noise of a band, or so far under the ear's own. */
const NOTHING_BESIDE_DB: Decibels = 50;
const INAUDIBLE_DB: Decibels = -70;

/**
 * @param speech equivalent speech spectrum level of each band, dB SPL per hertz
 * @param noise  equivalent noise spectrum level, likewise
 * @returns audibility of each band, 0 to 1, without its importance
 */
export function bandAudibility(speech: ArrayLike<Decibels>, noise: ArrayLike<Decibels>): Float64Array {
  const masked = new Float64Array(BANDS);
  const audible = new Float64Array(BANDS);
  for (let i = 0; i < BANDS; i++) {
    // Speech masks itself 24 dB below; the larger masker spreads upward, fainter from band to band.
    const masker = Math.max(noise[i], speech[i] - 24);
    const slope = -80 + 0.6 * (masker + WIDTH_DB[i]);
    for (let above = i + 1; above < BANDS; above++) {
      const level = masker + slope * SPREAD[above][i];
      if (level < INAUDIBLE_DB) break;
      if (level > noise[above] - NOTHING_BESIDE_DB) masked[above] += Math.exp(NEPER * level);
    }
    const power = i === 0 ? Math.exp(NEPER * masker) : masked[i] + Math.exp(NEPER * noise[i]);
    const disturbance = Math.max(powerToDb(power), INTERNAL_NOISE[i]);
    const level = Math.min(1, 1 - (speech[i] - NORMAL_SPEECH[i] - 10) / 160);
    audible[i] = level * Math.max(0, Math.min(1, (speech[i] - disturbance + 15) / 30));
  }
  return audible;
}

/** The index, 0 to 1. */
export function speechIntelligibilityIndex(speech: ArrayLike<Decibels>, noise: ArrayLike<Decibels>): Fraction {
  return bandAudibility(speech, noise).reduce((sum, audible, i) => sum + audible * BAND_IMPORTANCE[i], 0);
}
