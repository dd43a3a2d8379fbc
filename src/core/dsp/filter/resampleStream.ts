/** A stream at another sample rate: by filtering and picking where the ratio is a whole number, else by interpolation. */
import type { Hertz } from '../../units/index.ts';
import type { Kernel } from '../kernel/kernel.ts';
import { joined } from '../stream/joined.ts';
import { type AudioStage, inRow, instantAudio } from '../stream/stage.ts';
import { FftFilter } from './fftFilter.ts';
import { lowPassTaps } from './kaiser.ts';
import { resampled } from './resample.ts';

/** Share of the new half rate that stays untouched. */
const KEPT = 0.85;

/**
 * Down by two in one complex filter at the lower rate: even samples as i, odd ones as q. With the taps' even and odd
 * ones apart, (even - j odd) * (i + j q) has the filtered and picked samples as its real part (polyphase; P. P.
 * Vaidyanathan 1993).
 */
class Halver implements AudioStage {
  readonly #filter: FftFilter;
  /** An even sample whose odd one has not come yet. */
  #left: number | null = null;

  constructor(rateHz: Hertz, kernel: Kernel | null) {
    const half = rateHz / 4;
    const taps = lowPassTaps(rateHz, half, 2 * (1 - KEPT) * half);
    const middle = (taps.length - 1) / 2;
    const reach = Math.ceil((middle + 1) / 2);
    const row = (shift: number, sign: number) =>
      Float64Array.from({ length: 2 * reach + 1 }, (_, n) => sign * (taps[middle + 2 * (n - reach) - shift] ?? 0));
    this.#filter = new FftFilter({ i: row(0, 1), q: row(1, -1) }, kernel);
  }

  push(block: Float64Array): Float64Array {
    const first = this.#left === null ? 0 : 1;
    const pairs = (block.length + first) >> 1;
    const [i, q] = [new Float64Array(pairs), new Float64Array(pairs)];
    if (this.#left !== null && pairs > 0) {
      i[0] = this.#left;
      q[0] = block[0];
    }
    for (let n = first, at = first; n < pairs; n++, at += 2) {
      i[n] = block[at];
      q[n] = block[at + 1];
    }
    const isOdd = (block.length + first) % 2 === 1;
    this.#left = isOdd ? (block.length > 0 ? block[block.length - 1] : this.#left) : null;
    return this.#filter.push(i, q).i;
  }

  end(): Float64Array {
    const last = this.#left === null ? new Float64Array(0) : this.push(Float64Array.of(0));
    return joined([last.slice(), this.#filter.end().i]);
  }
}

/** Down by a whole number. */
class Picker implements AudioStage {
  readonly #filter: FftFilter;
  #at = 0;

  constructor(
    rateHz: Hertz,
    readonly step: number,
    kernel: Kernel | null,
  ) {
    const half = rateHz / step / 2;
    // -6 dB in the middle of the slope, which ends where it would fold below its own begin.
    this.#filter = new FftFilter({ i: lowPassTaps(rateHz, half, 2 * (1 - KEPT) * half) }, kernel);
  }

  push(block: Float64Array): Float64Array {
    return this.#picked(this.#filter.push(block).i);
  }
  end(): Float64Array {
    return this.#picked(this.#filter.end().i);
  }

  #picked(all: Float64Array): Float64Array {
    const first = (this.step - (this.#at % this.step)) % this.step;
    this.#at += all.length;
    const out = new Float64Array(Math.max(0, Math.ceil((all.length - first) / this.step)));
    for (let n = 0; n < out.length; n++) out[n] = all[first + n * this.step];
    return out;
  }
}

/** Samples that the interpolation may look beyond a stretch; rates fall by less than four. */
const MARGIN = 256;

/** Any ratio: stretches of input with their surroundings, cut at fixed places. */
class Interpolator implements AudioStage {
  /** Samples of input and output to a stretch: both ends of it fall on output samples. So do those of its surroundings. */
  readonly #stretch: number;
  readonly #made: number;
  readonly #margin: number;
  readonly #marginMade: number;
  #held: Float64Array = new Float64Array(0);
  /** Samples of `#held` that stand before the stretch. */
  #before = 0;
  #in = 0;
  #out = 0;

  constructor(
    readonly fromHz: Hertz,
    readonly toHz: Hertz,
  ) {
    const common = greatestCommonDivisor(Math.round(fromHz), Math.round(toHz));
    const [step, made] = [fromHz / common, toHz / common];
    const times = (least: number) => Math.ceil(least / step);
    this.#stretch = step * times(8192);
    this.#made = made * times(8192);
    this.#margin = step * times(MARGIN);
    this.#marginMade = made * times(MARGIN);
  }

  push(block: Float64Array): Float64Array {
    this.#held = joined([this.#held, block]);
    this.#in += block.length;
    const parts: Float64Array[] = [];
    while (this.#held.length >= this.#before + this.#stretch + this.#margin) parts.push(this.#next());
    return joined(parts);
  }

  end(): Float64Array {
    const wanted = Math.floor((this.#in * this.toHz) / this.fromHz) - this.#out;
    const parts: Float64Array[] = [];
    for (let made = 0; made < wanted; made += this.#made) parts.push(this.#next());
    return joined(parts).subarray(0, wanted);
  }

  /** One stretch of output; its surroundings stand before and behind it, or silence. */
  #next(): Float64Array {
    const from = this.#before - this.#margin;
    const around = Float64Array.from({ length: this.#stretch + 2 * this.#margin }, (_, n) => this.#held[from + n] ?? 0);
    const out = resampled(around, this.toHz / this.fromHz).slice(this.#marginMade, this.#marginMade + this.#made);
    const drop = Math.max(0, from + this.#stretch);
    this.#held = this.#held.slice(drop);
    this.#before += this.#stretch - drop;
    this.#out += out.length;
    return out;
  }
}

const greatestCommonDivisor = (a: number, b: number): number => (b === 0 ? a : greatestCommonDivisor(b, a % b));

/** @param fromHz whole hertz, as is `toHz` */
export function resampleStream(fromHz: Hertz, toHz: Hertz, kernel: Kernel | null): AudioStage {
  const ratio = fromHz / toHz;
  if (ratio === 1) return instantAudio((block) => block);
  if (!Number.isInteger(ratio)) return new Interpolator(fromHz, toHz);
  if (ratio % 2 === 1) return new Picker(fromHz, ratio, kernel);
  const halver = new Halver(fromHz, kernel);
  return ratio === 2 ? halver : inRow([halver, resampleStream(fromHz / 2, toHz, kernel)], (a, b) => joined([a, b]));
}
