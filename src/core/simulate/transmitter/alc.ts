/**
 * Automatic level control: turns the drive down when its envelope passes full drive, fast down and slowly up again,
 * by no more than it has in reserve. The meter shows how much it turns down; operators read it with peak hold.
 */
import { type Complex, joinedRadio, type Kernel, median, type RadioStage, Room } from '../../dsp/index.ts';
import { amplitudeToDb, type Decibels, dbToAmplitude, dbToPower, type Fraction, type Hertz, type Seconds } from '../../units/index.ts';
import { type GainTable, gainTable, lookUp } from './gainTable.ts';
import { type KernelStage, tableIn } from './kernelChain.ts';

/** Threshold, times and meter of the ALC. */
export interface AlcShape {
  /** Envelope at which it begins to act, re full drive. */
  readonly thresholdDb: Decibels;
  /** Decibels of drive over decibels let through, above the threshold. */
  readonly ratio: number;
  readonly attackS: Seconds;
  readonly releaseS: Seconds;
  /** It can't turn down by more. */
  readonly reserveDb: Decibels;
  /** Turning down by this much is the end of the meter's scale. */
  readonly scaleDb: Decibels;
  /** How long the meter holds a peak. */
  readonly holdS: Seconds;
}

/** Attack of a few periods of the voice's lows, so that a peak gets through for a moment, as in radios. */
export const USUAL_ALC: AlcShape = {
  thresholdDb: 0,
  ratio: 12,
  attackS: 0.002,
  releaseS: 0.5,
  reserveDb: 15,
  scaleDb: 12,
  holdS: 2,
};

/** What it settles at for a steady envelope. */
export const alcReductionDb = ({ thresholdDb, ratio, reserveDb }: AlcShape, driveDb: Decibels): Decibels =>
  Math.min(reserveDb, Math.max(0, driveDb - thresholdDb) * (1 - 1 / ratio));

/** What its meter showed; null without drive. */
export interface AlcReading {
  /** Median of what the meter held while talking, and its highest, as shares of the scale. Null before anything was said. */
  readonly usual: Fraction | null;
  readonly highest: Fraction | null;
}

/** How often the meter is looked at. */
const LOOK_S = 0.1;
/** Drive under this counts as a pause. */
const PAUSE_DB: Decibels = -30;

/** Samples that share one look at the drive: a third of a millisecond at 24 kHz, well under the attack. */
const GROUP = 8;

/** Gain that follows the peaks of the drive, with its meter. */
export class Alc implements RadioStage {
  readonly #shape: AlcShape;
  readonly #rateHz: Hertz;
  /** Amplitude gain over the reduction in dB. */
  readonly #gains: GainTable;
  /** Samples that do not make a group yet. */
  #left: Complex = { i: new Float64Array(0), q: new Float64Array(0) };
  #reduction: Decibels = 0;
  #gain = 1;
  /** Highest reduction and highest power of each look. */
  readonly #looks: { reduction: Decibels; power: number }[] = [];
  #inLook = 0;
  #mostReduction = 0;
  #mostPower = 0;

  constructor(shape: AlcShape, rateHz: Hertz) {
    this.#shape = shape;
    this.#rateHz = rateHz;
    this.#gains = gainTable((reduction) => dbToAmplitude(-reduction), shape.reserveDb + 1);
  }

