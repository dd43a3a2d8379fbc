/** Frequency modulation: a carrier of one size whose frequency follows the audio, and back. */
import type { Complex } from '../dsp/signals/analytic.ts';
import type { Hertz } from '../units/units.ts';

/** @param deviationHz deviation at audio of magnitude 1; the carrier has magnitude 1 */
export function fmModulate(audio: Float64Array, rateHz: Hertz, carrierHz: Hertz, deviationHz: Hertz): Complex {
  let angle = 0;
  const angles = audio.map((x) => {
    angle = (angle + (2 * Math.PI * (carrierHz + deviationHz * x)) / rateHz) % (2 * Math.PI);
    return angle;
  });
  return { i: angles.map(Math.cos), q: angles.map(Math.sin) };
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
