/** A block of I and Q pairs in the kernel's memory, where it is converted, summed and counted. */
import type { Kernel, KernelArray } from './kernel.ts';
import type { PieceAt } from './pieces.ts';

/** A block of I and Q in the kernel's memory: loaded, corrected and measured there. */
export class PairBlock {
  /** Pairs in the block now. */
  count = 0;
  /** Room for codes from outside the kernel. */
  #codes: KernelArray;
  #pairs: KernelArray;
  /** Where it lies as 16-bit codes; 0 for nowhere. */
  #codesAt = 0;
  /** Codes are made floats of once somebody asks for these. */
  #areFloats = true;

  constructor(readonly kernel: Kernel) {
    this.#codes = kernel.take(0, 2);
    this.#pairs = kernel.take(0);
  }

  /** Takes 16-bit codes (full scale 32768) or floats, I and Q in turn, in the place of what was there. */
  load(block: Int16Array | Float32Array): void {
    const { kernel } = this;
    const { length } = block;
    if (block instanceof Int16Array) {
      if (this.#codes.length < length) this.#codes = kernel.take(length, 2);
      kernel.codes(this.#codes).set(block);
      this.take({ address: this.#codes.address, count: length, isCodes: true });
      return;
    }
    this.#makeRoom(length);
    kernel.floats(this.#pairs).set(block);
  }

  /** The same of values that are in the kernel's memory and stay there while the block is used; floats are moved. */
  take({ address, count, isCodes }: PieceAt): void {
    this.#makeRoom(count);
    if (isCodes) {
      this.#codesAt = address;
      this.#areFloats = false;
    } else this.kernel.run.move(this.#pairs.address, address, 4 * count);
  }

  #makeRoom(values: number): void {
    if (this.#pairs.length < values) this.#pairs = this.kernel.take(values);
    this.count = values / 2;
    this.#codesAt = 0;
    this.#areFloats = true;
  }

  /** Pairs [from, to) as they came: 16-bit codes where they are. */
  stored(from = 0, to = this.count): PieceAt {
    const isCodes = this.#codesAt !== 0;
    const address = isCodes ? this.#codesAt + 4 * from : this.#pairs.address + 8 * from;
    return { address, count: to - from, isCodes };
  }

  /** I and Q change places. */
  swap(): void {
    const values = this.values();
    // The codes are not turned round: they are forgotten.
    this.#codesAt = 0;
    for (let n = 0; n < values.length; n += 2) {
      const i = values[n];
      values[n] = values[n + 1];
      values[n + 1] = i;
    }
  }

  /** Pairs [from, to) as floats; good until the kernel's memory grows. */
  values(from = 0, to = this.count): Float32Array {
    this.#convert();
    return this.kernel.floats(this.#pairs).subarray(2 * from, 2 * to);
  }

  /** Where they lie. */
  address(from = 0): number {
    this.#convert();
    return this.#pairs.address + 8 * from;
  }

  #convert(): void {
    if (this.#areFloats) return;
    this.kernel.run.fromInt16(this.#codesAt, this.#pairs.address, 2 * this.count);
    this.#areFloats = true;
  }
}
