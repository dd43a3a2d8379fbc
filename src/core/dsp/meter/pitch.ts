/**
 * Pitch of a voice. Source: A. de Cheveigne and H. Kawahara 2002 ("YIN"): cumulative mean normalised
 * difference, absolute threshold, parabolic refinement. Works without the fundamental itself, as through a
 * 300 Hz transmit filter.
 */
import type { Fraction, Hertz } from '../../units/index.ts';
import { butterworthQs, lowPass } from '../filter/biquad.ts';
import { ThreeSections } from '../filter/threeSections.ts';
import { Halver, type SamplesAt } from '../filter/tuner.ts';
import type { Kernel, KernelArray } from '../kernel/kernel.ts';

/** Voices lie above this; common practice. */
export const LOWEST_PITCH_HZ = 60;
/** Voices lie below this; common practice. */
export const HIGHEST_PITCH_HZ = 400;
const LOWPASS_HZ = 1100;
const WINDOW_S = 0.036;
/** Below this the first dip is taken as the period; below the looser one the frame still counts as voiced. */
const DIP_THRESHOLD = 0.15;
const VOICED_THRESHOLD = 0.3;
/** With less of the frames voiced the pitch is not told. */
export const LEAST_VOICED_SHARE: Fraction = 0.1;

/** Highest rate that is halved again: pitch is looked for at about this, or twice it. */
const LEAST_RATE_HZ = 5000;
/** Kept whole on the way down. */
const KEPT_HZ = 1500;

/** The voice's lowest part at a low rate: halved again and again, then filtered. */
export class LowBand {
  readonly sampleRateHz: Hertz;
  /** Samples of the stream to one of the low band. */
  readonly factor: number;
  readonly #halvers: readonly Halver[];
  readonly #filter: ThreeSections;

  constructor(kernel: Kernel, sampleRateHz: Hertz) {
    const halvers: Halver[] = [];
    let rate = sampleRateHz;
    for (; rate / 2 >= LEAST_RATE_HZ; rate /= 2) halvers.push(new Halver(kernel, rate, KEPT_HZ, 1));
    this.#halvers = halvers;
    this.sampleRateHz = rate;
    this.factor = sampleRateHz / rate;
    this.#filter = new ThreeSections(
      kernel,
      butterworthQs(6).map((q) => lowPass(rate, LOWPASS_HZ, q)),
    );
  }

  push(samples: SamplesAt): SamplesAt {
    return this.#filter.push(this.#halvers.reduce((passed, halver) => halver.push(passed), samples));
  }
}

/** Largest magnitude of samples as whole numbers: sums of some hundred products of two then stay within 32 bits. */
const MOST_CODE = 2048;
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
  readonly #sums: KernelArray;
  readonly #difference: Float64Array;

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
    this.#sums = kernel.take(2, 8);
    this.#difference = new Float64Array(this.#longestLag + 1);
  }

  /** Pitch of the frame at an address of the kernel; null where it has none. */
  pitchOf(address: number): Hertz | null {
    const d = this.#difference;
    if (!this.#differences(address)) return null;
    let running = 0;
    for (let lag = 1; lag <= this.#longestLag; lag++) {
      const sum = d[lag];
      running += sum;
      d[lag] = running === 0 ? 1 : (sum * lag) / running;
    }
    let best = this.#shortestLag;
    for (let lag = this.#shortestLag; lag < this.#longestLag; lag++) {
      if (d[lag] < d[best]) best = lag;
      if (d[lag] < DIP_THRESHOLD && d[lag] <= d[lag + 1]) {
        best = lag;
        break;
      }
    }
    if (d[best] > VOICED_THRESHOLD || best <= this.#shortestLag) return null;
    const pitch = this.rateHz / refined(d, best);
    return pitch >= LOWEST_PITCH_HZ && pitch <= HIGHEST_PITCH_HZ ? pitch : null;
  }

  /** Squared differences of the frame from itself, later by each lag, by their products. False for silence. */
  #differences(address: number): boolean {
    const { kernel, size } = this;
    kernel.run.squares(address, size, this.#sums.address);
    const peak = kernel.doubles(this.#sums)[1];
    if (peak === 0) return false;
    kernel.run.toInt16(address, size, MOST_CODE / peak, this.#codes.address);
    kernel.run.correlations(this.#codes.address, this.#window, this.#longestLag, this.#products.address);
    const products = kernel.integers(this.#products);
    const codes = kernel.codes(this.#codes);
    const own = products[0];
    let later = own;
    for (let lag = 1; lag <= this.#longestLag; lag++) {
      later += codes[lag - 1 + this.#window] ** 2 - codes[lag - 1] ** 2;
      this.#difference[lag] = own + later - 2 * products[lag];
    }
    return true;
  }
}

/** Lag of the parabola's lowest point through three neighbours. */
function refined(d: Float64Array, lag: number): number {
  const curve = d[lag - 1] - 2 * d[lag] + d[lag + 1];
  return curve > 0 ? lag + (d[lag - 1] - d[lag + 1]) / (2 * curve) : lag;
}
