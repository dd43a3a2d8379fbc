/** Speech cut into short frames, each as powers in the bands of the intelligibility index. */

import FFT from 'fft.js';
import { ACTIVE_RANGE_DB } from '../dsp/meter/frameMeter.ts';
import { exactCentre } from '../dsp/spectrum/bands.ts';
import { dbToPower, powerToDb } from '../units/conversions.ts';
import type { Decibels, Hertz, Power } from '../units/units.ts';
import { SII_BANDS } from './speechIntelligibility.ts';

/** About 43 ms: the lowest band, 37 Hz wide, holds a bin and a half. Rhebergen and Versfeld 2005 use 35 ms there. */
const FRAME_S = 0.0427;

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
  const count = Math.max(0, Math.floor((samples.length - size) / hop) + 1);
  const fft = new FFT(size);
  const window = Float64Array.from({ length: size }, (_, n) => 0.5 - 0.5 * Math.cos((2 * Math.PI * n) / size));
  const bins = hop + 1;
  const edges = bandEdges(rateHz / size, bins);
  const powers = new Float64Array(count * edges.length);
  const spectra = new Float64Array(2 * count * bins);
  const input = new Float64Array(size);
  const output = new Float64Array(2 * size);
  // One-sided power: 2 |X|^2 / (size * sum of squared window).
  const scale = 2 / (size * 0.375 * size);
  for (let f = 0; f < count; f++) {
    for (let n = 0; n < size; n++) input[n] = window[n] * samples[f * hop + n];
    fft.realTransform(output, input);
    spectra.set(output.subarray(0, 2 * bins), 2 * f * bins);
    edges.forEach(([from, to], b) => {
      let sum = 0;
      for (let k = from; k < to; k++) sum += output[2 * k] ** 2 + output[2 * k + 1] ** 2;
      powers[f * edges.length + b] = scale * sum;
    });
  }
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
