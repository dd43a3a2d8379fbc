/** Averaged power spectra: Hann windows, half overlapped, each window with a weight of its own. */
import type { Hertz, Power } from '../../units/index.ts';
import { createKernel, type Kernel } from '../kernel/kernel.ts';
import { createSpectrumEngine, type SpectrumEngine } from './spectrumEngine.ts';
import { hannPower } from './window.ts';

/** A power spectrum: `density[k]` in power per hertz at `firstHz + k * binHz`; `firstHz` is 0 for real signals. */
export interface Spectrum {
  readonly binHz: Hertz;
  readonly firstHz: Hertz;
  readonly density: Float64Array;
}

/** Says how much the window over samples [start, start + length) counts in each of the averages. */
export type WindowWeights = (start: number, length: number) => readonly number[];

/** The smallest power of two that is at least `least`. */
export const nextPowerOfTwo = (least: number): number => 2 ** Math.max(1, Math.ceil(Math.log2(least)));

/** FFT size whose bins are at most `widestBinHz` wide. */
export const fftSizeFor = (sampleRateHz: Hertz, widestBinHz: Hertz): number => Math.max(32, nextPowerOfTwo(sampleRateHz / widestBinHz));

/** What an averager takes: rate, size or resolution, weights. */
export interface AveragerShape {
  readonly sampleRateHz: Hertz;
  /** Window length in samples, a power of two from 32. */
  readonly size: number;
  /** How many averages to keep. */
  readonly averages: number;
  /** The weights of a window, one per average; 0 leaves the window out. */
  readonly weigh: WindowWeights;
  /** The stream is interleaved I and Q; the spectrum then runs from minus to plus half the rate. */
  readonly isComplex?: boolean;
  /** Keeps the highest of every bin over the windows that count in the first average. */
  readonly holdsHighest?: boolean;
  /** The kernel to work in; one of its own when left out. */
  readonly kernel?: Kernel;
}

/**
 * Welch's method over a stream, for several weighted averages at once (for example speech and pauses).
 * Scaling as scipy.signal.welch(scaling='density', detrend=False). Feed samples with `push`; a stream
 * shorter than one window gets a window of its own length, padded with zeros.
 */
export class SpectrumAverager {
  readonly #engine: SpectrumEngine;
  readonly #weights: number[];
  /** Values of one sample in the stream: 1, or 2 for I and Q. */
  readonly #width: 1 | 2;
  #windowPower: number;
  /** Samples in the engine's room, and where the next window begins among them. */
  #filled = 0;
  #next = 0;
  /** Where that window begins in the stream. */
  #start = 0;
  #windows = 0;
  #held = 0;

  constructor(readonly shape: AveragerShape) {
    const { size, averages, isComplex = false, kernel } = shape;
    this.#width = isComplex ? 2 : 1;
    this.#windowPower = hannPower(size);
    this.#weights = new Array(averages).fill(0);
    this.#engine = createSpectrumEngine({ size, isComplex, averages }, kernel ?? createKernel());
  }

  /** Takes samples, or interleaved pairs when complex. */
  push(block: Float64Array | Float32Array): void {
    const { size } = this.shape;
    const width = this.#width;
    for (let read = 0; read < block.length; ) {
      const room = this.#engine.input();
      const take = Math.min(block.length - read, room.length - this.#filled * width);
      room.set(block.subarray(read, read + take), this.#filled * width);
      this.#filled += take / width;
      read += take;
      while (this.#filled - this.#next >= size) {
        this.#transformWindow(size);
        this.#next += size / 2;
        this.#start += size / 2;
      }
      if (this.#filled * width < room.length) continue;
      room.copyWithin(0, this.#next * width, this.#filled * width);
      this.#filled -= this.#next;
      this.#next = 0;
    }
  }

  /** The averages so far; null where no window had any weight. */
  result(): (Spectrum | null)[] {
    if (this.#windows === 0 && this.#filled > 0) this.#transformShort();
    return this.#weights.map((weight, i) => (weight === 0 ? null : this.#spectrum(this.#engine.sum(i), 1 / weight)));
  }

  /** The highest of every bin, as density; null when nothing was held. */
  highest(): Spectrum | null {
    return this.#held === 0 ? null : this.#spectrum(this.#engine.highest(), 1);
  }

  #transformShort(): void {
    const { size } = this.shape;
    const length = this.#filled;
    // A single sample has no spectrum.
    if (length < 2) return;
    this.#engine.input().fill(0, this.#filled * this.#width, size * this.#width);
    this.#windowPower = hannPower(length);
    this.#engine.setHann(length);
    this.#transformWindow(length);
  }

  #transformWindow(length: number): void {
    this.#windows++;
    const weights = this.shape.weigh(this.#start, length);
    if (weights.every((weight) => weight === 0)) return;
    this.#engine.transform(this.#next);
    weights.forEach((weight, i) => {
      if (weight === 0) return;
      this.#weights[i] += weight;
      this.#engine.add(i, weight);
    });
    if (!this.shape.holdsHighest || weights[0] === 0) return;
    this.#held++;
    this.#engine.hold();
  }

  #spectrum(sums: Float64Array | Float32Array, factor: number): Spectrum {
    const { size, sampleRateHz, isComplex } = this.shape;
    const scale = factor / (sampleRateHz * this.#windowPower);
    const binHz = sampleRateHz / size;
    if (isComplex) {
      // Bin size / 2 is both ends; it is given to the lower one.
      const density = new Float64Array(size);
      for (let k = 0; k < size; k++) density[k] = sums[(k + size / 2) % size] * scale;
      return { binHz, firstHz: -sampleRateHz / 2, density };
    }
    const last = size / 2;
    const density = new Float64Array(sums.length);
    for (let k = 0; k < density.length; k++) density[k] = sums[k] * scale * (k === 0 || k === last ? 1 : 2);
    return { binHz, firstHz: 0, density };
  }
}

/**
 * Power between two frequencies. Bin k reaches from (k - 1/2) to (k + 1/2) bins; edge bins count in proportion.
 * @returns power (mean square), 0 for an empty or upside-down range
 */
export function bandPower({ binHz, firstHz, density }: Spectrum, lowHz: Hertz, highHz: Hertz): Power {
  const low = Math.max(0, (lowHz - firstHz) / binHz + 0.5);
  const high = Math.min(density.length, (highHz - firstHz) / binHz + 0.5);
  if (!(high > low)) return 0;
  const [first, last] = [Math.floor(low), Math.ceil(high) - 1];
  if (first === last) return density[first] * (high - low) * binHz;
  let power = density[first] * (first + 1 - low) + density[last] * (high - last);
  for (let k = first + 1; k < last; k++) power += density[k];
  return power * binHz;
}

/** Highest frequency that the spectrum holds. */
export const highestHz = ({ binHz, firstHz, density }: Spectrum): Hertz => firstHz + (density.length - 1) * binHz;
