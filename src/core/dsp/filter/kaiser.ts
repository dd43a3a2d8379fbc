/** Filter taps under a Kaiser window: low-pass, and one-sided band-pass. Odd in number, the middle one at time 0. */
import { type Decibels, dbToAmplitude, type Hertz } from '../../units/index.ts';
import { nextPowerOfTwo } from '../spectrum/spectrum.ts';
import { inverseTransform } from '../spectrum/transform.ts';
import type { Complex } from '../stream/complex.ts';

const STOPBAND_DB: Decibels = 80;

/** Modified Bessel function of the first kind, order 0, by its series. */
function besselI0(x: number): number {
  let term = 1;
  let sum = 1;
  for (let k = 1; term > 1e-17 * sum; k++) {
    term *= (x / (2 * k)) ** 2;
    sum += term;
  }
  return sum;
}

/**
 * Low-pass taps by a Kaiser window, -6 dB at `cornerHz`, gain 1 at 0 Hz.
 * Source: J. F. Kaiser 1974 (beta and length from the stop-band attenuation, here 80 dB).
 * @param transitionHz from the end of the pass band to the begin of the stop band
 */
export function lowPassTaps(rateHz: Hertz, cornerHz: Hertz, transitionHz: Hertz): Float64Array {
  const beta = 0.1102 * (STOPBAND_DB - 8.7);
  const length = 2 * Math.ceil((STOPBAND_DB - 7.95) / (2 * 14.36 * (transitionHz / rateHz))) + 1;
  const middle = (length - 1) / 2;
  const taps = Float64Array.from({ length }, (_, i) => {
    const n = i - middle;
    const ideal = n === 0 ? (2 * cornerHz) / rateHz : Math.sin((2 * Math.PI * cornerHz * n) / rateHz) / (Math.PI * n);
    return ideal * besselI0(beta * Math.sqrt(1 - (n / middle) ** 2));
  });
  const sum = taps.reduce((a, b) => a + b);
  return taps.map((tap) => tap / sum);
}

/**
 * Band-pass of positive frequencies only, -6 dB at both edges, gain 2 between: real audio becomes its analytic
 * signal (real part: the audio in that band), complex input loses what lies outside. Swap the signs of both edges
 * for the negative side.
 */
export function oneSidedTaps(rateHz: Hertz, lowHz: Hertz, highHz: Hertz, transitionHz: Hertz): Complex {
  const low = lowPassTaps(rateHz, Math.abs(highHz - lowHz) / 2, transitionHz);
  const turn = (Math.PI * (lowHz + highHz)) / rateHz;
  const middle = (low.length - 1) / 2;
  return {
    i: low.map((tap, n) => 2 * tap * Math.cos(turn * (n - middle))),
    q: low.map((tap, n) => 2 * tap * Math.sin(turn * (n - middle))),
  };
}

/**
 * Linear-phase taps that follow a curve of gain, by frequency sampling under a Hann window.
 * @param gainDb gain at a frequency from 0 to half the rate
 * @param taps odd; detail finer than about 2 * rate / taps hertz is smoothed
 */
export function curveTaps(rateHz: Hertz, gainDb: (hz: Hertz) => Decibels, taps: number): Float64Array {
  const size = 4 * nextPowerOfTwo(taps);
  const gain = Float64Array.from({ length: size }, (_, k) => dbToAmplitude(gainDb((Math.min(k, size - k) * rateHz) / size)));
  const { i } = inverseTransform({ re: gain, im: new Float64Array(size) });
  const middle = (taps - 1) / 2;
  return Float64Array.from({ length: taps }, (_, n) => {
    const window = 0.5 + 0.5 * Math.cos((Math.PI * (n - middle)) / (middle + 1));
    return window * i[(n - middle + size) % size];
  });
}
