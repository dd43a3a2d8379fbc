/**
 * Integrated loudness. Source: ITU-R BS.1770 (K-weighting, 400 ms blocks overlapping by 75 %,
 * absolute gate -70 LUFS, relative gate -10 LU). One channel, counted once.
 */
import { dbToAmplitude, type Hertz, type Power, powerToDb } from '../../units/index.ts';
import { type Biquad, BiquadChain } from '../filter/biquad.ts';
import { mean } from '../statistics/statistics.ts';

const ABSOLUTE_GATE_LUFS = -70;
const RELATIVE_GATE_LU = -10;
const OFFSET_LU = -0.691;

/**
 * BS.1770 prints coefficients for 48 kHz only. These analogue parameters give the same filters there and
 * the same curve at any other rate (derivation as in R. Rudolph's and B. Schmidt's public-domain notes on EBU R 128).
 */
export function kWeighting(sampleRateHz: Hertz): [Biquad, Biquad] {
  const headK = Math.tan((Math.PI * 1681.974450955533) / sampleRateHz);
  const headQ = 0.7071752369554196;
  const high = dbToAmplitude(3.999843853973347);
  const band = high ** 0.4996667741545416;
  const a0 = 1 + headK / headQ + headK * headK;
  const head: Biquad = {
    b0: (high + (band * headK) / headQ + headK * headK) / a0,
    b1: (2 * (headK * headK - high)) / a0,
    b2: (high - (band * headK) / headQ + headK * headK) / a0,
    a1: (2 * (headK * headK - 1)) / a0,
    a2: (1 - headK / headQ + headK * headK) / a0,
  };
  const lowK = Math.tan((Math.PI * 38.13547087602444) / sampleRateHz);
  const lowQ = 0.5003270373238773;
  const c0 = 1 + lowK / lowQ + lowK * lowK;
  const rumble: Biquad = {
    b0: 1,
    b1: -2,
    b2: 1,
    a1: (2 * (lowK * lowK - 1)) / c0,
    a2: (1 - lowK / lowQ + lowK * lowK) / c0,
  };
  return [head, rumble];
}

/** Feeds on the measured channel; keeps one number per 100 ms. Rates of 4 kHz and up. */
export class LoudnessMeter {
  readonly #filter: BiquadChain;
  readonly #stepSamples: number;
  readonly #steps: Power[] = [];
  #sum = 0;
  #filled = 0;

  constructor(sampleRateHz: Hertz) {
    this.#filter = new BiquadChain(kWeighting(sampleRateHz));
    this.#stepSamples = Math.round(sampleRateHz / 10);
  }

  push(block: Float64Array): void {
    const weighted = this.#filter.process(block.slice());
    for (let n = 0; n < weighted.length; n++) {
      this.#sum += weighted[n] ** 2;
      if (++this.#filled === this.#stepSamples) {
        this.#steps.push(this.#sum / this.#stepSamples);
        this.#sum = 0;
        this.#filled = 0;
      }
    }
  }

  /** LUFS; null when the stream is shorter than one block or never passes the gates. */
  result(): number | null {
    const blocks: Power[] = [];
    for (let i = 3; i < this.#steps.length; i++) {
      blocks.push((this.#steps[i - 3] + this.#steps[i - 2] + this.#steps[i - 1] + this.#steps[i]) / 4);
    }
    const loud = blocks.filter((power) => toLufs(power) > ABSOLUTE_GATE_LUFS);
    if (loud.length === 0) return null;
    const gate = toLufs(mean(loud)) + RELATIVE_GATE_LU;
    return toLufs(mean(loud.filter((power) => toLufs(power) > gate)));
  }
}

const toLufs = (power: Power): number => OFFSET_LU + powerToDb(power);
