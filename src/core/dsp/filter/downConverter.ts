/** One channel cut out of a wide I/Q stream: moved to 0 Hz, filtered with linear phase, at a lower rate. */
import type { Hertz } from '../../units/index.ts';
import type { Kernel, KernelArray } from '../kernel/kernel.ts';
import type { PairBlock } from '../kernel/pairBlock.ts';
import { lowPassTaps } from './kaiser.ts';

/** An early step leaves this many times the rate that is wanted in the end. */
const EARLY_ROOM = 4;

/** One filtering step with fewer samples out than in. */
class Decimator {
  readonly #re: KernelArray;
  readonly #im: KernelArray;
  readonly #taps: number;
  #held: KernelArray;
  #filled = 0;
  #out: KernelArray;

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
    this.#held = kernel.take(0);
    this.#out = kernel.take(0);
    // Half a filter of silence ahead: output sample n then belongs to input sample n step.
    this.#room(2 * middle);
    this.#filled = middle;
  }

  #room(values: number): void {
    if (this.#held.length >= values) return;
    const old = this.kernel.floats(this.#held).slice(0, 2 * this.#filled);
    this.#held = this.kernel.take(2 * values);
    this.kernel.floats(this.#held).set(old);
  }

  /** Filters interleaved pairs; the result is good until the next call. */
  push(pairs: Float32Array): Float32Array {
    this.#room(2 * this.#filled + pairs.length);
    this.kernel.floats(this.#held).set(pairs, 2 * this.#filled);
    this.#filled += pairs.length / 2;
    const count = Math.max(0, Math.floor((this.#filled - this.#taps) / this.step) + 1);
    if (this.#out.length < 2 * count) this.#out = this.kernel.take(4 * count);
    this.kernel.run.decimate(this.#held.address, this.#re.address, this.#im.address, this.#taps, this.step, count, this.#out.address);
    const held = this.kernel.floats(this.#held);
    held.copyWithin(0, 2 * count * this.step, 2 * this.#filled);
    this.#filled -= count * this.step;
    return this.kernel.floats(this.#out).slice(0, 2 * count);
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
  readonly #steps: Decimator[];
  readonly #turn: number;
  #angle = 0;

  constructor(kernel: Kernel, { sampleRateHz, centreHz, halfWidthHz, transitionHz, leastRateHz }: DownConverterShape) {
    const early = Math.floor(sampleRateHz / (EARLY_ROOM * leastRateHz));
    const steps: Decimator[] = [];
    let rate = sampleRateHz;
    const reach = halfWidthHz + transitionHz / 2;
    if (early > 1) {
      // What would fold onto the channel lies a whole new rate away from it.
      const taps = lowPassTaps(rate, rate / early / 2, rate / early - 2 * reach);
      steps.push(new Decimator(kernel, rate, early, taps, centreHz));
      rate /= early;
    }
    const late = Math.max(1, Math.floor(rate / leastRateHz));
    // A channel as wide as the file keeps all of it.
    const taps = reach < rate / 2 ? lowPassTaps(rate, halfWidthHz, transitionHz) : Float64Array.of(1);
    steps.push(new Decimator(kernel, rate, late, taps, centreHz));
    this.#steps = steps;
    this.sampleRateHz = rate / late;
    this.#turn = (-2 * Math.PI * centreHz) / this.sampleRateHz;
  }

  /** Takes a block and gives the channel's pairs, as doubles: I and Q. */
  push(block: PairBlock): { i: Float64Array; q: Float64Array } {
    let pairs: Float32Array = block.values().slice();
    for (const step of this.#steps) pairs = step.push(pairs);
    return this.#turned(pairs);
  }

  #turned(pairs: Float32Array): { i: Float64Array; q: Float64Array } {
    const count = pairs.length / 2;
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
