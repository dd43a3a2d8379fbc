/** Powers of windows shared out to the frames that they touch: a frame's sum is read and written once, for all of them. */
import type { Kernel, KernelArray } from '../../dsp/index.ts';
import { type KnownFrames, SILENT_STEP } from '../frameWindows.ts';

/** What came of the frames of one level. */
export interface LevelSum {
  readonly sum: KernelArray;
  /** Windows by the share of their frames that are of this level. */
  weight: number;
}

/** Feed it with windows in the order of time. */
export class FrameShares {
  readonly byStep = new Map<number, LevelSum>();
  /** Powers of the latest windows, in turn, with the share that each frame has of them. */
  readonly #ring: KernelArray;
  readonly #weights: KernelArray;
  /** The first frame that each touches, and the one behind the last. */
  readonly #from: number[];
  readonly #to: number[];
  /** How many there were. */
  #count = 0;
  /** The first frame that may still be touched. */
  #frame = 0;

  /** @param size bins of a window  @param kept of them are of use at the beginning, and at the end  @param most windows that touch one frame */
  constructor(
    readonly kernel: Kernel,
    readonly size: number,
    readonly kept: number,
    most: number,
  ) {
    this.#from = Array<number>(most + 1).fill(0);
    this.#to = Array<number>(most + 1).fill(0);
    this.#ring = kernel.take((most + 1) * size);
    this.#weights = kernel.take(most + 1);
  }

  get #place(): number {
    return this.#count % this.#from.length;
  }

  /** Where the next window's powers go. */
  get room(): number {
    return this.#ring.address + 4 * this.size * this.#place;
  }

  /** The window whose powers are there now touches the frames [from, to). */
  add(from: number, to: number, frames: KnownFrames): void {
    this.#shareUpTo(from, frames);
    const place = this.#place;
    this.#from[place] = from;
    this.#to[place] = to;
    this.kernel.floats(this.#weights)[place] = 1 / (to - from);
    this.#count++;
  }

  /** Once no more come. */
  end(frames: KnownFrames): void {
    this.#shareUpTo(Infinity, frames);
  }

  #shareUpTo(end: number, { steps, leastStep }: KnownFrames): void {
    const last = Math.min(end, steps.length);
    let frame = this.#frame;
    for (; frame < last; frame++) {
      const step = steps[frame];
      if (step !== SILENT_STEP && step >= leastStep) this.#share(frame, step);
    }
    this.#frame = frame;
  }

  #share(frame: number, step: number): void {
    const { kernel } = this;
    const from = this.#from;
    const to = this.#to;
    const rows = from.length;
    // Those that touch it are neighbours in time.
    let first = Math.max(0, this.#count - rows);
    while (first < this.#count && to[first % rows] <= frame) first++;
    let weight = 0;
    let end = first;
    for (; end < this.#count && from[end % rows] <= frame; end++) weight += 1 / (to[end % rows] - from[end % rows]);
    if (end === first) return;
    let level = this.byStep.get(step);
    if (!level) {
      level = { sum: kernel.take(this.size), weight: 0 };
      this.byStep.set(step, level);
    }
    const { address } = level.sum;
    kernel.run.addRows(address, this.#ring.address, this.#weights.address, rows, first % rows, end - first, this.kept, this.size);
    level.weight += weight;
  }
}
