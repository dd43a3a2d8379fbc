/**
 * Mains hum: lines at multiples of 50 or 60 Hz that stand there through talk and pauses alike. One line is a whistle or a
 * heterodyne, not hum; a voice's own harmonics come and go.
 */
import {
  ACTIVE_RANGE_DB,
  type Kernel,
  type KernelArray,
  median,
  nextPowerOfTwo,
  percentile,
  Room,
  type SamplesAt,
  sum,
} from '../../dsp/index.ts';
import { type Decibels, dbToPower, type Fraction, type Hertz, type Power, powerToDb } from '../../units/index.ts';
import { WindowSpectrum } from '../frameWindows.ts';

const MAINS = [50, 60] as const;
const HARMONICS = 10;
/** At least so many lines of one series (contract). */
const LEAST_LINES = 2;
const WINDOW_S = 0.2;
const HOP_S = 0.1;
/** Steady lines need not be looked at so often once so many moments are known. */
const CLOSE_MOMENTS = 600;
const LATER_HOP_S = 0.5;
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
}

/** Places beside a line, in parts of the mains frequency. */
const ASIDE = [-0.5, -0.35, 0.35, 0.5];

/** Feeds on the low band of a recording. */
export class HumMeter {
  readonly #spectrum: WindowSpectrum;
  readonly #buffer: Room;
  readonly #window: number;
  /** A sine of power p shows a peak bin of p times this. */
  readonly #lineScale: number;
  readonly #lines: readonly Line[];
  /** First of the two bins that each line, and each of the places beside it, lies between. */
  readonly #bins: KernelArray;
  /** What is found there, moment after moment: of each line its power and that beside it. */
  readonly #found: Room;
  readonly #totals: Power[] = [];
  #filled = 0;
  /** Where the next window begins in the buffer, or behind it. */
  #next = 0;

  constructor(
    readonly kernel: Kernel,
    readonly sampleRateHz: Hertz,
  ) {
    const rate = sampleRateHz;
    this.#window = Math.round(WINDOW_S * rate);
    const size = Math.max(32, nextPowerOfTwo(2 * this.#window));
    const binHz = rate / size;
    // A Hann window's sum is half its length.
    this.#lineScale = (this.#window / 2) ** 2 / 2;
    this.#spectrum = new WindowSpectrum(kernel, size, false);
    this.#buffer = new Room(kernel);
    const last = size / 2 - 1;
    const binOf = (hz: Hertz) => Math.min(last, Math.max(0, Math.floor(hz / binHz)));
    this.#lines = MAINS.flatMap((mainsHz) =>
      Array.from({ length: HARMONICS }, (_, n) => (n + 1) * mainsHz)
        .filter((hz) => hz + mainsHz / 2 < 0.45 * rate)
        .map((hz) => ({ mainsHz, hz })),
    );
    const bins = this.#lines.flatMap(({ mainsHz, hz }) => [0, ...ASIDE].map((part) => binOf(hz + part * mainsHz)));
    this.#bins = kernel.take(bins.length);
    kernel.integers(this.#bins).set(bins);
    this.#found = new Room(kernel);
  }

  push({ address, count }: SamplesAt): void {
    const { run } = this.kernel;
    // What is read behind a window counts nothing, but must be there.
    const room = this.#buffer.forValues(this.#filled + count + this.#spectrum.size, this.#filled);
    run.move(room + 4 * this.#filled, address, 4 * count);
    this.#filled += count;
    while (this.#filled - this.#next >= this.#window) {
      this.#moment(room + 4 * this.#next);
      this.#next += Math.round((this.#totals.length < CLOSE_MOMENTS ? HOP_S : LATER_HOP_S) * this.sampleRateHz);
    }
    const dropped = Math.min(this.#next, this.#filled);
    this.#next -= dropped;
    this.#filled -= dropped;
    run.move(room, room + 4 * dropped, 4 * this.#filled);
  }

  #moment(address: number): void {
    const at = this.#spectrum.powersOf(address, this.#window);
    if (at === null) return;
    const values = 2 * this.#lines.length;
    const before = values * this.#totals.length;
    const found = this.#found.forValues(before + values, before) + 4 * before;
    this.kernel.run.linePowers(at, this.#bins.address, this.#lines.length, found);
    this.#totals.push(this.kernel.run.sumOf(at + 4, this.#spectrum.size / 2));
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
    const values = 2 * this.#lines.length;
    const found = this.kernel.floats({ address: this.#found.forValues(0), length: values * this.#totals.length });
    const scale = 1 / this.#lineScale;
    const powerOf = (moments: readonly number[], place: number): Float64Array => {
      const powers = new Float64Array(moments.length);
      for (let k = 0; k < moments.length; k++) powers[k] = scale * found[values * moments[k] + place];
      return powers;
    };
    const steady = this.#lines.flatMap((line, l) => {
      const [inQuiet, aside] = [powerOf(quiet, 2 * l), powerOf(quiet, 2 * l + 1)];
      const power = median(inQuiet);
      return isSteady(power, inQuiet, aside, () => powerOf(loud, 2 * l)) ? [{ ...line, power }] : [];
    });
    const hums = MAINS.map((mainsHz): Hum => {
      const lines = steady.filter((line) => line.mainsHz === mainsHz);
      return { mainsHz, lines: lines.map(({ hz }) => hz), power: sum(lines.map(({ power }) => power)) };
    }).filter(({ lines }) => lines.length >= LEAST_LINES);
    // 300 Hz and 600 Hz belong to both; a tie goes to the one with more lines.
    return hums.sort((a, b) => b.lines.length - a.lines.length || b.power - a.power)[0] ?? null;
  }
}

/** @param line median of its powers in quiet moments  @param aside what lies beside it then  @param inLoud its powers in the others */
function isSteady(line: Power, inQuiet: Float64Array, aside: Float64Array, inLoud: () => Float64Array): boolean {
  const over = powerToDb(line / Math.max(median(aside), Number.MIN_VALUE));
  if (!(line > 0) || over < LEAST_PROMINENCE_DB) return false;
  if (powerToDb(percentile(inQuiet, 90) / Math.max(percentile(inQuiet, 10), Number.MIN_VALUE)) > MOST_SPREAD_DB) return false;
  const inTalk = inLoud();
  return inTalk.length === 0 || powerToDb(percentile(inTalk, 10) / line) > -MOST_DIP_DB;
}
