/** Averaged power spectra: Hann windows, half overlapped, each window with a weight of its own. */
import { createPowerTransform, nextPowerOfTwo } from './fft.ts';
import type { Hertz, Power } from './units.ts';
import { hann } from './window.ts';

/** A one-sided power spectrum: `density[k]` in power per hertz at `k * binHz`. */
export interface Spectrum {
  readonly binHz: Hertz;
  readonly density: Float64Array;
}

/** Says how much the window over samples [start, start + length) counts in each of the averages. */
export type WindowWeights = (start: number, length: number) => readonly number[];

/** FFT size whose bins are at most `widestBinHz` wide. */
export const fftSizeFor = (sampleRateHz: Hertz, widestBinHz: Hertz): number => nextPowerOfTwo(sampleRateHz / widestBinHz);

/**
 * Welch's method over a stream, for several weighted averages at once (for example speech and pauses).
 * Scaling as scipy.signal.welch(scaling='density', detrend=False). Feed samples with `push`; a stream
 * shorter than one window gets a window of its own length, padded with zeros.
 */
export class SpectrumAverager {
  readonly #size: number;
  readonly #buffer: Float64Array;
  readonly #windowed: Float64Array;
  readonly #powers: Float64Array;
  readonly #window: Float64Array;
  readonly #transform;
  readonly #sums: Float64Array[];
  readonly #weights: number[];
  #filled = 0;
  #start = 0;
  #windows = 0;

  /**
   * @param sampleRateHz rate of the stream
   * @param size         window length in samples, a power of two
   * @param averages     how many averages to keep
   * @param weigh        the weights of a window, one per average; 0 leaves the window out
   */
  constructor(
    readonly sampleRateHz: Hertz,
    size: number,
    averages: number,
    readonly weigh: WindowWeights,
  ) {
    this.#size = size;
    this.#buffer = new Float64Array(size);
    this.#windowed = new Float64Array(size);
    this.#powers = new Float64Array(size / 2 + 1);
    this.#window = hann(size);
    this.#transform = createPowerTransform(size);
    this.#sums = Array.from({ length: averages }, () => new Float64Array(size / 2 + 1));
    this.#weights = new Array(averages).fill(0);
  }

  push(block: Float64Array): void {
    let read = 0;
    while (read < block.length) {
      const take = Math.min(block.length - read, this.#size - this.#filled);
      this.#buffer.set(block.subarray(read, read + take), this.#filled);
      this.#filled += take;
      read += take;
      if (this.#filled === this.#size) {
        this.#transformWindow(this.#size);
        const hop = this.#size / 2;
        this.#buffer.copyWithin(0, hop);
        this.#filled = hop;
        this.#start += hop;
      }
    }
  }

  /** The averages so far; null where no window had any weight. */
  result(): (Spectrum | null)[] {
    if (this.#windows === 0 && this.#filled > 0) {
      this.#buffer.fill(0, this.#filled);
      this.#transformWindow(this.#filled);
    }
    const binHz = this.sampleRateHz / this.#size;
    return this.#sums.map((sum, i) => (this.#weights[i] === 0 ? null : { binHz, density: sum.map((value) => value / this.#weights[i]) }));
  }

  #transformWindow(length: number): void {
    this.#windows++;
    const weights = this.weigh(this.#start, length);
    if (weights.every((weight) => weight === 0)) return;
    const taper = length === this.#size ? this.#window : hann(length);
    let windowPower = 0;
    for (let n = 0; n < this.#size; n++) {
      const weight = taper[n] ?? 0;
      this.#windowed[n] = this.#buffer[n] * weight;
      windowPower += weight * weight;
    }
    // A single sample has no spectrum.
    if (windowPower === 0) return;
    this.#transform.powers(this.#windowed, this.#powers);
    const scale = 1 / (this.sampleRateHz * windowPower);
    const last = this.#size / 2;
    weights.forEach((weight, i) => {
      if (weight === 0) return;
      this.#weights[i] += weight;
      const sum = this.#sums[i];
      for (let k = 0; k <= last; k++) {
        const oneSided = k === 0 || k === last ? 1 : 2;
        sum[k] += weight * oneSided * scale * this.#powers[k];
      }
    });
  }
}

/**
 * Power between two frequencies. Bin k reaches from (k - 1/2) to (k + 1/2) bins; edge bins count in proportion.
 * @returns power (mean square), 0 for an empty or upside-down range
 */
export function bandPower(spectrum: Spectrum, lowHz: Hertz, highHz: Hertz): Power {
  const { binHz, density } = spectrum;
  const low = Math.max(0, lowHz / binHz + 0.5);
  const high = Math.min(density.length, highHz / binHz + 0.5);
  let power = 0;
  for (let k = Math.floor(low); k < high; k++) {
    power += density[k] * Math.max(0, Math.min(k + 1, high) - Math.max(k, low));
  }
  return power * binHz;
}

/** Highest frequency that the spectrum holds. */
export const nyquistHz = (spectrum: Spectrum): Hertz => (spectrum.density.length - 1) * spectrum.binHz;
