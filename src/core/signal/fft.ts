/**
 * The one door to a fast Fourier transform. Everything else asks for a `PowerTransform` and does not
 * know which kernel runs inside (now: the fft.js package, double precision).
 */
import FFT from 'fft.js';

/** Turns `size` real samples into the `size / 2 + 1` squared magnitudes of their spectrum. */
export interface PowerTransform {
  readonly size: number;
  /**
   * @param samples `size` samples, already windowed
   * @param powers  receives |X[k]|^2 for k = 0 .. size / 2, unscaled
   */
  powers(samples: Float64Array, powers: Float64Array): void;
}

/** @param size a power of two, at least 2; @throws RangeError otherwise */
export function createPowerTransform(size: number): PowerTransform {
  if (size < 2 || (size & (size - 1)) !== 0) throw new RangeError(`FFT size ${size} is not a power of two`);
  const kernel = new FFT(size);
  const spectrum = new Float64Array(2 * size);
  return {
    size,
    powers(samples, powers) {
      kernel.realTransform(spectrum, samples);
      for (let k = 0; k <= size / 2; k++) {
        const re = spectrum[2 * k];
        const im = spectrum[2 * k + 1];
        powers[k] = re * re + im * im;
      }
    },
  };
}

/** The smallest power of two that is at least `least`. */
export const nextPowerOfTwo = (least: number): number => 2 ** Math.max(1, Math.ceil(Math.log2(least)));
