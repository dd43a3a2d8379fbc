/**
 * Pitch of a voice. Source: A. de Cheveigne and H. Kawahara 2002 ("YIN"): cumulative mean normalised
 * difference, absolute threshold, parabolic refinement. Works without the fundamental itself, as through a
 * 300 Hz transmit filter.
 */
import { BiquadChain, butterworthQs, lowPass } from './biquad.ts';
import { median } from './statistics.ts';
import type { Fraction, Hertz } from './units.ts';

export const LOWEST_PITCH_HZ = 60;
export const HIGHEST_PITCH_HZ = 400;
const WORKING_RATE_HZ = 6000;
const LOWPASS_HZ = 1100;
const HOP_S = 0.02;
const WINDOW_S = 0.036;
/** Below this the first dip is taken as the period; below the looser one the frame still counts as voiced. */
const DIP_THRESHOLD = 0.15;
const VOICED_THRESHOLD = 0.3;
export const LEAST_VOICED_SHARE: Fraction = 0.1;

export interface Pitch {
  /** Median over voiced frames; null when under a tenth of the frames are voiced. */
  readonly medianHz: Hertz | null;
  readonly voicedShare: Fraction;
}

export class PitchMeter {
  readonly #decimation: number;
  readonly #rate: Hertz;
  readonly #filter: BiquadChain;
  readonly #window: number;
  readonly #longestLag: number;
  readonly #shortestLag: number;
  readonly #hop: number;
  readonly #buffer: Float64Array;
  readonly #difference: Float64Array;
  readonly #pitches: Hertz[] = [];
  #frames = 0;
  #filled = 0;
  #phase = 0;
  #start = 0;

  /** @param isActive whether the samples [start, start + length) of the stream are talk; others are skipped */
  constructor(
    readonly sampleRateHz: Hertz,
    readonly isActive: (start: number, length: number) => boolean,
  ) {
    this.#decimation = Math.max(1, Math.floor(sampleRateHz / WORKING_RATE_HZ));
    this.#rate = sampleRateHz / this.#decimation;
    this.#filter = new BiquadChain(butterworthQs(6).map((q) => lowPass(sampleRateHz, LOWPASS_HZ, q)));
    this.#window = Math.round(WINDOW_S * this.#rate);
    this.#longestLag = Math.ceil(this.#rate / LOWEST_PITCH_HZ) + 1;
    this.#shortestLag = Math.floor(this.#rate / HIGHEST_PITCH_HZ);
    this.#hop = Math.round(HOP_S * this.#rate);
    this.#buffer = new Float64Array(this.#window + this.#longestLag + 1);
    this.#difference = new Float64Array(this.#longestLag + 1);
  }

  push(block: Float64Array): void {
    const smooth = this.#filter.process(block.slice());
    for (let n = 0; n < smooth.length; n++) {
      if (this.#phase === 0) this.#take(smooth[n]);
      this.#phase = (this.#phase + 1) % this.#decimation;
    }
  }

  result(): Pitch {
    const voicedShare = this.#frames === 0 ? 0 : this.#pitches.length / this.#frames;
    return { medianHz: voicedShare < LEAST_VOICED_SHARE ? null : median(this.#pitches), voicedShare };
  }

  #take(sample: number): void {
    this.#buffer[this.#filled++] = sample;
    if (this.#filled < this.#buffer.length) return;
    if (this.isActive(this.#start * this.#decimation, this.#buffer.length * this.#decimation)) {
      this.#frames++;
      const pitch = this.#pitchOfBuffer();
      if (pitch !== null) this.#pitches.push(pitch);
    }
    this.#buffer.copyWithin(0, this.#hop);
    this.#filled -= this.#hop;
    this.#start += this.#hop;
  }

  #pitchOfBuffer(): Hertz | null {
    const d = this.#difference;
    const x = this.#buffer;
    let running = 0;
    for (let lag = 1; lag <= this.#longestLag; lag++) {
      let sum = 0;
      for (let n = 0; n < this.#window; n++) {
        const step = x[n] - x[n + lag];
        sum += step * step;
      }
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
