/**
 * A stream in steps of about a millisecond: of each the envelope as ITU-T P.56 has it at its end, the sum of squares, the
 * highest and the lowest sample. What levels are told from need not be looked at sample by sample.
 */
import type { Hertz } from '../../units/index.ts';
import { Room, type SamplesAt } from '../filter/samplesAt.ts';
import type { Kernel, KernelArray } from '../kernel/kernel.ts';

/** The envelope is |x| through two smoothings of this time constant (P.56). */
const TIME_CONSTANT_S = 0.03;
const STEP_S = 0.001;
/** Steps may be so much shorter and longer than a millisecond, so that a frame holds a whole number of them. */
const STEP_RANGE: readonly [number, number] = [0.5, 1.8];

/** Samples of a step and of a 50 ms frame at a rate: the frame is a whole number of steps. */
export function stepsAt(sampleRateHz: Hertz, frameSeconds: number): { readonly step: number; readonly frame: number } {
  const wanted = Math.max(1, Math.round(sampleRateHz * frameSeconds));
  const ideal = sampleRateHz * STEP_S;
  for (const frame of [wanted, wanted - 1, wanted + 1]) {
    let best = 0;
    for (let step = Math.max(1, Math.ceil(ideal * STEP_RANGE[0])); step <= ideal * STEP_RANGE[1]; step++) {
      if (frame % step === 0 && Math.abs(step - ideal) < Math.abs(best - ideal)) best = step;
    }
    if (best > 0) return { step: best, frame };
  }
  return { step: wanted, frame: wanted };
}

/** Values of a step: envelope, sum of squares, highest, lowest. */
export const STEP_VALUES = 4;
export const STEP_HIGHEST = 2;
export const STEP_LOWEST = 3;

/** Tells steps as they become whole. */
export class StepReader {
  readonly step: number;
  readonly #smoothing: number;
  /** The kernel's `envelope`: four weights, and how both smoothings stand. */
  readonly #envelope: KernelArray;
  readonly #left: Room;
  readonly #out: Room;
  #leftCount = 0;

  constructor(
    readonly kernel: Kernel,
    sampleRateHz: Hertz,
    step: number,
  ) {
    this.step = step;
    this.#smoothing = Math.exp(-1 / (sampleRateHz * TIME_CONSTANT_S));
    this.#envelope = kernel.take(6, 8);
    this.#left = new Room(kernel);
    this.#out = new Room(kernel);
    this.#weigh(step);
  }

  /**
   * What a step leaves of both smoothings, and what each sample of |x| puts into them: by the mean over the step of what
   * those that follow leave of it. A step is a thirtieth of the time constant.
   */
  #weigh(step: number): void {
    const g = this.#smoothing;
    let [first, second] = [0, 0];
    for (let left = 0; left < step; left++) {
      first += ((1 - g) * g ** left) / step;
      second += ((1 - g) ** 2 * (left + 1) * g ** left) / step;
    }
    this.kernel.doubles(this.#envelope).set([g ** step, step * (1 - g) * g ** step, first, second]);
  }

  /** The steps that these samples complete; good until the next call. Codes may come as well, always whole steps of them. */
  push({ address, count, isCodes }: SamplesAt): SamplesAt {
    if (isCodes || (this.#leftCount === 0 && count % this.step === 0)) return this.#read(address, count / this.step, this.step, isCodes);
    const { run } = this.kernel;
    const all = this.#leftCount + count;
    const room = this.#left.forValues(all, this.#leftCount);
    run.move(room + 4 * this.#leftCount, address, 4 * count);
    const steps = Math.floor(all / this.step);
    const read = this.#read(room, steps, this.step);
    this.#leftCount = all - steps * this.step;
    run.move(room, room + 4 * steps * this.step, 4 * this.#leftCount);
    return read;
  }

  /** The last, shorter step, and how many samples it has. */
  end(): { readonly samples: number; readonly steps: SamplesAt } {
    const samples = this.#leftCount;
    this.#leftCount = 0;
    if (samples === 0) return { samples, steps: { address: 0, count: 0 } };
    this.#weigh(samples);
    return { samples, steps: this.#read(this.#left.forValues(0), 1, samples) };
  }

  #read(address: number, count: number, step: number, isCodes = false): SamplesAt {
    const { kernel } = this;
    const out = this.#out.forValues(STEP_VALUES * count);
    const steps = isCodes ? kernel.run.stepsOfCodes : kernel.run.steps;
    steps(address, count, step, this.#envelope.address, out);
    return { address: out, count };
  }
}

/** Energies of frames, told from the steps in them, and the highest and the lowest sample of all. */
export class FrameTotals {
  /** Energies of the frames that are whole. */
  readonly energies: number[] = [];
  highest = 0;
  lowest = 0;
  /** Energy of what is no whole frame yet. */
  open = 0;
  readonly #totals: KernelArray;
  readonly #made: Room;
  #filled = 0;

  /** @param frameSteps steps of a frame */
  constructor(
    readonly kernel: Kernel,
    readonly frameSteps: number,
  ) {
    this.#totals = kernel.take(3, 8);
    this.#made = new Room(kernel);
  }

  /** @returns the highest and the lowest sample of these steps, 0 where all lie on the other side */
  push({ address, count }: SamplesAt): readonly [highest: number, lowest: number] {
    const { kernel, frameSteps } = this;
    const energies = this.#made.forValues(2 * Math.ceil(count / frameSteps));
    const made = kernel.run.frameEnergies(address, count, frameSteps, this.#filled, this.#totals.address, energies);
    this.#filled += count - made * frameSteps;
    if (made > 0) this.energies.push(...kernel.doubles({ address: energies, length: made }));
    const totals = kernel.doubles(this.#totals);
    const [open, highest, lowest] = totals;
    this.open = open;
    if (highest > this.highest) this.highest = highest;
    if (lowest < this.lowest) this.lowest = lowest;
    totals.fill(0, 1);
    return [highest, lowest];
  }
}
