/**
 * Pitch of a voice. Source: A. de Cheveigne and H. Kawahara 2002 ("YIN"): cumulative mean normalised
 * difference, absolute threshold, parabolic refinement. Works without the fundamental itself, as through a
 * 300 Hz transmit filter.
 */
import type { Fraction, Hertz } from '../../units/index.ts';
import { EvenHanded } from '../filter/evenHanded.ts';
import { Halver } from '../filter/halver.ts';
import { lowPassTaps } from '../filter/kaiser.ts';
import { Room, type SamplesAt } from '../filter/samplesAt.ts';
import type { Kernel, KernelArray } from '../kernel/kernel.ts';

/** Voices lie above this; common practice. */
export const LOWEST_PITCH_HZ = 60;
/** Voices lie below this; common practice. */
export const HIGHEST_PITCH_HZ = 400;
/** Half the amplitude is left here: a voice's second formant would hide the period. */
const LOWPASS_HZ = 1150;
const TRANSITION_HZ = 1000;
const WINDOW_S = 0.036;
/** Below this the first dip is taken as the period; below the looser one the frame still counts as voiced. */
const DIP_THRESHOLD = 0.15;
const VOICED_THRESHOLD = 0.3;
/** With less of the frames voiced the pitch is not told. */
export const LEAST_VOICED_SHARE: Fraction = 0.1;

/** Highest rate that is halved again: pitch is looked for at about this, or twice it. */
const LEAST_RATE_HZ = 5000;
/** Hum and pops are looked for at a rate of at least this. */
const LEAST_THINNED_HZ = 2500;
/** Kept whole on the way down. */
const KEPT_HZ = 1500;

/** The voice's lowest part at a low rate: halved again and again, then filtered. */
export class LowBand {
  readonly sampleRateHz: Hertz;
  /** Samples of the stream to one of the low band. */
  readonly factor: number;
  readonly thinnedRateHz: Hertz;
  readonly #halvers: readonly Halver[];
  readonly #filter: EvenHanded;
  readonly #picked: Room;
  #phase = 0;

  constructor(
    readonly kernel: Kernel,
    sampleRateHz: Hertz,
  ) {
    const halvers: Halver[] = [];
    let rate = sampleRateHz;
    for (; rate / 2 >= LEAST_RATE_HZ; rate /= 2) halvers.push(new Halver(kernel, rate, KEPT_HZ, 1));
    this.#halvers = halvers;
    this.sampleRateHz = rate;
    this.factor = sampleRateHz / rate;
    this.thinnedRateHz = rate / 2 >= LEAST_THINNED_HZ ? rate / 2 : rate;
    this.#picked = new Room(kernel);
    this.#filter = new EvenHanded(kernel, lowPassTaps(rate, LOWPASS_HZ, TRANSITION_HZ));
  }

  /** Every second of its samples, where the rate is high enough: the band holds nothing that would fold. */
  thinned({ address, count }: SamplesAt): SamplesAt {
    if (this.thinnedRateHz === this.sampleRateHz) return { address, count };
    const made = (count + 1 - this.#phase) >> 1;
    const out = this.#picked.forValues(made + 1);
    this.kernel.run.everySecond(address + 4 * this.#phase, 2 * made, out);
    this.#phase = (this.#phase + count) % 2;
    return { address: out, count: made };
  }

  push(samples: SamplesAt): SamplesAt {
    return this.#filter.push(this.#halvers.reduce((passed, halver) => halver.push(passed), samples));
  }
}

/** The kernel takes so many samples together. */
const PAIRED = 8;

/** Pitch of single frames, by the kernel. */
export class PitchFinder {
  /** Samples of a frame. */
  readonly size: number;
  readonly #window: number;
  readonly #longestLag: number;
  readonly #shortestLag: number;
  readonly #codes: KernelArray;
  readonly #products: KernelArray;
  readonly #work: KernelArray;

  /** @param rateHz of the low band */
  constructor(
    readonly kernel: Kernel,
    readonly rateHz: Hertz,
  ) {
    this.#window = PAIRED * Math.round((WINDOW_S * rateHz) / PAIRED);
    this.#longestLag = Math.ceil(rateHz / LOWEST_PITCH_HZ) + 1;
    this.#shortestLag = Math.floor(rateHz / HIGHEST_PITCH_HZ);
    this.size = PAIRED * Math.ceil((this.#window + this.#longestLag + 1) / PAIRED);
    this.#codes = kernel.take(this.size + PAIRED, 2);
    this.#products = kernel.take(this.#longestLag + 1);
    this.#work = kernel.take(this.#longestLag + 1, 8);
  }

  /** Pitch of the frame at an address of the kernel; null where it has none. */
  pitchOf(address: number): Hertz | null {
    const lag = this.kernel.run.pitchLag(
      address,
      this.size,
      this.#window,
      this.#shortestLag,
      this.#longestLag,
      DIP_THRESHOLD,
      VOICED_THRESHOLD,
      this.#codes.address,
      this.#products.address,
      this.#work.address,
    );
    const pitch = lag === 0 ? 0 : this.rateHz / lag;
    return pitch >= LOWEST_PITCH_HZ && pitch <= HIGHEST_PITCH_HZ ? pitch : null;
  }
}
