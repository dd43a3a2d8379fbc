/** A filter with linear phase over real samples in the kernel's memory. */
import type { Kernel, KernelArray } from '../kernel/kernel.ts';
import { fourTimesEach } from './halver.ts';
import { Room, type SamplesAt } from './samplesAt.ts';

/** The kernel reads and writes whole vectors. */
const SLACK = 4;

/** In step with the stream: what comes out belongs to the sample under the middle tap. */
export class EvenHanded {
  readonly #taps: KernelArray;
  readonly #reach: number;
  readonly #held: Room;
  readonly #out: Room;
  /** Samples held from one block for the next; at first silence ahead of the stream. */
  #filled: number;

  /** @param taps odd in number, the same on both sides of the middle one */
  constructor(
    readonly kernel: Kernel,
    taps: Float64Array,
  ) {
    this.#reach = (taps.length - 1) / 2;
    this.#taps = fourTimesEach(kernel, taps.subarray(this.#reach));
    this.#held = new Room(kernel);
    this.#out = new Room(kernel);
    this.#filled = this.#reach;
  }

  /** What comes out is good until the next call. */
  push({ address, count }: SamplesAt): SamplesAt {
    const { move, evenHanded } = this.kernel.run;
    const all = this.#filled + count;
    const held = this.#held.forValues(all + SLACK, this.#filled);
    const made = Math.max(0, all - 2 * this.#reach);
    const out = this.#out.forValues(made + SLACK);
    move(held + 4 * this.#filled, address, 4 * count);
    evenHanded(held, all, this.#taps.address, this.#reach, out);
    this.#filled = all - made;
    move(held, held + 4 * made, 4 * this.#filled);
    return { address: out, count: made };
  }
}
