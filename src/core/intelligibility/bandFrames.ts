/** Speech cut into short frames, each as powers in the bands of the intelligibility index. */
import { ACTIVE_RANGE_DB, binPower, exactCentre, hann, type StftShape, stft, stftCount } from '../dsp/index.ts';
import { type Decibels, dbToPower, type Hertz, type Power, powerToDb } from '../units/index.ts';
import { SII_BANDS } from './speechIntelligibility.ts';

/** About 43 ms: the lowest band, 37 Hz wide, holds a bin and a half. Rhebergen and Versfeld 2005 use 35 ms there. */
const FRAME_S = 0.0427;

/** Frames of a voice as band powers and spectra. */
export interface BandFrames {
  readonly count: number;
  /** Mean power of band b in frame f at [f * bands + b], re full scale. */
  readonly powers: Float64Array;
  /** Complex spectra, bin k of frame f at 2 * (f * bins + k). */
  readonly spectra: Float64Array;
  readonly bins: number;
  /** First bin of each band and the one behind its last. */
  readonly edges: readonly (readonly [number, number])[];
}

/** Frames of Hann windows, half overlapped. @param rateHz such that a frame is a power of two: 12, 24, 48 kHz */
export function bandFrames(samples: Float64Array, rateHz: Hertz): BandFrames {
  const size = 2 ** Math.round(Math.log2(FRAME_S * rateHz));
  const hop = size / 2;
  const shape: StftShape = { window: hann(size), hopSamples: hop, size };
  const count = stftCount(samples.length, shape);
  const bins = hop + 1;
  const edges = bandEdges(rateHz / size, bins);
  const powers = new Float64Array(count * edges.length);
  const spectra = new Float64Array(2 * count * bins);
  // One-sided power: 2 |X|^2 / (size * sum of squared window).
  const scale = 2 / (size * 0.375 * size);
  stft(samples, shape, (spectrum, f) => {
    spectra.set(spectrum, 2 * f * bins);
    edges.forEach(([from, to], b) => {
      powers[f * edges.length + b] = scale * binPower(spectrum, from, to);
    });
  });
  return { count, powers, spectra, bins, edges };
}

/** Half of a third octave, base 10, as a frequency ratio. */
const HALF_BAND = 10 ** 0.05;

/** A band holds at least one bin and none is in two; bands above half the rate hold none. */
function bandEdges(binHz: Hertz, bins: number): [number, number][] {
  return SII_BANDS.map((nominal) => {
    const centre = exactCentre(nominal);
    const [from, to] = [centre / HALF_BAND, centre * HALF_BAND].map((hz) => Math.min(bins, Math.round(hz / binHz)));
    return [from, Math.max(to, Math.min(bins, from + 1))];
  });
}

/** Width of each band as its bins have it; its own where it has none. */
export const bandWidths = ({ edges, bins }: BandFrames, rateHz: Hertz): Hertz[] =>
  edges.map(([from, to], b) =>
    to > from ? ((to - from) * rateHz) / 2 / (bins - 1) : exactCentre(SII_BANDS[b]) * (HALF_BAND - 1 / HALF_BAND),
  );

/** Numbers of the frames in which somebody talks. */
export function activeFrames({ count, powers, edges }: BandFrames): number[] {
  const totals = Array.from({ length: count }, (_, f) => {
    let sum: Power = 0;
    for (let b = 0; b < edges.length; b++) sum += powers[f * edges.length + b];
    return sum;
  });
  const least = Math.max(...totals, 0) * dbToPower(-ACTIVE_RANGE_DB);
  return totals.flatMap((power, f) => (power > 0 && power >= least ? [f] : []));
}

/** Level of each of the frames given, all bands together. */
export const frameLevelsDb = ({ powers, edges }: BandFrames, frames: readonly number[]): Decibels[] =>
  frames.map((f) => powerToDb(powers.subarray(f * edges.length, (f + 1) * edges.length).reduce((a, b) => a + b, 0)));
