/** One channel cut out of a wide I/Q stream: moved to 0 Hz, filtered with linear phase, at a lower rate. */
import type { Hertz } from '../../units/index.ts';
import type { Kernel, KernelArray } from '../kernel/kernel.ts';
import type { PairBlock } from '../kernel/pairBlock.ts';
import { lowPassTaps } from './kaiser.ts';
import { floatsAt, Room, type SamplesAt, Tuner } from './tuner.ts';

/** A filter with complex taps and fewer pairs out than in; pair n that comes out belongs to pair n * step that went in. */
export class Decimator {
  readonly #re: KernelArray;
  readonly #im: KernelArray;
  readonly #taps: number;
  readonly #held: Room;
  readonly #out: Room;
  #filled: number;

  /** @param centreHz middle of the pass band; the output still turns with it */
  constructor(
    readonly kernel: Kernel,
    rateHz: Hertz,
    readonly step: number,
    taps: Float64Array,
    centreHz: Hertz,
  ) {
    // An odd number of taps gets a zero behind it: the kernel takes them in twos.
    this.#taps = taps.length + 1;
    this.#re = kernel.take(2 * this.#taps);
    this.#im = kernel.take(2 * this.#taps);
    const middle = (taps.length - 1) / 2;
    const re = kernel.floats(this.#re);
    const im = kernel.floats(this.#im);
    taps.forEach((tap, k) => {
      // The kernel's taps run forward in time: this turns with -centre so that a tone there comes out in phase.
      const angle = (-2 * Math.PI * centreHz * (k - middle)) / rateHz;
      re.fill(tap * Math.cos(angle), 2 * k, 2 * k + 2);
      im.fill(tap * Math.sin(angle), 2 * k, 2 * k + 2);
    });
    this.#held = new Room(kernel);
    this.#out = new Room(kernel);
    // Half a filter of silence ahead: output sample n then belongs to input sample n step.
    this.#filled = middle;
    this.#held.forPairs(this.#filled);
  }

  /** The result is good until the next call. */
  push({ address, count }: SamplesAt): SamplesAt {
    const { kernel } = this;
    const all = this.#filled + count;
    const held = this.#held.forPairs(all, this.#filled);
    const made = Math.max(0, Math.floor((all - this.#taps) / this.step) + 1);
    const out = this.#out.forPairs(made);
    kernel.run.move(held + 8 * this.#filled, address, 8 * count);
    kernel.run.decimate(held, this.#re.address, this.#im.address, this.#taps, this.step, made, out);
    this.#filled = all - made * this.step;
    kernel.run.move(held, held + 8 * made * this.step, 8 * this.#filled);
    return { address: out, count: made };
  }
}

/** Which band is taken out of a stream of I and Q, in hertz from its centre. */
export interface DownConverterShape {
  readonly sampleRateHz: Hertz;
  readonly centreHz: Hertz;
  /** -6 dB at this distance from the centre. */
  readonly halfWidthHz: Hertz;
  readonly transitionHz: Hertz;
  /** The output's rate is the lowest that is at least this. */
  readonly leastRateHz: Hertz;
}

/** A band of an I/Q stream, moved to 0 Hz, filtered and decimated, block by block. */
export class DownConverter {
  readonly sampleRateHz: Hertz;
  readonly #tuner: Tuner;
  readonly #filter: Decimator;
  readonly #turn: number;
  #angle = 0;

  constructor(
    readonly kernel: Kernel,
    { sampleRateHz, centreHz, halfWidthHz, transitionHz, leastRateHz }: DownConverterShape,
  ) {
    const reach = halfWidthHz + transitionHz / 2;
    this.#tuner = new Tuner(kernel, { sampleRateHz, centreHz, keptHz: reach, leastRateHz });
    const rate = this.#tuner.sampleRateHz;
    const step = Math.max(1, Math.floor(rate / leastRateHz));
    // A channel as wide as the file keeps all of it.
    const taps = reach < rate / 2 ? lowPassTaps(rate, halfWidthHz, transitionHz) : Float64Array.of(1);
    const offset = centreHz - this.#tuner.centreHz;
    this.#filter = new Decimator(kernel, rate, step, taps, offset);
    this.sampleRateHz = rate / step;
    this.#turn = (-2 * Math.PI * offset) / this.sampleRateHz;
  }

  /** Takes a block and gives the channel's pairs, as doubles: I and Q. */
  push(block: PairBlock): { i: Float64Array; q: Float64Array } {
    return this.#turned(this.#filter.push(this.#tuner.push({ address: block.address(), count: block.count })));
  }

  #turned({ address, count }: SamplesAt): { i: Float64Array; q: Float64Array } {
    const pairs = floatsAt(this.kernel, address, count);
    const i = new Float64Array(count);
    const q = new Float64Array(count);
    for (let n = 0; n < count; n++) {
      const c = Math.cos(this.#angle);
      const s = Math.sin(this.#angle);
      i[n] = pairs[2 * n] * c - pairs[2 * n + 1] * s;
      q[n] = pairs[2 * n] * s + pairs[2 * n + 1] * c;
      this.#angle = (this.#angle + this.#turn) % (2 * Math.PI);
    }
    return { i, q };
  }
}
