/** Another sample rate by any ratio, for recordings in memory. */
import type { Hertz } from '../../units/index.ts';

/** Zero crossings of the kernel on each side; with the Hann taper the stop band is under -60 dB from 1.1 times the corner. */
const CROSSINGS = 32;

/** More places between two samples, and more weights, than these are not laid out beforehand: a header may claim any rate. */
const MOST_PLACES = 640;
const MOST_WEIGHTS = 1_000_000;

/** The kernel for each place that output samples of a ratio take between input samples; `step` input samples make up `weights.length` outputs. */
interface Places {
  readonly ratio: number;
  readonly step: number;
  /** From `first` input samples after the one at or before the output's place. */
  readonly weights: readonly { readonly first: number; readonly taps: Float64Array }[];
}

/** Of the last ratio that was asked for: streams ask block by block. */
let known: Places | null = null;

/** Null where the ratio is not one of small whole numbers, as those of the usual rates are. */
function placesOf(ratio: number): Places | null {
  if (known?.ratio === ratio) return known;
  const { reach, valueAt } = kernelOf(ratio);
  const most = Math.min(MOST_PLACES, MOST_WEIGHTS / (2 * reach));
  for (let count = 1; count <= most; count++) {
    const step = Math.round(count / ratio);
    if (Math.abs(step * ratio - count) > 1e-12 * count) continue;
    const weights = Array.from({ length: count }, (_, place) => {
      const at = place / ratio - Math.floor(place / ratio);
      const first = Math.ceil(at - reach);
      const taps = Float64Array.from({ length: Math.floor(at + reach) - first + 1 }, (_, k) => valueAt(first + k - at));
      return { first, taps };
    });
    known = { ratio, step, weights };
    return known;
  }
  return null;
}

/** Downward the kernel is stretched, so that it filters too; a little below half the new rate. */
function kernelOf(ratio: number): { scale: number; reach: number; valueAt: (samples: number) => number } {
  const scale = Math.min(1, ratio) * 0.97;
  const reach = CROSSINGS / scale;
  const valueAt = (samples: number): number => {
    const x = Math.PI * samples;
    return (Math.abs(x) < 1e-9 ? scale : Math.sin(scale * x) / x) * (0.5 + 0.5 * Math.cos(x / reach));
  };
  return { scale, reach, valueAt };
}

/**
 * Band-limited interpolation (Whittaker-Shannon series under a Hann window; J. O. Smith, "Digital Audio
 * Resampling"). Output sample n stands at input time n / ratio; what lies beyond the ends is silence.
 * @param ratio output rate over input rate
 */
export function resampled(samples: Float64Array, ratio: number): Float64Array {
  if (ratio === 1) return samples.slice();
  const places = placesOf(ratio);
  return places ? atPlaces(samples, places) : anywhere(samples, ratio);
}

function atPlaces(samples: Float64Array, { ratio, step, weights }: Places): Float64Array {
  const out = new Float64Array(Math.floor(samples.length * ratio));
  const starts = weights.map((_, place) => Math.floor(place / ratio));
  for (let n = 0, turn = 0; n < out.length; turn += step) {
    for (let place = 0; place < weights.length && n < out.length; place++, n++) {
      const { first, taps } = weights[place];
      const from = turn + starts[place] + first;
      const begin = Math.max(0, -from);
      const end = Math.min(taps.length, samples.length - from);
      let sum = 0;
      for (let k = begin; k < end; k++) sum += samples[from + k] * taps[k];
      out[n] = sum;
    }
  }
  return out;
}

function anywhere(samples: Float64Array, ratio: number): Float64Array {
  const { scale, reach } = kernelOf(ratio);
  const [ds, dc] = [Math.sin(Math.PI * scale), Math.cos(Math.PI * scale)];
  const [dv, dw] = [Math.sin(Math.PI / reach), Math.cos(Math.PI / reach)];
  const out = new Float64Array(Math.floor(samples.length * ratio));
  for (let n = 0; n < out.length; n++) {
    const at = n / ratio;
    const from = Math.max(0, Math.ceil(at - reach));
    const to = Math.min(samples.length - 1, Math.floor(at + reach));
    // sin(pi scale (k - at)) and the taper turn by constant angles from k to k + 1: rotations instead of a sine each.
    let s = Math.sin(Math.PI * scale * (from - at));
    let c = Math.cos(Math.PI * scale * (from - at));
    let v = Math.sin((Math.PI * (from - at)) / reach);
    let w = Math.cos((Math.PI * (from - at)) / reach);
    let sum = 0;
    for (let k = from; k <= to; k++) {
      const x = Math.PI * (k - at);
      sum += samples[k] * (x > -1e-9 && x < 1e-9 ? scale : s / x) * (0.5 + 0.5 * w);
      const turned = s * dc + c * ds;
      c = c * dc - s * ds;
      s = turned;
      const swung = v * dw + w * dv;
      w = w * dw - v * dv;
      v = swung;
    }
    out[n] = sum;
  }
  return out;
}

/** The same recording at another rate. */
export const atRate = (samples: Float64Array, fromHz: Hertz, toHz: Hertz): Float64Array => resampled(samples, toHz / fromHz);
