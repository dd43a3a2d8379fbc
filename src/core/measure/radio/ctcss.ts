/** The sub-audible tone that opens a repeater, told from demodulated FM. */
import { bandPower, type Spectrum } from '../../dsp/index.ts';
import { type Hertz, powerToDb } from '../../units/index.ts';
import { strongestLine } from './modulated.ts';

/** The usual tones in hertz. Source: TIA-603 and common practice (list from memory). */
export const CTCSS_TONES: readonly Hertz[] = [
  67.0, 69.3, 71.9, 74.4, 77.0, 79.7, 82.5, 85.4, 88.5, 91.5, 94.8, 97.4, 100.0, 103.5, 107.2, 110.9, 114.8, 118.8, 123.0, 127.3, 131.8,
  136.5, 141.3, 146.2, 151.4, 156.7, 159.8, 162.2, 165.5, 167.9, 171.3, 173.8, 177.3, 179.9, 183.5, 186.2, 189.9, 192.8, 196.6, 199.5,
  203.5, 206.5, 210.7, 218.1, 225.7, 229.1, 233.6, 241.8, 250.3, 254.1,
];
const LOWEST_HZ = 60;
const HIGHEST_HZ = 260;
/** How far the line stands over the rest below 260 Hz. */
const LEAST_PROMINENCE_DB = 6;
/** Deviation under this is no tone that a repeater would hear. Common practice: 500 to 800 Hz are sent. */
const LEAST_DEVIATION_HZ = 80;
const FARTHEST_HZ = 1.5;

/**
 * @param audio demodulated deviation as a spectrum (hertz squared per hertz), bins of 1.5 Hz or less
 * @returns where the tone is, and the nearest usual one; null where there is no steady one
 */
export function findCtcss(audio: Spectrum): { readonly hz: Hertz; readonly nominalHz: Hertz } | null {
  const { binHz, density } = audio;
  const low = Math.floor(LOWEST_HZ / binHz);
  const sub: Spectrum = { binHz, firstHz: low * binHz, density: density.subarray(low, Math.ceil(HIGHEST_HZ / binHz)) };
  const hz = strongestLine(sub);
  const line = bandPower(audio, hz - 3 * binHz, hz + 3 * binHz);
  const rest = bandPower(audio, LOWEST_HZ, HIGHEST_HZ) - line;
  if (Math.sqrt(2 * line) < LEAST_DEVIATION_HZ || powerToDb(line / Math.max(rest, Number.MIN_VALUE)) < LEAST_PROMINENCE_DB) return null;
  const nearest = CTCSS_TONES.reduce((best, tone) => (Math.abs(tone - hz) < Math.abs(best - hz) ? tone : best));
  return Math.abs(nearest - hz) <= FARTHEST_HZ ? { hz, nominalHz: nearest } : null;
}
