/** Linear-phase band-pass by a windowed sinc, and its use on a whole recording. */
import type { Hertz } from '../../units/index.ts';
import { joined } from '../stream/joined.ts';
import { FftFilter } from './fftFilter.ts';

/**
 * Band-pass taps (Hamming window), -6 dB at both edges.
 * @param taps odd number of coefficients; transition width is about 3.3 * rate / taps hertz
 */
export function bandPassTaps(rateHz: Hertz, lowHz: Hertz, highHz: Hertz, taps: number): Float64Array {
  const middle = (taps - 1) / 2;
  const ideal = (cornerHz: Hertz, n: number) =>
    n === 0 ? (2 * cornerHz) / rateHz : Math.sin((2 * Math.PI * cornerHz * n) / rateHz) / (Math.PI * n);
  return Float64Array.from({ length: taps }, (_, i) => {
    const n = i - middle;
    const window = 0.54 + 0.46 * Math.cos((Math.PI * n) / middle);
    return window * (ideal(highHz, n) - ideal(lowHz, n));
  });
}

/** Convolves and trims the delay, so that output sample n belongs to input sample n. */
export function filterCentred(samples: Float64Array, taps: Float64Array): Float64Array {
  const filter = new FftFilter({ i: taps }, null);
  return joined([filter.push(samples).i.slice(), filter.end().i]);
}
