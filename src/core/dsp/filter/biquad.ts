/**
 * Second-order filter sections. Coefficients from the Audio EQ Cookbook (R. Bristow-Johnson, W3C note);
 * widths in octaves are corrected for the bilinear transform as given there.
 */
import { type Decibels, dbToAmplitude, type Hertz, type Octaves, powerToDb } from '../../units/index.ts';

/** y[n] = b0 x[n] + b1 x[n-1] + b2 x[n-2] - a1 y[n-1] - a2 y[n-2] (a0 = 1). */
export interface Biquad {
  readonly b0: number;
  readonly b1: number;
  readonly b2: number;
  readonly a1: number;
  readonly a2: number;
}

const normalised = (b0: number, b1: number, b2: number, a0: number, a1: number, a2: number): Biquad => ({
  b0: b0 / a0,
  b1: b1 / a0,
  b2: b2 / a0,
  a1: a1 / a0,
  a2: a2 / a0,
});

const alphaFromQ = (w0: number, q: number) => Math.sin(w0) / (2 * q);

/** alpha = sin w0 sinh(ln2/2 BW w0 / sin w0), so that the digital width is `octaves` too. */
const alphaFromOctaves = (w0: number, octaves: Octaves) => Math.sin(w0) * Math.sinh((Math.LN2 / 2) * octaves * (w0 / Math.sin(w0)));

function peakingWith(w0: number, gainDb: Decibels, alpha: number): Biquad {
  const a = dbToAmplitude(gainDb / 2);
  const c = -2 * Math.cos(w0);
  return normalised(1 + alpha * a, c, 1 - alpha * a, 1 + alpha / a, c, 1 - alpha / a);
}

/** Bell of `gainDb` at `centreHz`; `octaves` between the half-gain (dB) points. Centre below half the rate. */
export function peaking(rateHz: Hertz, centreHz: Hertz, gainDb: Decibels, octaves: Octaves): Biquad {
  const w0 = (2 * Math.PI * centreHz) / rateHz;
  return peakingWith(w0, gainDb, alphaFromOctaves(w0, octaves));
}

/** The same bell with its width given as Q. */
export function peakingQ(rateHz: Hertz, centreHz: Hertz, gainDb: Decibels, q: number): Biquad {
  const w0 = (2 * Math.PI * centreHz) / rateHz;
  return peakingWith(w0, gainDb, alphaFromQ(w0, q));
}

function shelf(rateHz: Hertz, cornerHz: Hertz, gainDb: Decibels, side: 1 | -1): Biquad {
  const a = dbToAmplitude(gainDb / 2);
  const w0 = (2 * Math.PI * cornerHz) / rateHz;
  // Shelf slope S = 1, the steepest without overshoot: alpha = sin w0 / 2 * sqrt 2.
  const root = 2 * Math.sqrt(a) * (Math.sin(w0) / 2) * Math.SQRT2;
  const c = side * Math.cos(w0);
  return normalised(
    a * (a + 1 - (a - 1) * c + root),
    side * 2 * a * (a - 1 - (a + 1) * c),
    a * (a + 1 - (a - 1) * c - root),
    a + 1 + (a - 1) * c + root,
    side * -2 * (a - 1 + (a + 1) * c),
    a + 1 + (a - 1) * c - root,
  );
}

/** Raises everything well below `cornerHz` by `gainDb`; half of it at the corner. */
export const lowShelf = (rateHz: Hertz, cornerHz: Hertz, gainDb: Decibels): Biquad => shelf(rateHz, cornerHz, gainDb, 1);

/** Raises everything well above `cornerHz` by `gainDb`; half of it at the corner. */
export const highShelf = (rateHz: Hertz, cornerHz: Hertz, gainDb: Decibels): Biquad => shelf(rateHz, cornerHz, gainDb, -1);

/** Low-pass, -3.01 dB at the corner when q = sqrt(1/2). */
export function lowPass(rateHz: Hertz, cornerHz: Hertz, q = Math.SQRT1_2): Biquad {
  const w0 = (2 * Math.PI * cornerHz) / rateHz;
  const alpha = alphaFromQ(w0, q);
  const c = Math.cos(w0);
  return normalised((1 - c) / 2, 1 - c, (1 - c) / 2, 1 + alpha, -2 * c, 1 - alpha);
}

/** High-pass, -3.01 dB at the corner when q = sqrt(1/2). */
export function highPass(rateHz: Hertz, cornerHz: Hertz, q = Math.SQRT1_2): Biquad {
  const w0 = (2 * Math.PI * cornerHz) / rateHz;
  const alpha = alphaFromQ(w0, q);
  const c = Math.cos(w0);
  return normalised((1 + c) / 2, -(1 + c), (1 + c) / 2, 1 + alpha, -2 * c, 1 - alpha);
}

