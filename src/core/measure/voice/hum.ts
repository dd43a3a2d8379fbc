/**
 * Mains hum: lines at multiples of 50 or 60 Hz that stand there through talk and pauses alike. One line is a whistle or a
 * heterodyne, not hum; a voice's own harmonics come and go.
 */
import {
  ACTIVE_RANGE_DB,
  createSpectrumEngine,
  hann,
  median,
  nextPowerOfTwo,
  percentile,
  type SpectrumEngine,
  sum,
} from '../../dsp/index.ts';
import { type Decibels, dbToPower, type Fraction, type Hertz, type Power, powerToDb } from '../../units/index.ts';

const MAINS = [50, 60] as const;
const HARMONICS = 10;
/** At least so many lines of one series (contract). */
const LEAST_LINES = 2;
const WINDOW_S = 0.2;
const HOP_S = 0.1;
/** A line stands this much over what lies between the lines, in the quiet moments. */
const LEAST_PROMINENCE_DB: Decibels = 9;
/** Moments that count as quiet. */
const QUIET: Fraction = 0.4;
/** In quiet moments a steady line stays within this, from the 10th to the 90th percentile. */
const MOST_SPREAD_DB: Decibels = 8;
/** In all but a tenth of the moments with talk the line is still there, less this. */
const MOST_DIP_DB: Decibels = 8;
const LEAST_MOMENTS = 8;

/** Mains hum: its frequency and level re speech. */
export interface Hum {
  readonly mainsHz: 50 | 60;
  /** Power of all its lines together. */
  readonly power: Power;
  readonly lines: readonly Hertz[];
}

interface Line {
  readonly mainsHz: 50 | 60;
  readonly hz: Hertz;
  /** Power of the line, and beside it, from moment to moment. */
  readonly powers: Power[];
  readonly aside: Power[];
}

/** Feeds on the low band of a recording. */
export class HumMeter {
  readonly #engine: SpectrumEngine;
  readonly #size: number;
  readonly #window: number;
  readonly #hop: number;
  readonly #binHz: Hertz;
  /** A sine of power p shows a peak bin of p times this. */
  readonly #lineScale: number;
  readonly #lines: readonly Line[];
  readonly #totals: Power[] = [];
  #filled = 0;

  constructor(sampleRateHz: Hertz) {
    this.#window = Math.round(WINDOW_S * sampleRateHz);
    this.#hop = Math.round(HOP_S * sampleRateHz);
    this.#size = Math.max(32, nextPowerOfTwo(2 * this.#window));
    this.#binHz = sampleRateHz / this.#size;
    const taper = hann(this.#window);
    const padded = new Float64Array(this.#size);
    padded.set(taper);
    this.#lineScale = sum(taper) ** 2 / 2;
    this.#engine = createSpectrumEngine({ size: this.#size, isComplex: false, averages: 1, window: padded });
    this.#lines = MAINS.flatMap((mainsHz) =>
      Array.from({ length: HARMONICS }, (_, n) => (n + 1) * mainsHz)
        .filter((hz) => hz + mainsHz / 2 < 0.45 * sampleRateHz)
        .map((hz) => ({ mainsHz, hz, powers: [], aside: [] })),
    );
  }

  push(low: Float64Array): void {
    for (let read = 0; read < low.length; ) {
      const input = this.#engine.input();
      const take = Math.min(low.length - read, this.#window - this.#filled);
      input.set(low.subarray(read, read + take), this.#filled);
      this.#filled += take;
      read += take;
      if (this.#filled < this.#window) continue;
      this.#moment();
      input.copyWithin(0, this.#hop, this.#window);
      this.#filled = this.#window - this.#hop;
    }
  }

  #moment(): void {
    this.#engine.transform(0);
    const powers = this.#engine.powers();
    const at = (hz: Hertz): Power => {
      const k = Math.floor(hz / this.#binHz);
      return Math.max(powers[k] ?? 0, powers[k + 1] ?? 0) / this.#lineScale;
    };
    let total = 0;
    for (let k = 1; k < powers.length; k++) total += powers[k];
    this.#totals.push(total);
    for (const { mainsHz, hz, powers: line, aside } of this.#lines) {
      line.push(at(hz));
      aside.push(median([-0.5, -0.35, 0.35, 0.5].map((part) => at(hz + part * mainsHz))));
    }
  }

  /** Moments from the first to the last with talk: before and after them the transmitter may be off. */
  #betweenWords(): number[] {
    const loudest = this.#totals.reduce((most, total) => Math.max(most, total), 0);
    const isTalk = (total: Power) => total >= loudest * dbToPower(-ACTIVE_RANGE_DB);
    const [first, last] = [this.#totals.findIndex(isTalk), this.#totals.findLastIndex(isTalk)];
    return [...this.#totals.keys()].filter((n) => n > first && n < last && this.#totals[n] > 0);
  }

  /** The stronger of the two hums; null when neither has two steady lines. */
  result(): Hum | null {
    const heard = this.#betweenWords().sort((a, b) => this.#totals[a] - this.#totals[b]);
    if (heard.length < LEAST_MOMENTS) return null;
    const cut = Math.max(LEAST_MOMENTS / 2, Math.floor(QUIET * heard.length));
    const [quiet, loud] = [heard.slice(0, cut), heard.slice(cut)];
    const hums = MAINS.map((mainsHz): Hum => {
      const lines = this.#lines.filter((line) => line.mainsHz === mainsHz && isSteady(line, quiet, loud));
      return { mainsHz, lines: lines.map(({ hz }) => hz), power: sum(lines.map(({ powers }) => median(quiet.map((n) => powers[n])))) };
    }).filter(({ lines }) => lines.length >= LEAST_LINES);
    // 300 Hz and 600 Hz belong to both; a tie goes to the one with more lines.
    return hums.sort((a, b) => b.lines.length - a.lines.length || b.power - a.power)[0] ?? null;
  }
}

function isSteady({ powers, aside }: Line, quiet: readonly number[], loud: readonly number[]): boolean {
  const inQuiet = quiet.map((n) => powers[n]);
  const line = median(inQuiet);
  const over = powerToDb(line / Math.max(median(quiet.map((n) => aside[n])), Number.MIN_VALUE));
  if (!(line > 0) || over < LEAST_PROMINENCE_DB) return false;
  if (powerToDb(percentile(inQuiet, 90) / Math.max(percentile(inQuiet, 10), Number.MIN_VALUE)) > MOST_SPREAD_DB) return false;
  const inTalk = loud.map((n) => powers[n]);
  return inTalk.length === 0 || powerToDb(percentile(inTalk, 10) / line) > -MOST_DIP_DB;
}
