/** Frequency modulation: a carrier of one size whose frequency follows the audio, and back. */
import { type Complex, floatsAt, type Kernel, Room, type SamplesAt } from '../dsp/index.ts';
import type { Hertz } from '../units/index.ts';

/** Turns a stream of audio into a carrier of magnitude 1 whose frequency follows it. */
export class FrequencyModulator {
  #angle = 0;

  /** @param deviationHz deviation at audio of magnitude 1 */
  constructor(
    readonly sampleRateHz: Hertz,
    readonly carrierHz: Hertz,
    readonly deviationHz: Hertz,
  ) {}

  push(audio: Float64Array): Complex {
    const out = { i: new Float64Array(audio.length), q: new Float64Array(audio.length) };
    const perHertz = (2 * Math.PI) / this.sampleRateHz;
    for (let n = 0; n < audio.length; n++) {
      this.#angle = (this.#angle + perHertz * (this.carrierHz + this.deviationHz * audio[n])) % (2 * Math.PI);
      out.i[n] = Math.cos(this.#angle);
      out.q[n] = Math.sin(this.#angle);
    }
    return out;
  }
}

/** Instantaneous frequency of a stream of I and Q, hertz. */
export class Discriminator {
  #i = 0;
  #q = 0;

  constructor(readonly sampleRateHz: Hertz) {}

  push({ i, q }: Complex): Float64Array {
    const perTurn = this.sampleRateHz / (2 * Math.PI);
    const hz = new Float64Array(i.length);
    let lastI = this.#i;
    let lastQ = this.#q;
    for (let n = 0; n < i.length; n++) {
      hz[n] = perTurn * Math.atan2(q[n] * lastI - i[n] * lastQ, i[n] * lastI + q[n] * lastQ);
      lastI = i[n];
      lastQ = q[n];
    }
    this.#i = lastI;
    this.#q = lastQ;
    return hz;
  }
}

/** The same for pairs that lie in the kernel's memory, in single precision. */
export class PairDiscriminator {
  readonly #pairs: Room;
  readonly #turns: Room;
  #i = 0;
  #q = 0;

  /** @param offsetHz what the pairs turn by beside the frequency that is wanted */
  constructor(
    readonly kernel: Kernel,
    readonly sampleRateHz: Hertz,
    readonly offsetHz: Hertz,
  ) {
    this.#pairs = new Room(kernel);
    this.#turns = new Room(kernel);
  }

  push({ address, count }: SamplesAt): Float64Array {
    const { kernel } = this;
    const hz = new Float64Array(count);
    if (count === 0) return hz;
    // One pair ahead, the last of the block before; the kernel works on four at once.
    const pairs = this.#pairs.forPairs(count + 4);
    const turns = this.#turns.forValues(count + 4);
    kernel.run.move(pairs + 8, address, 8 * count);
    const view = floatsAt(kernel, pairs, count + 1);
    view[0] = this.#i;
    view[1] = this.#q;
    this.#i = view[2 * count];
    this.#q = view[2 * count + 1];
    kernel.run.turnsOf(pairs + 8, count, turns);
    const angles = kernel.floats({ address: turns, length: count });
    const perTurn = this.sampleRateHz / (2 * Math.PI);
    for (let n = 0; n < count; n++) hz[n] = perTurn * angles[n] - this.offsetHz;
    return hz;
  }
}
