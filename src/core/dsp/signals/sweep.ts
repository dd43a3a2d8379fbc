/** Tones that move: exponential sweeps (A. Farina, AES 2000) and linear chirps. */
import type { Hertz, Seconds } from '../../units/index.ts';

/** An exponential sweep: from, to, in so many seconds. */
export interface Sweep {
  readonly lowHz: Hertz;
  readonly highHz: Hertz;
  readonly seconds: Seconds;
}

/** Time in which the frequency grows by e: a harmonic of order n arrives this times ln n ahead of the linear response. */
export const growthSeconds = ({ lowHz, highHz, seconds }: Sweep): Seconds => seconds / Math.log(highHz / lowHz);

/** Raised-cosine fades at both ends. */
function faded(samples: Float64Array, edge: number): Float64Array {
  return samples.map((x, n) => {
    const from = Math.min(n, samples.length - 1 - n);
    return from >= edge ? x : x * (0.5 - 0.5 * Math.cos((Math.PI * from) / edge));
  });
}

/** Exponential sweep of magnitude 1 with fades of `fadeSeconds`. */
export function exponentialSweep(sweep: Sweep, rateHz: Hertz, fadeSeconds: Seconds): Float64Array {
  const growth = growthSeconds(sweep);
  const samples = Float64Array.from({ length: Math.round(sweep.seconds * rateHz) }, (_, n) =>
    Math.sin(2 * Math.PI * sweep.lowHz * growth * (Math.exp(n / rateHz / growth) - 1)),
  );
  return faded(samples, Math.round(fadeSeconds * rateHz));
}

/** Linear chirp of magnitude 1; `lowHz` may be the higher one, then it falls. */
export function linearChirp({ lowHz, highHz, seconds }: Sweep, rateHz: Hertz, fadeSeconds: Seconds): Float64Array {
  const slope = (highHz - lowHz) / seconds;
  const samples = Float64Array.from({ length: Math.round(seconds * rateHz) }, (_, n) => {
    const t = n / rateHz;
    return Math.sin(2 * Math.PI * (lowHz * t + (slope * t * t) / 2));
  });
  return faded(samples, Math.round(fadeSeconds * rateHz));
}
