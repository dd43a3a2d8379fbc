/** Spectra of a stream of pairs in equal stretches of time: their mean, and the highest and lowest of every bin. */
import type { Hertz, Seconds } from '../../units/index.ts';
import type { Kernel } from '../kernel/kernel.ts';
import { fftSizeFor, type Spectrum } from './spectrum.ts';
import { createSpectrumEngine, type SpectrumEngine } from './spectrumEngine.ts';
import { hannPower } from './window.ts';

/** Rate, resolution and how long a piece is. */
export interface SteadySpectraShape {
  readonly sampleRateHz: Hertz;
  readonly widestBinHz: Hertz;
  /** Length of a stretch; a signal must last about twice as long to show at its full power in `highest`. */
  readonly stretchS: Seconds;
}

/** A stretch of so many windows is told well by half of them. */
const MANY_WINDOWS = 40;

/** Results are densities, power per hertz, from minus to plus half the rate; null where no window was filled. */
export class SteadySpectra {
  readonly #size: number;
  readonly #engine: SpectrumEngine;
  readonly #windowsAStretch: number;
  readonly #scale: number;
  readonly #mean: Float64Array;
  readonly #highest: Float64Array;
  readonly #lowest: Float64Array;
  /** Values between two windows, and how many of them are still to come. */
  readonly #gap: number;
  #toSkip = 0;
  #filled = 0;
  #windows = 0;
  #total = 0;

  constructor(
    readonly shape: SteadySpectraShape,
    kernel: Kernel,
  ) {
    const { sampleRateHz, widestBinHz, stretchS } = shape;
    this.#size = fftSizeFor(sampleRateHz, widestBinHz);
    this.#engine = createSpectrumEngine({ size: this.#size, isComplex: true, averages: 1 }, kernel);
    const windows = (stretchS * sampleRateHz) / this.#size;
    const every = windows >= MANY_WINDOWS ? 2 : 1;
    this.#gap = 2 * this.#size * (every - 1);
    this.#windowsAStretch = Math.max(1, Math.round(windows / every));
    this.#scale = 1 / (sampleRateHz * hannPower(this.#size));
    this.#mean = new Float64Array(this.#size);
    this.#highest = new Float64Array(this.#size);
    this.#lowest = new Float64Array(this.#size).fill(Infinity);
  }

  /** Takes interleaved pairs. Windows do not overlap, and of many every second is enough: what is looked for is long, and the spectra serve as a map. */
  push(pairs: Float32Array): void {
    for (let read = 0; read < pairs.length; ) {
      if (this.#toSkip > 0) {
        const skipped = Math.min(this.#toSkip, pairs.length - read);
        this.#toSkip -= skipped;
        read += skipped;
        continue;
      }
      const take = Math.min(pairs.length - read, 2 * this.#size - this.#filled);
      this.#engine.input().set(pairs.subarray(read, read + take), this.#filled);
      this.#filled += take;
      read += take;
      if (this.#filled < 2 * this.#size) continue;
      this.#filled = 0;
      this.#toSkip = this.#gap;
      this.#engine.transform(0);
      this.#engine.add(0, 1);
      if (++this.#windows === this.#windowsAStretch) this.#endStretch();
    }
  }

  result(): { mean: Spectrum; highest: Spectrum; lowest: Spectrum } | null {
    if (this.#total === 0 && this.#windows > 0) this.#endStretch();
    if (this.#total === 0) return null;
    const binHz = this.shape.sampleRateHz / this.#size;
    const ordered = (values: Float64Array, factor: number): Spectrum => ({
      binHz,
      firstHz: -this.shape.sampleRateHz / 2,
      density: values.map((_, k) => values[(k + this.#size / 2) % this.#size] * this.#scale * factor),
    });
    return { mean: ordered(this.#mean, 1 / this.#total), highest: ordered(this.#highest, 1), lowest: ordered(this.#lowest, 1) };
  }

  #endStretch(): void {
    const sum = this.#engine.sum(0);
    for (let k = 0; k < this.#size; k++) {
      const power = sum[k] / this.#windows;
      this.#mean[k] += sum[k];
      if (power > this.#highest[k]) this.#highest[k] = power;
      if (power < this.#lowest[k]) this.#lowest[k] = power;
    }
    this.#total += this.#windows;
    sum.fill(0);
    this.#windows = 0;
  }
}
