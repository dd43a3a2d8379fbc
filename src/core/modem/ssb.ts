/** Single sideband: audio to I and Q about a suppressed carrier, and back. */
import { analytic, type Complex, DownConverter, type Kernel, type PairBlock, shifted } from '../dsp/index.ts';
import type { Hertz } from '../units/index.ts';

/** Which sideband. */
export type Sideband = 'usb' | 'lsb';

/** Audio as SSB: its spectrum stands above (usb) or mirrored below (lsb) the carrier; |z| is the audio's envelope. */
export function ssbModulate(audio: Float64Array, rateHz: Hertz, carrierHz: Hertz, sideband: Sideband): Complex {
  const { i, q } = analytic(audio);
  return shifted({ i, q: sideband === 'usb' ? q : q.map((x) => -x) }, rateHz, carrierHz);
}

const LOWEST_HZ = 50;
const TRANSITION_HZ = 400;
const LEAST_RATE_HZ = 8000;

/** Gives the audio of one sideband out of a wide I/Q stream. */
export class SsbDemodulator {
  readonly sampleRateHz: Hertz;
  readonly #channel: DownConverter;
  readonly #turn: number;
  #n = 0;

  /** @param highestHz audio is kept from 50 Hz to here */
  constructor(kernel: Kernel, sampleRateHz: Hertz, carrierHz: Hertz, sideband: Sideband, highestHz: Hertz = 3400) {
    const sign = sideband === 'usb' ? 1 : -1;
    const middle = (LOWEST_HZ + highestHz) / 2;
    this.#channel = new DownConverter(kernel, {
      sampleRateHz,
      centreHz: carrierHz + sign * middle,
      halfWidthHz: (highestHz - LOWEST_HZ) / 2,
      transitionHz: TRANSITION_HZ,
      leastRateHz: Math.max(LEAST_RATE_HZ, 2 * highestHz + 1000),
    });
    this.sampleRateHz = this.#channel.sampleRateHz;
    this.#turn = (sign * 2 * Math.PI * middle) / this.sampleRateHz;
  }

  push(block: PairBlock): Float64Array {
    const { i, q } = this.#channel.push(block);
    return i.map((x, n) => {
      const angle = this.#turn * (this.#n + n);
      if (n === i.length - 1) this.#n += i.length;
      return x * Math.cos(angle) - q[n] * Math.sin(angle);
    });
  }
}
