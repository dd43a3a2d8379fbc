/** Sums over I and Q pairs, by which the two channels are compared. */
import type { Kernel, KernelArray } from './kernel.ts';
import type { PieceAt } from './pieces.ts';

/** Sums over pairs: of I, of Q, of their squares and of their product; and the largest magnitude of any value. */
export interface Moments {
  readonly count: number;
  readonly i: number;
  readonly q: number;
  readonly ii: number;
  readonly qq: number;
  readonly iq: number;
  readonly peak: number;
}

/** Place of the largest magnitude among the kernel's sums. */
const PEAK = 5;

/** Adds up moments of pairs in the kernel's memory. */
export class MomentSums {
  readonly #sums: KernelArray;
  #count = 0;
  #peak = 0;

  constructor(readonly kernel: Kernel) {
    this.#sums = kernel.take(PEAK + 1, 8);
  }

  /** @returns the sum of their powers */
  add({ address, count, isCodes }: PieceAt): number {
    this.#count += count;
    const { moments, momentsOfCodes } = this.kernel.run;
    return (isCodes ? momentsOfCodes : moments)(address, count, this.#sums.address);
  }

  /** The largest magnitude since this was asked last. */
  latestPeak(): number {
    const sums = this.kernel.doubles(this.#sums);
    const peak = sums[PEAK];
    this.#peak = Math.max(this.#peak, peak);
    sums[PEAK] = 0;
    return peak;
  }

  result(): Moments {
    this.latestPeak();
    const [i, q, ii, qq, iq] = this.kernel.doubles(this.#sums);
    return { count: this.#count, i, q, ii, qq, iq, peak: this.#peak };
  }
}
