/** Levels of 50 ms frames, and which of them are active (someone is talking). */
import { amplitudeToDb, type Decibels, dbToPower, type Power, type Seconds } from '../../units/index.ts';
import { percentile } from '../statistics/statistics.ts';

/** Length of the frames by which speech and pauses are told apart. */
export const FRAME_SECONDS: Seconds = 0.05;
/** A frame is active when its power is within this of the loudest frame's (contract: active part). */
export const ACTIVE_RANGE_DB: Decibels = 25;

/** Mean-square power of consecutive frames of a recording; a last, shorter frame counts only when it is the only one. */
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
