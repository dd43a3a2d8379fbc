/** Levels of 50 ms frames, and which of them are active (someone is talking). */
import { amplitudeToDb, type Decibels, dbToPower, type Power, type Seconds } from '../../units/index.ts';
import { rising } from '../statistics/statistics.ts';

/** Length of the frames by which speech and pauses are told apart. */
export const FRAME_SECONDS: Seconds = 0.05;
/** A frame is active when its power is within this of the loudest frame's (contract: active part). */
export const ACTIVE_RANGE_DB: Decibels = 25;

/** Mean-square power of consecutive frames of a recording; a last, shorter frame counts only when it is the only one. */
export class FrameLevels {
  readonly active: readonly boolean[];
  #heard: Float64Array | null = null;

  constructor(
    readonly powers: readonly Power[],
    readonly frameSamples: number,
    /** Largest magnitude of any sample. */
    readonly peak: number,
  ) {
    const loudest = powers.reduce((most, power) => Math.max(most, power), 0);
    const least = loudest * dbToPower(-ACTIVE_RANGE_DB);
    this.active = powers.map((power) => power > 0 && power >= least);
  }

  /** Powers in rising order, digital silence left out. */
  get heard(): Float64Array {
    this.#heard ??= rising(this.powers.filter((power) => power > 0));
    return this.#heard;
  }

  get peakDb(): Decibels {
    return amplitudeToDb(this.peak);
  }

  /** Share of active frames among the frames that samples [start, start + length) touch. */
  activeShare(start: number, length: number): number {
    const first = Math.floor(start / this.frameSamples);
    const last = Math.min(Math.floor((start + length - 1) / this.frameSamples), this.powers.length - 1);
    if (last < first) return 0;
    let count = 0;
    for (let frame = first; frame <= last; frame++) if (this.active[frame]) count++;
    return count / (last - first + 1);
  }
}
