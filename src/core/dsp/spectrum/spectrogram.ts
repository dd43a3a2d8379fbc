/** A spectrogram as a picture: levels over time and frequency, in steps of half a decibel. */
import { type Decibels, type Hertz, powerToDb, type Seconds } from '../../units/index.ts';
import type { Kernel } from '../kernel/kernel.ts';
import { createSpectrumEngine, type SpectrumEngine } from './spectrumEngine.ts';

/** Levels over time and frequency, a byte each: steps under the strongest. */
export interface Spectrogram {
  readonly columns: number;
  readonly rows: number;
  /** Levels under the strongest in half decibels, 0 the strongest, 255 nothing; column by column, low frequencies first. */
  readonly levels: Uint8Array;
  readonly seconds: Seconds;
  readonly lowHz: Hertz;
  readonly highHz: Hertz;
}

/** A column is the mean of the windows that fall into it; each window is this long. */
const WINDOW_SECONDS: Seconds = 0.032;
const STEP_DB: Decibels = 0.5;

/** Builds a picture of a real recording, or of I and Q about 0 Hz, in one pass. */
export class SpectrogramBuilder {
  readonly #engine: SpectrumEngine;
  readonly #size: number;
  readonly #hop: number;
  readonly #first: number;
  readonly #powers: Float64Array;
  readonly #counts: Float64Array;
  readonly #held: Float32Array;
  #filled = 0;
  #windows = 0;

  constructor(
    readonly sampleRateHz: Hertz,
    readonly isComplex: boolean,
    readonly range: readonly [Hertz, Hertz],
    /** Length of what comes. */
    readonly seconds: Seconds,
    readonly columns: number,
    kernel?: Kernel,
  ) {
    this.#size = 2 ** Math.max(5, Math.round(Math.log2(sampleRateHz * WINDOW_SECONDS)));
    // At least one window to a column.
    this.#hop = Math.max(1, Math.min(this.#size / 2, Math.floor((seconds * sampleRateHz) / columns)));
    this.#engine = createSpectrumEngine({ size: this.#size, isComplex, averages: 0 }, ...(kernel ? [kernel] : []));
    const binHz = sampleRateHz / this.#size;
    this.#first = Math.round(range[0] / binHz);
    const rows = Math.max(1, Math.round(range[1] / binHz) - this.#first);
    this.#powers = new Float64Array(columns * rows);
    this.#counts = new Float64Array(columns);
    this.#held = new Float32Array(this.#size * (isComplex ? 2 : 1));
  }

  get rows(): number {
    return this.#powers.length / this.columns;
  }

  /** Takes samples, or interleaved pairs when complex. */
  push(block: Float32Array | Float64Array): void {
    const hop = this.#hop * (this.isComplex ? 2 : 1);
    for (let read = 0; read < block.length; ) {
      const take = Math.min(block.length - read, this.#held.length - this.#filled);
      this.#held.set(block.subarray(read, read + take), this.#filled);
      this.#filled += take;
      read += take;
      if (this.#filled < this.#held.length) continue;
      this.#addWindow();
      this.#held.copyWithin(0, hop);
      this.#filled -= hop;
    }
  }

  #addWindow(): void {
    const at = (this.#windows++ * this.#hop + this.#size / 2) / this.sampleRateHz;
    const column = Math.min(this.columns - 1, Math.floor((at / this.seconds) * this.columns));
    this.#engine.input().set(this.#held);
    this.#engine.transform(0);
    const powers = this.#engine.powers();
    const rows = this.rows;
    for (let r = 0; r < rows; r++) this.#powers[column * rows + r] += powers[(this.#first + r + powers.length) % powers.length];
    this.#counts[column]++;
  }

  result(): Spectrogram {
    const rows = this.rows;
    const mean = this.#powers.map((power, k) => power / Math.max(1, this.#counts[Math.floor(k / rows)]));
    const top = mean.reduce((most, power) => Math.max(most, power), 0);
    const levels = Uint8Array.from(mean, (power) =>
      top === 0 || power <= 0 ? 255 : Math.min(255, Math.round(-powerToDb(power / top) / STEP_DB)),
    );
    return { columns: this.columns, rows, levels, seconds: this.seconds, lowHz: this.range[0], highHz: this.range[1] };
  }
}