  push(block: Complex): Complex {
    const all = joinedRadio(this.#left, block);
    const whole = all.i.length - (all.i.length % GROUP);
    this.#left = { i: all.i.slice(whole), q: all.q.slice(whole) };
    return this.#process({ i: all.i.subarray(0, whole), q: all.q.subarray(0, whole) });
  }

  end(): Complex {
    return this.#process(this.#left);
  }

  /** In groups from the first sample on; the last one may be short. The gain slides from group to group. */
  #process({ i, q }: Complex): Complex {
    const { thresholdDb, ratio, attackS, releaseS, reserveDb } = this.#shape;
    const attack = 1 - Math.exp(-GROUP / (this.#rateHz * attackS));
    const release = 1 - Math.exp(-GROUP / (this.#rateHz * releaseS));
    const threshold = dbToPower(thresholdDb);
    const slope = (10 * (1 - 1 / ratio)) / Math.LN10;
    const look = Math.round((LOOK_S * this.#rateHz) / GROUP);
    const gains = this.#gains;
    let reduction = this.#reduction;
    let gain = this.#gain;
    for (let from = 0; from < i.length; from += GROUP) {
      const to = Math.min(i.length, from + GROUP);
      let power = 0;
      for (let n = from; n < to; n++) {
        const each = i[n] * i[n] + q[n] * q[n];
        if (each > power) power = each;
      }
      const target = power > threshold ? Math.min(reserveDb, slope * Math.log(power / threshold)) : 0;
      reduction += (target - reduction) * (target > reduction ? attack : release);
      const next = reduction > 1e-4 ? lookUp(gains, reduction) : 1;
      if (next !== 1 || gain !== 1) {
        const step = (next - gain) / GROUP;
        for (let n = from; n < to; n++) {
          gain += step;
          i[n] *= gain;
          q[n] *= gain;
        }
        gain = next;
      }
      this.#watch(reduction, power, look);
    }
    this.#reduction = reduction;
    this.#gain = gain;
    return { i, q };
  }

  /** The same in the kernel's memory, pairs in and out. */
  inKernel(kernel: Kernel): KernelStage {
    const { thresholdDb, ratio, attackS, releaseS, reserveDb } = this.#shape;
    const table = tableIn(kernel, (reduction) => dbToAmplitude(-reduction), reserveDb + 1);
    const state = kernel.take(10, 8);
    const rate = (seconds: Seconds) => 1 - Math.exp(-GROUP / (this.#rateHz * seconds));
    const slope = (10 * (1 - 1 / ratio)) / Math.LN10;
    kernel
      .doubles(state)
      .set([dbToPower(thresholdDb), slope, reserveDb, rate(attackS), rate(releaseS), table.steps / (reserveDb + 1), 0, 1]);
    const look = Math.round((LOOK_S * this.#rateHz) / GROUP);
    const [buffer, held] = [new Room(kernel), new Room(kernel)];
    let left = 0;
    return {
      tail: GROUP,
      push: ({ address, count }) => {
        // Groups begin at fixed places of the stream: what fills none waits.
        const all = buffer.forPairs(left + count + GROUP, left);
        kernel.run.move(all + 8 * left, address, 8 * count);
        const whole = left + count - ((left + count) % GROUP);
        for (let from = 0; from < whole; ) {
          const groups = Math.min((whole - from) / GROUP, look - this.#inLook);
          kernel.run.level(all + 8 * from, groups * GROUP, table.at.address, state.address);
          const [mostReduction, mostPower] = kernel.doubles(state).subarray(8);
          this.#inLook += groups - 1;
          this.#watch(mostReduction, mostPower, look);
          from += groups * GROUP;
        }
        left = left + count - whole;
        const out = held.forPairs(whole + GROUP);
        kernel.run.move(out, all, 8 * whole);
        kernel.run.move(all, all + 8 * whole, 8 * left);
        return { address: out, count: whole };
      },
    };
  }

  #watch(reduction: Decibels, power: number, look: number): void {
    if (reduction > this.#mostReduction) this.#mostReduction = reduction;
    if (power > this.#mostPower) this.#mostPower = power;
    if (++this.#inLook < look) return;
    this.#looks.push({ reduction: this.#mostReduction, power: this.#mostPower });
    this.#inLook = 0;
    this.#mostReduction = 0;
    this.#mostPower = 0;
  }

  /** What the meter showed up to now, as an operator reads it. */
  reading(): AlcReading {
    const { holdS, scaleDb } = this.#shape;
    const hold = Math.round(holdS / LOOK_S);
    const pause = dbToAmplitude(PAUSE_DB) ** 2;
    const looks = this.#inLook > 0 ? [...this.#looks, { reduction: this.#mostReduction, power: this.#mostPower }] : this.#looks;
    const held = looks.map((_, k) => Math.max(...looks.slice(Math.max(0, k - hold), k + 1).map(({ reduction }) => reduction)));
    const talking = held.filter((_, k) => looks[k].power > pause);
    if (talking.length === 0) return { usual: null, highest: null };
    const share = (db: Decibels) => Math.min(1, db / scaleDb);
    return { usual: share(median(talking)), highest: share(Math.max(...talking)) };
  }

  /** Highest envelope that came in so far, re full drive; -Infinity before anything did. */
  peakDriveDb(): Decibels {
    return amplitudeToDb(Math.sqrt(Math.max(this.#mostPower, ...this.#looks.map(({ power }) => power))));
  }
}
