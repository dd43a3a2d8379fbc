/** Another sample rate by any ratio, for recordings in memory. */
import type { Hertz } from '../../units/index.ts';

/** Zero crossings of the kernel on each side; with the Hann taper the stop band is under -60 dB from 1.1 times the corner. */
const CROSSINGS = 32;

/**
 * Band-limited interpolation (Whittaker-Shannon series under a Hann window; J. O. Smith, "Digital Audio
 * Resampling"). Output sample n stands at input time n / ratio; what lies beyond the ends is silence.
 * @param ratio output rate over input rate
 */
export function resampled(samples: Float64Array, ratio: number): Float64Array {
  if (ratio === 1) return samples.slice();
  // Downward the kernel is stretched, so that it filters too; a little below half the new rate.
  const scale = Math.min(1, ratio) * 0.97;
  const reach = CROSSINGS / scale;
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
