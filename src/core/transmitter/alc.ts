/**
 * Automatic level control: turns the drive down when its envelope passes full drive, fast down and slowly up again,
 * by no more than it has in reserve. The meter shows how much it turns down; operators read it with peak hold.
 */
import type { Complex } from '../signal/analytic.ts';
import { amplitudeToDb, dbToAmplitude } from '../signal/conversions.ts';
import { instantRadio, type RadioStage } from '../signal/stage.ts';
import { median } from '../signal/statistics.ts';
import type { Decibels, Fraction, Hertz, Seconds } from '../signal/units.ts';

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

export interface AlcReading {
  /** Median of what the meter held while talking, and its highest, as shares of the scale. Null before anything was said. */
  readonly usual: Fraction | null;
  readonly highest: Fraction | null;
}

/** How often the meter is looked at. */
const LOOK_S = 0.1;
/** Drive under this counts as a pause. */
const PAUSE_DB: Decibels = -30;

export class Alc implements RadioStage {
  readonly #shape: AlcShape;
  readonly #rateHz: Hertz;
  #reduction: Decibels = 0;
  /** Highest reduction and highest power of each look. */
  readonly #looks: { reduction: Decibels; power: number }[] = [];
  #inLook = 0;
  #mostReduction = 0;
  #mostPower = 0;
  readonly #stage: RadioStage;

  constructor(shape: AlcShape, rateHz: Hertz) {
    this.#shape = shape;
    this.#rateHz = rateHz;
    this.#stage = instantRadio((block) => this.#process(block));
  }

  push(block: Complex): Complex {
    return this.#stage.push(block);
  }
  end(): Complex {
    return this.#stage.end();
  }

  #process({ i, q }: Complex): Complex {
    const { thresholdDb, ratio, attackS, releaseS, reserveDb } = this.#shape;
    const attack = 1 - Math.exp(-1 / (this.#rateHz * attackS));
    const release = 1 - Math.exp(-1 / (this.#rateHz * releaseS));
    const threshold = 10 ** (thresholdDb / 10);
    const slope = (10 * (1 - 1 / ratio)) / Math.LN10;
    const toNeper = -Math.LN10 / 20;
    const look = Math.round(LOOK_S * this.#rateHz);
    let reduction = this.#reduction;
    let most = this.#mostReduction;
    let top = this.#mostPower;
    for (let n = 0; n < i.length; n++) {
      const power = i[n] * i[n] + q[n] * q[n];
      const target = power > threshold ? Math.min(reserveDb, slope * Math.log(power / threshold)) : 0;
      reduction += (target - reduction) * (target > reduction ? attack : release);
      if (reduction > 1e-4) {
        const gain = Math.exp(toNeper * reduction);
        i[n] *= gain;
        q[n] *= gain;
      }
      if (reduction > most) most = reduction;
      if (power > top) top = power;
      if (++this.#inLook === look) {
        this.#looks.push({ reduction: most, power: top });
        this.#inLook = 0;
        most = 0;
        top = 0;
      }
    }
    this.#reduction = reduction;
    this.#mostReduction = most;
    this.#mostPower = top;
    return { i, q };
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
