/** `FftFilter` for samples in the kernel's memory: real ones or pairs in, pairs out, in time with the input. */
import type { Kernel, KernelArray } from '../kernel/kernel.ts';
import { nextPowerOfTwo } from '../spectrum/spectrum.ts';
import { convolutionSize, twiddles } from '../spectrum/spectrumEngine.ts';
import { forwardTransform } from '../spectrum/transform.ts';
import type { Complex } from '../stream/complex.ts';
import { Room, type SamplesAt } from './samplesAt.ts';

/** Shorter transforms cost more in their setting up than in their work. */
const LEAST_SIZE = 2048;

/** A long filter by blocks in the frequency domain (overlap-save), at fixed places of the stream. */
export class PairFilter {
  readonly #size: number;
  readonly #overlap: number;
  readonly #parts: Record<'turns' | 'filter' | 'work' | 'held', KernelArray>;
  readonly #out: Room;
  #filled: number;

  /** @param taps complex, odd in number, the middle one at time 0  @param width values of a sample that goes in */
  constructor(
    readonly kernel: Kernel,
    taps: Complex,
    readonly width: 1 | 2,
  ) {
    const length = taps.i.length;
    const size = Math.max(LEAST_SIZE, nextPowerOfTwo(4 * length));
    const { re, im } = forwardTransform(size, taps.i, taps.q);
    const take = (values: number) => kernel.take(values);
    this.#size = size;
    this.#overlap = length - 1;
    this.#parts = {
      turns: twiddles(kernel, size),
      filter: take(2 * size),
      work: take(convolutionSize(size)),
      held: take(width * size),
    };
    kernel.floats(this.#parts.filter).set(re);
    kernel.floats(this.#parts.filter).set(im, size);
    this.#out = new Room(kernel);
    // Half a filter of silence ahead: output n then belongs to input n.
    this.#filled = this.#overlap / 2;
  }

  /** Silence that brings out what is still held. */
  get tail(): number {
    return this.#size;
  }

  /** What comes out is good until the next call. */
  push({ address, count }: SamplesAt): SamplesAt {
    const { run } = this.kernel;
    const bytes = 4 * this.width;
    const hop = this.#size - this.#overlap;
    const held = this.#parts.held.address;
    const out = this.#out.forPairs(Math.ceil((this.#filled + count) / hop) * hop);
    let made = 0;
    for (let read = 0; read < count; ) {
      const take = Math.min(count - read, this.#size - this.#filled);
      run.move(held + bytes * this.#filled, address + bytes * read, bytes * take);
      this.#filled += take;
      read += take;
      if (this.#filled < this.#size) continue;
      const { turns, filter, work } = this.#parts;
      const isReal = this.width === 1 ? 1 : 0;
      run.convolve(this.#size, held, isReal, turns.address, filter.address, work.address, this.#overlap, out + 8 * made);
      made += hop;
      run.move(held, held + bytes * hop, bytes * this.#overlap);
      this.#filled = this.#overlap;
    }
    return { address: out, count: made };
  }
}
