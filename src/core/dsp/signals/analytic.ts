/** The analytic signal: the same audio without its negative frequencies. */
import FFT from 'fft.js';
import { nextPowerOfTwo } from '../spectrum/spectrum.ts';
import type { Complex } from '../stream/complex.ts';

/**
 * Analytic signal of a whole recording in memory: i is the recording itself, q its Hilbert transform.
 * By FFT of the padded whole, so exact for what is there; short recordings only (some minutes).
 */
export function analytic(samples: Float64Array): Complex {
  const size = nextPowerOfTwo(Math.max(4, 2 * samples.length));
  const fft = new FFT(size);
  const padded = new Float64Array(size);
  padded.set(samples);
  // Plain arrays of the package are slow at such sizes; it takes typed ones as well.
  const spectrum = new Float64Array(2 * size);
  fft.realTransform(spectrum, padded);
  for (let k = 1; k < size / 2; k++) {
    spectrum[2 * k] *= 2;
    spectrum[2 * k + 1] *= 2;
  }
  // realTransform fills the lower half only; what it leaves above is cleared.
  for (let k = size / 2 + 1; k < size; k++) {
    spectrum[2 * k] = 0;
    spectrum[2 * k + 1] = 0;
  }
  const back = new Float64Array(2 * size);
  fft.inverseTransform(back, spectrum);
  const parts = { i: new Float64Array(samples.length), q: new Float64Array(samples.length) };
  for (let n = 0; n < samples.length; n++) {
    parts.i[n] = back[2 * n];
    parts.q[n] = back[2 * n + 1];
  }
  return parts;
}
