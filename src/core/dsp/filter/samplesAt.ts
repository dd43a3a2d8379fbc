/** Streams of samples in the kernel's memory, and room for them. */
import type { Kernel, KernelArray } from '../kernel/kernel.ts';

/** Interleaved pairs, or real samples, in the kernel's memory. */
export interface SamplesAt {
  readonly address: number;
  readonly count: number;
  /** 16-bit codes (full scale 32768) in place of floats, where it is said that they may come. */
  readonly isCodes?: boolean;
}

/** Room in the kernel's memory that grows when it has to. */
export class Room {
  #array: KernelArray;

  constructor(readonly kernel: Kernel) {
    this.#array = kernel.take(0);
  }

  /** Room for values, with what was in the first `kept` of them. */
  forValues(values: number, kept = 0): number {
    if (this.#array.length < values) {
      const old = this.#array;
      this.#array = this.kernel.take(2 * values);
      this.kernel.run.move(this.#array.address, old.address, 4 * Math.min(kept, old.length));
    }
    return this.#array.address;
  }

  /** The same in pairs. */
  forPairs(pairs: number, kept = 0): number {
    return this.forValues(2 * pairs, 2 * kept);
  }
}

/** Samples from outside the kernel brought into it: floats of either precision, or 16-bit codes, full scale 32768. */
export class Intake {
  readonly #samples: Room;
  readonly #codes: Room;

  constructor(readonly kernel: Kernel) {
    this.#samples = new Room(kernel);
    this.#codes = new Room(kernel);
  }

  /** Good until the next call. */
  take(block: Float64Array | Float32Array | Int16Array): SamplesAt {
    const { kernel } = this;
    const count = block.length;
    const address = this.#samples.forValues(count);
    if (block instanceof Int16Array) {
      const codes = this.#codes.forValues(Math.ceil(count / 2));
      kernel.codes({ address: codes, length: count }).set(block);
      kernel.run.fromInt16(codes, address, count);
    } else kernel.floats({ address, length: count }).set(block);
    return { address, count };
  }
}

/** A view of pairs; good until the kernel's memory grows. */
export const floatsAt = (kernel: Kernel, address: number, pairs: number) => kernel.floats({ address, length: 2 * pairs });

/** Values of a sample: one, or I and Q. */
export type Width = 1 | 2;

/** Hands samples on in even numbers: an odd one waits for its fellow. */
export class Evener {
  readonly #joined: Room;
  /** Where a waiting sample is kept. */
  readonly #kept: KernelArray;
  #isWaiting = false;

  constructor(
    readonly kernel: Kernel,
    readonly width: Width,
  ) {
    this.#joined = new Room(kernel);
    this.#kept = kernel.take(width);
  }

  push({ address, count }: SamplesAt): SamplesAt {
    if (!this.#isWaiting && count % 2 === 0) return { address, count };
    const { run } = this.kernel;
    const bytes = 4 * this.width;
    const before = this.#isWaiting ? 1 : 0;
    const all = count + before;
    const joined = this.#joined.forValues(this.width * all);
    run.move(joined, this.#kept.address, bytes * before);
    run.move(joined + bytes * before, address, bytes * count);
    this.#isWaiting = all % 2 === 1;
    if (this.#isWaiting) run.move(this.#kept.address, joined + bytes * (all - 1), bytes);
    return { address: joined, count: all - (all % 2) };
  }
}
