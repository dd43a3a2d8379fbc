/**
 * Integrated loudness. Source: ITU-R BS.1770 (K-weighting, 400 ms blocks overlapping by 75 %,
 * absolute gate -70 LUFS, relative gate -10 LU). One channel, counted once.
 */
import { dbToAmplitude, dbToPower, type Hertz, type Power, powerToDb } from '../../units/index.ts';
import { type Biquad, cascadeDb, responseDb } from '../filter/biquad.ts';
import { Room, type SamplesAt } from '../filter/samplesAt.ts';
import type { Kernel, KernelArray } from '../kernel/kernel.ts';
import { mean } from '../statistics/statistics.ts';

const OFFSET_LU = -0.691;
const ABSOLUTE_GATE: Power = dbToPower(-70 - OFFSET_LU);
const RELATIVE_GATE_LU = -10;

/** The two sections as BS.1770 prints them, for this rate. */
const PRINTED_HZ: Hertz = 48_000;
const HEAD: Biquad = { b0: 1.53512485958697, b1: -2.69169618940638, b2: 1.19839281085285, a1: -1.69065929318241, a2: 0.73248077421585 };
const RUMBLE: Biquad = { b0: 1, b1: -2, b2: 1, a1: -1.99004745483398, a2: 0.99007225036621 };
/** The head's curve is met here at any rate: where it is flat, on its slope, and where it is nearly flat again. */
const MET_HZ: readonly [Hertz, Hertz, Hertz] = [0, 2200, 6500];
/** The rumble filter's here, where it is flat. */
const FLAT_HZ: Hertz = 1000;

/**
 * The K-weighting at another rate than the printed one: the printed poles where they come to lie there, and zeros that give
 * the printed curve at three frequencies (M. Vicanek 2016, "Matched second order digital filters"). From 20 kHz up the
 * curve up to 7 kHz is the printed one within 0.0002 dB.
 */
export function kWeighting(sampleRateHz: Hertz): readonly [Biquad, Biquad] {
  if (sampleRateHz === PRINTED_HZ) return [HEAD, RUMBLE];
  const most = 0.4 * sampleRateHz;
  const met = MET_HZ.map((hz) => hz * Math.min(1, most / MET_HZ[2]));
  const poles = polesAt(HEAD, sampleRateHz);
  const under = { b0: 1, b1: 0, b2: 0, ...poles };
  // |numerator|^2 is a sum of three fixed curves: their weights follow from three values.
  const rows = met.map((hz) => {
    const high = Math.sin((Math.PI * hz) / sampleRateHz) ** 2;
    return [1 - high, high, 4 * high * (1 - high)];
  });
  const values = met.map((hz) => dbToPower(responseDb(HEAD, PRINTED_HZ, hz) - responseDb(under, sampleRateHz, hz)));
  const [low, high, bent] = threeUnknowns(rows, values);
  const middle = (Math.sqrt(low) + Math.sqrt(high)) / 2;
  const b0 = (middle + Math.sqrt(middle ** 2 + bent)) / 2;
  const head = { ...poles, b0, b1: (Math.sqrt(low) - Math.sqrt(high)) / 2, b2: -bent / (4 * b0) };
  const plain = { ...RUMBLE, ...polesAt(RUMBLE, sampleRateHz) };
  const gain = dbToAmplitude(responseDb(RUMBLE, PRINTED_HZ, FLAT_HZ) - responseDb(plain, sampleRateHz, FLAT_HZ));
  return [head, { ...plain, b0: gain, b1: -2 * gain, b2: gain }];
}

/** The poles of a section of the printed rate, where they lie at another one: the same frequencies and decay. */
function polesAt({ a1, a2 }: Biquad, sampleRateHz: Hertz): Pick<Biquad, 'a1' | 'a2'> {
  const power = PRINTED_HZ / sampleRateHz;
  const inside = a1 ** 2 / 4 - a2;
  if (inside >= 0) {
    const [p, q] = [1, -1].map((sign) => (-a1 / 2 + sign * Math.sqrt(inside)) ** power);
    return { a1: -(p + q), a2: p * q };
  }
  const radius = a2 ** (power / 2);
  return { a1: -2 * radius * Math.cos(power * Math.acos(-a1 / 2 / Math.sqrt(a2))), a2: radius ** 2 };
}

/** Three linear equations whose first row asks for the first unknown alone. */
function threeUnknowns([, b, c]: number[][], [x, y, z]: number[]): [number, number, number] {
  const [u, v] = [y - b[0] * x, z - c[0] * x];
  const determinant = b[1] * c[2] - b[2] * c[1];
  return [x, (u * c[2] - v * b[2]) / determinant, (b[1] * v - c[1] * u) / determinant];
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
    const above = dbToPower(cascadeDb(kWeighting(PRINTED_HZ), PRINTED_HZ, FLAT_FROM_HZ));
    const steps = this.#weighted.map((power, k) => power + above * Math.max(0, (whole?.[k] ?? 0) - this.#powers[k]));
    const blocks: Power[] = [];
    for (let i = 3; i < steps.length; i++) blocks.push((steps[i - 3] + steps[i - 2] + steps[i - 1] + steps[i]) / 4);
    const loud = blocks.filter((power) => power > ABSOLUTE_GATE);
    if (loud.length === 0) return null;
    const gate = dbToPower(RELATIVE_GATE_LU) * mean(loud);
    return OFFSET_LU + powerToDb(mean(loud.filter((power) => power > gate)));
  }
}
