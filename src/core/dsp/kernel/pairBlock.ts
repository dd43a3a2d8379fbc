/** A block of I and Q pairs in the kernel's memory, where it is converted, summed and counted. */
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

/** A block of I and Q in the kernel's memory: loaded, corrected and measured there. */
export class PairBlock {
  /** Pairs in the block now. */
  count = 0;
  #codes: KernelArray;
  #pairs: KernelArray;
  readonly #sums: KernelArray;

  constructor(readonly kernel: Kernel) {
    this.#codes = kernel.take(0, 2);
    this.#pairs = kernel.take(0);
    this.#sums = kernel.take(6, 8);
  }

  /** Takes 16-bit codes (full scale 32768) or floats, I and Q in turn, in the place of what was there. */
  load(block: Int16Array | Float32Array): void {
    const { kernel } = this;
    const length = block.length;
    if (block instanceof Int16Array) {
      if (this.#codes.length < length) this.#codes = kernel.take(length, 2);
      kernel.codes(this.#codes).set(block);
      this.take({ address: this.#codes.address, count: length, isCodes: true });
      return;
    }
    this.#makeRoom(length);
    kernel.floats(this.#pairs).set(block);
  }

  /** The same of values that are in the kernel's memory; floats are moved. */
  take({ address, count, isCodes }: PieceAt): void {
    this.#makeRoom(count);
    const { run } = this.kernel;
    if (isCodes) run.fromInt16(address, this.#pairs.address, count);
    else run.move(this.#pairs.address, address, 4 * count);
  }

  #makeRoom(values: number): void {
    if (this.#pairs.length < values) this.#pairs = this.kernel.take(values);
    this.count = values / 2;
  }

  /** I and Q change places. */
  swap(): void {
    const values = this.values();
    for (let n = 0; n < values.length; n += 2) {
      const i = values[n];
      values[n] = values[n + 1];
      values[n + 1] = i;
    }
  }

  /** Pairs [from, to) as they are; good until the kernel's memory grows. */
  values(from = 0, to = this.count): Float32Array {
    return this.kernel.floats(this.#pairs).subarray(2 * from, 2 * to);
  }

  address(from = 0): number {
    return this.#pairs.address + 8 * from;
  }

  /** Moments of pairs [from, to). */
  moments(from: number, to: number): Moments {
    this.kernel.doubles(this.#sums).fill(0);
    this.kernel.run.moments(this.address(from), to - from, this.#sums.address);
    const [i, q, ii, qq, iq, peak] = this.kernel.doubles(this.#sums);
    return { count: to - from, i, q, ii, qq, iq, peak };
  }
}

/** The moments of nothing. */
export const NO_MOMENTS: Moments = { count: 0, i: 0, q: 0, ii: 0, qq: 0, iq: 0, peak: 0 };

/** Moments of two blocks together. */
export const addMoments = (a: Moments, b: Moments): Moments => ({
  count: a.count + b.count,
  i: a.i + b.i,
  q: a.q + b.q,
  ii: a.ii + b.ii,
  qq: a.qq + b.qq,
  iq: a.iq + b.iq,
  peak: Math.max(a.peak, b.peak),
});
