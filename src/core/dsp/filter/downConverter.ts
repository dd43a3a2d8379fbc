/** One channel cut out of a wide I/Q stream: moved to 0 Hz, filtered with linear phase, at a lower rate. */
import type { Hertz } from '../../units/index.ts';
import type { Kernel, KernelArray } from '../kernel/kernel.ts';
import type { PairBlock } from '../kernel/pairBlock.ts';
import type { Complex } from '../stream/complex.ts';
import { lowPassTaps } from './kaiser.ts';
import { PairFilter } from './pairFilter.ts';
import { floatsAt, Room, type SamplesAt } from './samplesAt.ts';
import { Tuner } from './tuner.ts';

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
  /** Filters by blocks, in the frequency domain: quicker for wide channels, and `end` then brings out what is still held. */
  readonly isByBlocks?: boolean;
}

/** Real taps of a low pass moved to a centre, the middle one at time 0. */
function turned(taps: Float64Array, centreHz: Hertz, rateHz: Hertz): Complex {
  const middle = (taps.length - 1) / 2;
  const angle = (k: number) => (2 * Math.PI * centreHz * (k - middle)) / rateHz;
  return { i: taps.map((tap, k) => tap * Math.cos(angle(k))), q: taps.map((tap, k) => tap * Math.sin(angle(k))) };
}

/** Turning by steps of a constant angle drifts by roundings: so often it is worked out anew. */
const EXACT_EVERY = 256;

/** A band of an I/Q stream, moved to 0 Hz, filtered and decimated, block by block. */
export class DownConverter {
  readonly sampleRateHz: Hertz;
  readonly #tuner: Tuner;
  readonly #filter: Pick<Decimator, 'push'>;
  /** By blocks: the same, with the silence that ends it. */
  readonly #blocks: PairFilter | null = null;
  readonly #turn: number;
  /** How far from 0 Hz the channel's centre lies before it is brought there. */
  readonly offsetHz: Hertz;
  #given = 0;
  #filtered = 0;
  /** How far the turning has come: samples since its begin, and where it stands. */
  #turned = 0;
  #cosine = 1;
  #sine = 0;

  constructor(
    readonly kernel: Kernel,
    { sampleRateHz, centreHz, halfWidthHz, transitionHz, leastRateHz, isByBlocks = false }: DownConverterShape,
  ) {
    const reach = halfWidthHz + transitionHz / 2;
    this.#tuner = new Tuner(kernel, { sampleRateHz, centreHz, keptHz: reach, leastRateHz });
    const rate = this.#tuner.sampleRateHz;
    const step = Math.max(1, Math.floor(rate / leastRateHz));
    // A channel as wide as the file keeps all of it.
    const taps = reach < rate / 2 ? lowPassTaps(rate, halfWidthHz, transitionHz) : Float64Array.of(1);
    const offset = centreHz - this.#tuner.centreHz;
    if (isByBlocks && step === 1 && taps.length > 1) this.#blocks = new PairFilter(kernel, turned(taps, offset, rate), 2);
    this.#filter = this.#blocks ?? new Decimator(kernel, rate, step, taps, offset);
    this.sampleRateHz = rate / step;
    this.offsetHz = offset;
    this.#turn = (-2 * Math.PI * offset) / this.sampleRateHz;
  }

  /** Takes a block and gives the channel's pairs, as doubles: I and Q. */
  push(block: PairBlock): { i: Float64Array; q: Float64Array } {
    return this.#atZero(this.turning(block));
  }

  /** What a filter by blocks still holds, once no more comes. */
  end(): { i: Float64Array; q: Float64Array } {
    return this.#atZero(this.turningEnd());
  }

  /** The same where it lies, for who needs no phase: it still turns by `offsetHz`. Good until the next call. */
  turning(block: PairBlock): SamplesAt {
    const tuned = this.#tuner.push(block.stored());
    this.#given += tuned.count;
    const filtered = this.#filter.push(tuned);
    this.#filtered += filtered.count;
    return filtered;
  }

  /** What a filter by blocks still holds; nothing of any other. */
  turningEnd(): SamplesAt {
    if (!this.#blocks) return { address: 0, count: 0 };
    const silence = this.kernel.take(2 * this.#blocks.tail);
    const { address } = this.#blocks.push({ address: silence.address, count: this.#blocks.tail });
    return { address, count: this.#given - this.#filtered };
  }

  #atZero({ address, count }: SamplesAt): { i: Float64Array; q: Float64Array } {
    const pairs = floatsAt(this.kernel, address, count);
    const i = new Float64Array(count);
    const q = new Float64Array(count);
    const stepC = Math.cos(this.#turn);
    const stepS = Math.sin(this.#turn);
    let c = this.#cosine;
    let s = this.#sine;
    for (let n = 0; n < count; n++) {
      i[n] = pairs[2 * n] * c - pairs[2 * n + 1] * s;
      q[n] = pairs[2 * n] * s + pairs[2 * n + 1] * c;
      this.#turned++;
      if (this.#turned % EXACT_EVERY === 0) {
        // At fixed places of the stream, so that it is the same for any cut of it.
        const angle = (this.#turned * this.#turn) % (2 * Math.PI);
        c = Math.cos(angle);
        s = Math.sin(angle);
      } else {
        const next = c * stepC - s * stepS;
        s = s * stepC + c * stepS;
        c = next;
      }
    }
    this.#cosine = c;
    this.#sine = s;
    return { i, q };
  }
}
