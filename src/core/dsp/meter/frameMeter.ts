/** Levels of 50 ms frames, and which of them are active (someone is talking). */
import { amplitudeToDb, type Decibels, dbToPower, type Hertz, type Power, type Seconds } from '../../units/index.ts';
import { percentile } from '../statistics/statistics.ts';

/** Length of the frames by which speech and pauses are told apart. */
export const FRAME_SECONDS: Seconds = 0.05;
/** A frame is active when its power is within this of the loudest frame's (contract: active part). */
export const ACTIVE_RANGE_DB: Decibels = 25;

/** Mean-square power of consecutive frames of a stream; a last, shorter frame counts only when it is the only one. */
export class FrameMeter {
  readonly frameSamples: number;
  readonly #powers: Power[] = [];
  #sum = 0;
  #filled = 0;
  #highest = 0;
  #lowest = 0;

  constructor(sampleRateHz: Hertz, frameSeconds: Seconds = FRAME_SECONDS) {
    this.frameSamples = Math.max(1, Math.round(sampleRateHz * frameSeconds));
  }

  push(block: Float64Array): void {
    let highest = this.#highest;
    let lowest = this.#lowest;
    for (let from = 0; from < block.length; ) {
      const to = Math.min(block.length, from + this.frameSamples - this.#filled);
      let sum = this.#sum;
      for (let n = from; n < to; n++) {
        const x = block[n];
        sum += x * x;
        if (x > highest) highest = x;
        else if (x < lowest) lowest = x;
      }
      this.#sum = sum;
      this.#filled += to - from;
      from = to;
      if (this.#filled < this.frameSamples) continue;
      this.#powers.push(sum / this.frameSamples);
      this.#sum = 0;
      this.#filled = 0;
    }
    this.#highest = highest;
    this.#lowest = lowest;
  }

  /** Largest sample so far, at least 0. */
  get highest(): number {
    return this.#highest;
  }
  /** Smallest sample so far, at most 0. */
  get lowest(): number {
    return this.#lowest;
  }

  result(): FrameLevels {
    const powers = this.#powers.length === 0 && this.#filled > 0 ? [this.#sum / this.#filled] : this.#powers;
    return new FrameLevels(powers, this.frameSamples, Math.max(this.#highest, -this.#lowest));
  }
}

/** What a `FrameMeter` found. */
export class FrameLevels {
  readonly active: readonly boolean[];
  /** Power of the loudest frame. */
  readonly loudest: Power;
  /** Power that a quarter of the frames with sound in them do not pass. */
  readonly #quietest: Power;

  constructor(
    readonly powers: readonly Power[],
    readonly frameSamples: number,
    /** Largest magnitude of any sample. */
    readonly peak: number,
    /** A frame with less power than this is not active, however quiet the loudest one is. */
    leastActive: Power = 0,
  ) {
    let loudest = 0;
    for (const power of powers) loudest = Math.max(loudest, power);
    this.loudest = loudest;
    const least = Math.max(leastActive, loudest * dbToPower(-ACTIVE_RANGE_DB));
    const heard = powers.filter((power) => power > 0);
    this.#quietest = heard.length === 0 ? 0 : percentile(heard, 25);
    this.active = powers.map((power) => power > 0 && power >= least);
  }

  get peakDb(): Decibels {
    return amplitudeToDb(this.peak);
  }

  /** Share of active frames among the frames that samples [start, start + length) touch. */
  activeShare(start: number, length: number): number {
    return this.#share(start, length, (frame) => this.active[frame]);
  }

  /** Mean power of the frames that samples [start, start + length) touch; 0 past the end. */
  meanPower(start: number, length: number): Power {
    const [first, last] = this.#range(start, length);
    let sum = 0;
    for (let frame = first; frame <= last; frame++) sum += this.powers[frame];
    return last < first ? 0 : sum / (last - first + 1);
  }

  /** True when every frame touched is among the quietest quarter (digital silence does not count). */
  isQuiet(start: number, length: number): boolean {
    return this.#share(start, length, (frame) => this.powers[frame] > 0 && this.powers[frame] <= this.#quietest) === 1;
  }

  /** True when every frame touched is inactive and holds something (digital silence tells nothing of the room). */
  isPause(start: number, length: number): boolean {
    return this.#share(start, length, (frame) => !this.active[frame] && this.powers[frame] > 0) === 1;
  }

  #range(start: number, length: number): readonly [number, number] {
    const first = Math.floor(start / this.frameSamples);
    return [first, Math.min(Math.floor((start + length - 1) / this.frameSamples), this.powers.length - 1)];
  }

  #share(start: number, length: number, matches: (frame: number) => boolean): number {
    const [first, last] = this.#range(start, length);
    if (last < first) return 0;
    let count = 0;
    for (let frame = first; frame <= last; frame++) if (matches(frame)) count++;
    return count / (last - first + 1);
  }
}
