/** Fourier transforms of whole recordings in double precision, with their phases: correlation and deconvolution. */
import FFT from 'fft.js';
import type { Complex } from '../stream/complex.ts';

/** A spectrum of `size` bins, parts apart. */
export interface WholeSpectrum {
  readonly re: Float64Array;
  readonly im: Float64Array;
}

const cached = new Map<number, FFT>();
/** Tables of a size are pure and dear to make; the last few are kept. */
function fftOf(size: number): FFT {
  const known = cached.get(size);
  if (known) return known;
  if (cached.size > 3) cached.clear();
  const fft = new FFT(size);
  cached.set(size, fft);
  return fft;
}

function run(size: number, re: Float64Array, im: Float64Array | null, isInverse: boolean): WholeSpectrum {
  const input = new Float64Array(2 * size);
  const output = new Float64Array(2 * size);
  for (let n = 0; n < Math.min(size, re.length); n++) {
    input[2 * n] = re[n];
    if (im) input[2 * n + 1] = im[n];
  }
  const fft = fftOf(size);
  if (isInverse) fft.inverseTransform(output, input);
  else fft.transform(output, input);
  const spectrum = { re: new Float64Array(size), im: new Float64Array(size) };
  for (let k = 0; k < size; k++) {
    spectrum.re[k] = output[2 * k];
    spectrum.im[k] = output[2 * k + 1];
  }
  return spectrum;
}

/** @param size power of two; shorter input is padded with zeros */
export const forwardTransform = (size: number, re: Float64Array, im: Float64Array | null = null): WholeSpectrum => run(size, re, im, false);

/** Back to time, complex. */
export function inverseTransform(spectrum: WholeSpectrum): Complex {
  const { re, im } = run(spectrum.re.length, spectrum.re, spectrum.im, true);
  return { i: re, q: im };
}

/** a times the conjugate of b, bin by bin. */
export function timesConjugate(a: WholeSpectrum, b: WholeSpectrum): WholeSpectrum {
  const size = a.re.length;
  const product = { re: new Float64Array(size), im: new Float64Array(size) };
  for (let k = 0; k < size; k++) {
    product.re[k] = a.re[k] * b.re[k] + a.im[k] * b.im[k];
    product.im[k] = a.im[k] * b.re[k] - a.re[k] * b.im[k];
  }
  return product;
}
