/** Short-time Fourier transform of a real signal held in memory. Streams that need powers only: spectrumEngine.ts. */
import FFT from 'fft.js';

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
export function stft(samples: Float64Array, shape: StftShape, use: (spectrum: Float64Array, frame: number) => void): number {
  const { window, hopSamples, size } = shape;
  const count = stftCount(samples.length, shape);
  const fft = new FFT(size);
  const input = new Float64Array(size);
  const output = new Float64Array(2 * size);
  for (let frame = 0; frame < count; frame++) {
    for (let n = 0; n < window.length; n++) input[n] = window[n] * samples[frame * hopSamples + n];
    fft.realTransform(output, input);
    use(output.subarray(0, size + 2), frame);
  }
  return count;
}

/** Power in bins [from, to) of a spectrum as `stft` gives it. */
export function binPower(spectrum: Float64Array, from: number, to: number): number {
  let sum = 0;
  for (let k = from; k < to; k++) sum += spectrum[2 * k] ** 2 + spectrum[2 * k + 1] ** 2;
  return sum;
}
