/** Sums over I and Q pairs, by which the two channels are compared, and the powers of the parts of a stream. */
import type { Power } from '../../units/index.ts';
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

/** Place of the largest magnitude among the kernel's sums, and of the energy of the part that is not whole yet. */
const PEAK = 5;
const OPEN = 6;

/** Adds up moments of pairs in the kernel's memory. */
export class MomentSums {
  /** Mean powers of the parts that are whole. */
  readonly parts: Power[] = [];
  readonly #sums: KernelArray;
  #powers: KernelArray;
  #count = 0;
  #peak = 0;
  /** Pairs of the part that is not whole. */
  #filled = 0;

  /** @param partSamples pairs of a part */
  constructor(
    readonly kernel: Kernel,
    readonly partSamples: number,
  ) {
    this.#sums = kernel.take(OPEN + 1, 8);
    this.#powers = kernel.take(0, 8);
  }

  add({ address, count, isCodes }: PieceAt): void {
    const { kernel, partSamples } = this;
    const most = Math.ceil(count / partSamples);
    if (this.#powers.length < most) this.#powers = kernel.take(2 * most, 8);
    const [sums, powers] = [this.#sums.address, this.#powers.address];
    const made = kernel.run.momentsByParts(address, count, isCodes ? 1 : 0, partSamples, this.#filled, sums, sums + 8 * OPEN, powers);
    this.#count += count;
    this.#filled += count - made * partSamples;
    if (made > 0) this.parts.push(...kernel.doubles({ address: powers, length: made }));
  }

  /** The largest magnitude since this was asked last. */
  latestPeak(): number {
    const sums = this.kernel.doubles(this.#sums);
    const peak = sums[PEAK];
    this.#peak = Math.max(this.#peak, peak);
    sums[PEAK] = 0;
    return peak;
  }

  /** Once no more come. A last, shorter part counts only when it is the only one. */
  result(): Moments {
    this.latestPeak();
    const [i, q, ii, qq, iq, , open] = this.kernel.doubles(this.#sums);
    if (this.parts.length === 0 && this.#filled > 0) this.parts.push(open / this.#filled);
    return { count: this.#count, i, q, ii, qq, iq, peak: this.#peak };
  }
}