/** Takes one frequency out: zero there, and 3 dB down at its two sides 1/Q of it apart. Source: Audio EQ Cookbook. */
export function notch(rateHz: Hertz, centreHz: Hertz, q: number): Biquad {
  const w = (2 * Math.PI * centreHz) / rateHz;
  const alpha = Math.sin(w) / (2 * q);
  return normalised(1, -2 * Math.cos(w), 1, 1 + alpha, -2 * Math.cos(w), 1 - alpha);
}

/** Q of each of the `order / 2` sections of a Butterworth filter of even order. */
export const butterworthQs = (order: number): number[] =>
  Array.from({ length: order / 2 }, (_, k) => 1 / (2 * Math.cos((Math.PI * (2 * k + 1)) / (2 * order))));

/** The section that undoes `filter`. Only for sections whose zeros lie inside the unit circle, as bells and shelves. */
export const inverseBiquad = ({ b0, b1, b2, a1, a2 }: Biquad): Biquad => normalised(1, a1, a2, b0, b1, b2);

/** sin^2(w/2): responses written in it lose nothing at low frequencies (cookbook, closing note). */
const halfSine = (rateHz: Hertz, frequencyHz: Hertz): number => Math.sin((Math.PI * frequencyHz) / rateHz) ** 2;

/** The half sines of many frequencies, for `addResponseDb`. */
export const halfSines = (rateHz: Hertz, frequencies: readonly Hertz[]): Float64Array =>
  Float64Array.from(frequencies, (hz) => halfSine(rateHz, hz));

/** Adds the gain of one section, in dB at each of `phis` (see `halfSines`), to `into`. */
export function addResponseDb({ b0, b1, b2, a1, a2 }: Biquad, phis: Float64Array, into: Float64Array): void {
  // |H|^2, numerator and denominator as polynomials of phi.
  const n0 = (b0 + b1 + b2) ** 2;
  const n1 = -4 * (b0 * b1 + 4 * b0 * b2 + b1 * b2);
  const n2 = 16 * b0 * b2;
  const d0 = (1 + a1 + a2) ** 2;
  const d1 = -4 * (a1 + 4 * a2 + a1 * a2);
  const d2 = 16 * a2;
  for (let k = 0; k < phis.length; k++) {
    const phi = phis[k];
    into[k] += powerToDb((n0 + phi * (n1 + phi * n2)) / (d0 + phi * (d1 + phi * d2)));
  }
}

/** Gain of one section at a frequency, in dB. */
export const responseDb = (filter: Biquad, rateHz: Hertz, frequencyHz: Hertz): Decibels => cascadeDb([filter], rateHz, frequencyHz);

/** Gain of sections in a row at a frequency, in dB. */
export function cascadeDb(filters: readonly Biquad[], rateHz: Hertz, frequencyHz: Hertz): Decibels {
  const [phi, sum] = [halfSines(rateHz, [frequencyHz]), new Float64Array(1)];
  for (const filter of filters) addResponseDb(filter, phi, sum);
  return sum[0];
}

/** Runs sections over a stream of blocks, keeping their state in between. */
export class BiquadChain {
  readonly #state: Float64Array;
  constructor(readonly filters: readonly Biquad[]) {
    this.#state = new Float64Array(2 * filters.length);
  }

  /** Filters a block in place (transposed direct form II) and returns it. */
  process(block: Float64Array): Float64Array {
    const { filters } = this;
    let i = 0;
    // Two sections in one loop: the second works while the first waits for its own last result.
    for (; i + 1 < filters.length; i += 2) this.#processPair(block, i);
    if (i < filters.length) this.#processOne(block, i);
    return block;
  }

  #processOne(block: Float64Array, i: number): void {
    const { b0, b1, b2, a1, a2 } = this.filters[i];
    let s1 = this.#state[2 * i];
    let s2 = this.#state[2 * i + 1];
    for (let n = 0; n < block.length; n++) {
      const x = block[n];
      const y = b0 * x + s1;
      s1 = b1 * x - a1 * y + s2;
      s2 = b2 * x - a2 * y;
      block[n] = y;
    }
    this.#state[2 * i] = s1;
    this.#state[2 * i + 1] = s2;
  }

  #processPair(block: Float64Array, i: number): void {
    const { b0, b1, b2, a1, a2 } = this.filters[i];
    const { b0: d0, b1: d1, b2: d2, a1: c1, a2: c2 } = this.filters[i + 1];
    let [s1, s2, t1, t2] = this.#state.subarray(2 * i, 2 * i + 4);
    for (let n = 0; n < block.length; n++) {
      const x = block[n];
      const y = b0 * x + s1;
      s1 = b1 * x - a1 * y + s2;
      s2 = b2 * x - a2 * y;
      const z = d0 * y + t1;
      t1 = d1 * y - c1 * z + t2;
      t2 = d2 * y - c2 * z;
      block[n] = z;
    }
    this.#state.set([s1, s2, t1, t2], 2 * i);
  }
}
