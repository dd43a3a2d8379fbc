/** Three second-order sections in a row over a stream in the kernel's memory, in double precision. */
import type { Kernel, KernelArray } from '../kernel/kernel.ts';
import type { Biquad } from './biquad.ts';
import { Room, type SamplesAt } from './samplesAt.ts';

/** Keeps its state from block to block. */
export class ThreeSections {
  readonly #coefficients: KernelArray;
  readonly #state: KernelArray;
  readonly #out: Room;

  /** @throws RangeError for another number of filters */
  constructor(
    readonly kernel: Kernel,
    filters: readonly Biquad[],
  ) {
    if (filters.length !== 3) throw new RangeError(`${filters.length} sections instead of three`);
    const values = filters.flatMap(({ b0, b1, b2, a1, a2 }) => [b0, b1, b2, a1, a2]);
    this.#coefficients = kernel.take(values.length, 8);
    kernel.doubles(this.#coefficients).set(values);
    this.#state = kernel.take(2 * (filters.length + 1), 8);
    this.#out = new Room(kernel);
  }

  /** What comes out is good until the next call. */
  push({ address, count }: SamplesAt): SamplesAt {
    const out = this.#out.forValues(count);
    this.kernel.run.threeSections(address, out, count, this.#coefficients.address, this.#state.address);
    return { address: out, count };
  }
}
