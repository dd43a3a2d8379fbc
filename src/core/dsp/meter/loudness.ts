/**
 * Integrated loudness. Source: ITU-R BS.1770 (K-weighting, 400 ms blocks overlapping by 75 %,
 * absolute gate -70 LUFS, relative gate -10 LU). One channel, counted once.
 */
import { dbToAmplitude, dbToPower, type Hertz, type Power, powerToDb } from '../../units/index.ts';
import { type Biquad, cascadeDb } from '../filter/biquad.ts';
import { Room, type SamplesAt } from '../filter/tuner.ts';
import type { Kernel, KernelArray } from '../kernel/kernel.ts';
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

/** Four stretches are weighted at once, of so many steps each. */
const STRETCHES = 4;
const STEPS_A_STRETCH = 4;
/** Before a stretch the filter settles over this: its slower section forgets by 80 dB in it. */
const SETTLE_S = 0.06;
/** Above this the weighting is flat (to a few hundredths of a dB). */
const FLAT_FROM_HZ = 9000;

/** Loudness of a stream in the kernel's memory; keeps one number per step of 100 ms. Rates of 4 kHz and up. */
export class LoudnessMeter {
  readonly #sections: KernelArray;
  readonly #energies: KernelArray;
  readonly #plain: KernelArray;
  readonly #settle: number;
  readonly #buffer: Room;
  #filled: number;
  readonly #weighted: Power[] = [];
  readonly #powers: Power[] = [];

  /** @param stepSamples about 100 ms */
  constructor(
    readonly kernel: Kernel,
    readonly sampleRateHz: Hertz,
    readonly stepSamples: number,
  ) {
    const values = kWeighting(sampleRateHz).flatMap(({ b0, b1, b2, a1, a2 }) => [b0, b1, b2, a1, a2]);
    this.#sections = kernel.take(values.length);
    kernel.floats(this.#sections).set(values);
    this.#energies = kernel.take(STRETCHES * STEPS_A_STRETCH);
    this.#plain = kernel.take(STRETCHES * STEPS_A_STRETCH);
    this.#settle = Math.round(SETTLE_S * sampleRateHz);
    this.#buffer = new Room(kernel);
    // Silence ahead of the stream.
    this.#filled = this.#settle;
    this.#buffer.forValues(this.#whole);
  }

  get #whole(): number {
    return this.#settle + STRETCHES * STEPS_A_STRETCH * this.stepSamples;
  }

  push({ address, count }: SamplesAt): void {
    for (let read = 0; read < count; ) {
      const take = Math.min(count - read, this.#whole - this.#filled);
      this.kernel.run.move(this.#buffer.forValues(0) + 4 * this.#filled, address + 4 * read, 4 * take);
      this.#filled += take;
      read += take;
      if (this.#filled === this.#whole) this.#weigh(STRETCHES * STEPS_A_STRETCH);
    }
  }

  /** Takes the first steps of the buffer; what they settle in stays before them. */
  #weigh(steps: number): void {
    const { kernel } = this;
    const buffer = this.#buffer.forValues(0);
    const stride = STEPS_A_STRETCH * this.stepSamples;
    const [sections, energies, plain] = [this.#sections, this.#energies, this.#plain].map(({ address }) => address);
    kernel.run.weightedEnergies(buffer, stride, this.#settle, this.stepSamples, STEPS_A_STRETCH, sections, energies, plain);
    for (let k = 0; k < steps; k++) {
      this.#weighted.push(kernel.floats(this.#energies)[k] / this.stepSamples);
      this.#powers.push(kernel.floats(this.#plain)[k] / this.stepSamples);
    }
    const used = this.#whole - this.#settle;
    this.#filled = Math.max(0, this.#filled - used);
    kernel.run.move(buffer, buffer + 4 * used, 4 * this.#filled);
  }

  /**
   * LUFS, once no more come; null when the stream is shorter than one block or never passes the gates.
   * @param whole powers of the steps of all that was recorded, where the stream is only its lower part: what lies above
   *   is weighted alike
   */
  result(whole?: readonly Power[]): number | null {
    const left = Math.floor((this.#filled - this.#settle) / this.stepSamples);
    if (left > 0) {
      const buffer = this.#buffer.forValues(0);
      this.kernel.floats({ address: buffer + 4 * this.#filled, length: this.#whole - this.#filled }).fill(0);
      this.#weigh(left);
    }
    const above = dbToPower(cascadeDb(kWeighting(48_000), 48_000, FLAT_FROM_HZ));
    const steps = this.#weighted.map((power, k) => power + above * Math.max(0, (whole?.[k] ?? 0) - this.#powers[k]));
    const blocks: Power[] = [];
    for (let i = 3; i < steps.length; i++) blocks.push((steps[i - 3] + steps[i - 2] + steps[i - 1] + steps[i]) / 4);
    const loud = blocks.filter((power) => toLufs(power) > ABSOLUTE_GATE_LUFS);
    if (loud.length === 0) return null;
    const gate = toLufs(mean(loud)) + RELATIVE_GATE_LU;
    return toLufs(mean(loud.filter((power) => toLufs(power) > gate)));
  }
}

const toLufs = (power: Power): number => OFFSET_LU + powerToDb(power);
