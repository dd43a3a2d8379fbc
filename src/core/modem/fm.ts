/** Frequency modulation: a carrier of one size whose frequency follows the audio, and back. */
import type { Complex } from '../dsp/index.ts';
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
    return i.map((x, n) => {
      const turn = Math.atan2(q[n] * this.#i - x * this.#q, x * this.#i + q[n] * this.#q);
      this.#i = x;
      this.#q = q[n];
      return turn * perTurn;
    });
  }
}
