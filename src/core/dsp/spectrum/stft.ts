/** Short-time Fourier transform of a real signal held in memory. Streams that need powers only: spectrumEngine.ts. */
import FFT from 'fft.js';
import { createKernel, type Kernel } from '../kernel/kernel.ts';
import { twiddles, workSize } from './spectrumEngine.ts';

/** Window, hop and transform size. */
export interface StftShape {
  /** One frame is this long; a transform longer than the window is filled up with zeros. */
  readonly window: Float64Array;
  readonly hopSamples: number;
  /** A power of two, at least the window's length. */
  readonly size: number;
}

/** Frames that lie wholly in `length` samples. */
export const stftCount = (length: number, { window, hopSamples }: StftShape): number =>
  Math.max(0, Math.floor((length - window.length) / hopSamples) + 1);

/**
 * Gives `use` each frame's spectrum: bin k (0 to size / 2) at [2k] and [2k + 1], not scaled. The array is used again.
 * @returns the number of frames
 */
export function stft(samples: Float64Array, shape: StftShape, use: Use, kernel = createKernel()): number {
  const count = stftCount(samples.length, shape);
  if (kernel && shape.size >= LEAST_SIZE) pairs(samples, shape, count, use, kernel);
  else plain(samples, shape, count, use);
  return count;
}

type Use = (spectrum: Float64Array, frame: number) => void;
/** The kernel's least transform. */
const LEAST_SIZE = 32;

function plain(samples: Float64Array, { window, hopSamples, size }: StftShape, count: number, use: Use): void {
  const fft = new FFT(size);
  const input = new Float64Array(size);
  const output = new Float64Array(2 * size);
  for (let frame = 0; frame < count; frame++) {
    for (let n = 0; n < window.length; n++) input[n] = window[n] * samples[frame * hopSamples + n];
    fft.realTransform(output, input);
    use(output.subarray(0, size + 2), frame);
  }
}

/** Two frames at once, one as the real and one as the imaginary part of what is transformed. */
function pairs(samples: Float64Array, { window, hopSamples, size }: StftShape, count: number, use: Use, kernel: Kernel): void {
  const turns = twiddles(kernel, size);
  const [at, weights, work, out] = [2 * size, 2 * size, workSize(size), 2 * size].map((n) => kernel.take(n));
  const [input, both, taper] = [at, out, weights].map((array) => kernel.floats(array));
  for (let n = 0; n < 2 * window.length; n++) taper[n] = window[n >> 1];
  const spectrum = new Float64Array(size + 2);
  for (let frame = 0; frame < count; frame += 2) {
    const first = frame * hopSamples;
    // Behind the last frame there may be none: its partner is itself.
    const second = first + (frame + 1 < count ? hopSamples : 0);
    for (let n = 0; n < window.length; n++) {
      input[2 * n] = samples[first + n];
      input[2 * n + 1] = samples[second + n];
    }
    kernel.run.complexSpectrum(size, at.address, weights.address, turns.address, work.address, out.address);
    for (let part = 0; part < 2 && frame + part < count; part++) {
      takeApart(both, size, part, spectrum);
      use(spectrum, frame + part);
    }
  }
}

/** The spectrum of the real (0) or the imaginary part (1) of what was transformed. */
function takeApart(both: Float32Array, size: number, part: number, spectrum: Float64Array): void {
  // The imaginary part's values are those of the real one, a quarter turn on.
  const own = part === 0 ? 0 : size;
  const other = size - own;
  const sign = part === 0 ? 0.5 : -0.5;
  for (let k = 0; k <= size / 2; k++) {
    const mirror = (size - k) & (size - 1);
    spectrum[2 * k] = 0.5 * (both[own + k] + both[own + mirror]);
    spectrum[2 * k + 1] = sign * (both[other + k] - both[other + mirror]);
  }
}

/** Power in bins [from, to) of a spectrum as `stft` gives it. */
export function binPower(spectrum: Float64Array, from: number, to: number): number {
  let sum = 0;
  for (let k = from; k < to; k++) sum += spectrum[2 * k] ** 2 + spectrum[2 * k + 1] ** 2;
  return sum;
}
