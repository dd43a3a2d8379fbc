/** Window functions for spectra. */

/**
 * Hann window, periodic form (as for spectra, not filters), `size` samples.
 * Source: F. Harris 1978: noise bandwidth 1.50 bins, scalloping 1.42 dB.
 */
export function hann(size: number): Float64Array {
  const window = new Float64Array(size);
  for (let n = 0; n < size; n++) window[n] = 0.5 - 0.5 * Math.cos((2 * Math.PI * n) / size);
  return window;
}

/** Sum of its squares: the window is a constant and a cosine, but for those of one and two samples. */
export const hannPower = (size: number): number => (size > 2 ? 0.375 * size : size - 1);
