/**
 * Pitch of a voice. Source: A. de Cheveigne and H. Kawahara 2002 ("YIN"): cumulative mean normalised
 * difference, absolute threshold, parabolic refinement. Works without the fundamental itself, as through a
 * 300 Hz transmit filter.
 */
import type { Fraction, Hertz } from '../../units/index.ts';
import { BiquadChain, butterworthQs, lowPass } from '../filter/biquad.ts';
import { createKernel, type Kernel, type KernelArray } from '../kernel/kernel.ts';
import { median } from '../statistics/statistics.ts';

/** Voices lie above this; common practice. */
export const LOWEST_PITCH_HZ = 60;
/** Voices lie below this; common practice. */
export const HIGHEST_PITCH_HZ = 400;
const WORKING_RATE_HZ = 6000;
const LOWPASS_HZ = 1100;
const HOP_S = 0.02;
const WINDOW_S = 0.036;
/** Below this the first dip is taken as the period; below the looser one the frame still counts as voiced. */
const DIP_THRESHOLD = 0.15;
const VOICED_THRESHOLD = 0.3;
/** With less of the frames voiced the pitch is not told. */
export const LEAST_VOICED_SHARE: Fraction = 0.1;

/** Median pitch of the voiced frames, and their share of all. */
export interface Pitch {
  /** Median over voiced frames; null when under a tenth of the frames are voiced. */
  readonly medianHz: Hertz | null;
  readonly voicedShare: Fraction;
}

/** The rate that pitch is looked for at, and what makes it: the voice's lowest part, with every few samples one kept. */
export class LowBand {
  readonly sampleRateHz: Hertz;
  /** Samples of the stream to one of the low band. */
  readonly decimation: number;
  readonly #filter: BiquadChain;
  #skip = 0;

  constructor(sampleRateHz: Hertz) {
    this.decimation = Math.max(1, Math.floor(sampleRateHz / WORKING_RATE_HZ));
    this.sampleRateHz = sampleRateHz / this.decimation;
    this.#filter = new BiquadChain(butterworthQs(6).map((q) => lowPass(sampleRateHz, LOWPASS_HZ, q)));
  }

  push(block: Float64Array): Float64Array {
    const smooth = this.#filter.process(block.slice());
    const count = Math.max(0, Math.ceil((smooth.length - this.#skip) / this.decimation));
    const kept = new Float64Array(count);
    for (let n = 0, at = this.#skip; n < count; n++, at += this.decimation) kept[n] = smooth[at];
    this.#skip += count * this.decimation - smooth.length;
    return kept;
  }
}

/** Feeds on the low band of a recording. */
export class PitchMeter {
  readonly #rate: Hertz;
  readonly #window: number;
  readonly #longestLag: number;
  readonly #shortestLag: number;
  readonly #hop: number;
  readonly #buffer: Float64Array;
  readonly #difference: Float64Array;
  readonly #fast: { readonly kernel: Kernel; readonly samples: KernelArray; readonly out: KernelArray } | null;
  readonly #pitches: Hertz[] = [];
  #frames = 0;
  #filled = 0;
  #start = 0;

  /** @param isActive whether the samples [start, start + length) of the recording are talk; others are skipped */
  constructor(
    readonly band: Pick<LowBand, 'sampleRateHz' | 'decimation'>,
    readonly isActive: (start: number, length: number) => boolean,
    kernel: Kernel | null = createKernel(),
  ) {
    this.#rate = band.sampleRateHz;
    this.#window = Math.round(WINDOW_S * this.#rate);
    this.#longestLag = Math.ceil(this.#rate / LOWEST_PITCH_HZ) + 1;
    this.#shortestLag = Math.floor(this.#rate / HIGHEST_PITCH_HZ);
    this.#hop = Math.round(HOP_S * this.#rate);
    this.#buffer = new Float64Array(this.#window + this.#longestLag + 1);
    this.#difference = new Float64Array(this.#longestLag + 1);
    this.#fast = kernel && { kernel, samples: kernel.take(this.#buffer.length), out: kernel.take(this.#difference.length) };
  }

  push(low: Float64Array): void {
    for (let read = 0; read < low.length; ) {
      const take = Math.min(low.length - read, this.#buffer.length - this.#filled);
      this.#buffer.set(low.subarray(read, read + take), this.#filled);
      this.#filled += take;
      read += take;
      if (this.#filled === this.#buffer.length) this.#takeFrame();
    }
  }

  result(): Pitch {
    const voicedShare = this.#frames === 0 ? 0 : this.#pitches.length / this.#frames;
    return { medianHz: voicedShare < LEAST_VOICED_SHARE ? null : median(this.#pitches), voicedShare };
  }

  #takeFrame(): void {
    const { decimation } = this.band;
    if (this.isActive(this.#start * decimation, this.#buffer.length * decimation)) {
      this.#frames++;
      const pitch = this.#pitchOfBuffer();
      if (pitch !== null) this.#pitches.push(pitch);
    }
    this.#buffer.copyWithin(0, this.#hop);
    this.#filled -= this.#hop;
    this.#start += this.#hop;
  }

  /** Squared differences of the buffer from itself, later by each lag. */
  #differences(): void {
    const d = this.#difference;
    if (this.#fast) {
      const { kernel, samples, out } = this.#fast;
      kernel.floats(samples).set(this.#buffer);
      kernel.run.differences(samples.address, this.#window, this.#longestLag, out.address);
      d.set(kernel.floats(out));
      return;
    }
    const x = this.#buffer;
    for (let lag = 1; lag <= this.#longestLag; lag++) {
      d[lag] = 0;
      for (let n = 0; n < this.#window; n++) d[lag] += (x[n] - x[n + lag]) ** 2;
    }
  }

  #pitchOfBuffer(): Hertz | null {
    const d = this.#difference;
    this.#differences();
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
    const pitch = this.#rate / refined(d, best);
    return pitch >= LOWEST_PITCH_HZ && pitch <= HIGHEST_PITCH_HZ ? pitch : null;
  }
}

/** Lag of the parabola's lowest point through three neighbours. */
function refined(d: Float64Array, lag: number): number {
  const curve = d[lag - 1] - 2 * d[lag] + d[lag + 1];
  return curve > 0 ? lag + (d[lag - 1] - d[lag + 1]) / (2 * curve) : lag;
}
