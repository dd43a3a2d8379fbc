/** Active speech level. Source: ITU-T P.56, method B (time constant 30 ms, hangover 200 ms, margin 15.9 dB). */
import { amplitudeToDb, type Decibels, dbToPower, type Fraction, type Hertz, powerToDb } from '../../units/index.ts';
import { STEP_VALUES, StepFeed } from './steps.ts';

const HANGOVER_S = 0.2;
const MARGIN_DB = 15.9;
/** Thresholds are 2^-1, 2^-2 ... ; P.56 has 15 for 16-bit files, more only reach further down. */
const THRESHOLDS = 30;
/** An envelope times this is a whole number that counts its thresholds by its length in bits. */
const TOP_CODE = 2 ** THRESHOLDS;

/** Active speech level in dB re full scale (null in silence) and the share of time it is there. */
export interface ActiveSpeech {
  /** dB re full scale; null in silence. */
  readonly levelDb: Decibels | null;
  /** Share of the time with speech; null in silence. */
  readonly activity: Fraction | null;
}

/** Counts what the envelope of a stream reaches, step by step. */
export class SpeechCounter {
  readonly #hangover: number;
  /** histogram[k]: samples whose envelope reached exactly the k lowest thresholds. */
  readonly #histogram = new Float64Array(THRESHOLDS + 1);
  /** Samples kept by the hangover: + from the lowest threshold held, - above the highest. */
  readonly #heldSteps = new Float64Array(THRESHOLDS + 1);
  readonly #heldUntil = new Float64Array(THRESHOLDS).fill(-1);
  /** Highest threshold reached within the hangover. */
  #top = -1;
  #squares = 0;
  #n = 0;

  constructor(sampleRateHz: Hertz) {
    this.#hangover = Math.ceil(sampleRateHz * HANGOVER_S);
  }

  /** @param values of steps, as `StepReader` gives them  @param step samples of each */
  push(values: Float32Array, step: number): void {
    const histogram = this.#histogram;
    const heldSteps = this.#heldSteps;
    const heldUntil = this.#heldUntil;
    let squares = this.#squares;
    let top = this.#top;
    let n = this.#n;
    for (let at = 0; at < values.length; at += STEP_VALUES.count, n += step) {
      const envelope = values[at + STEP_VALUES.envelope];
      squares += values[at + STEP_VALUES.power];
      // floor(log2) of an integer through clz32, exact where Math.log2 rounds.
      const reached = envelope >= 0.5 ? THRESHOLDS : 32 - Math.clz32(envelope * TOP_CODE);
      histogram[reached] += step;
      // The highest threshold reached restarts the hangover of all below it; only it needs a note.
      if (reached > 0) heldUntil[reached - 1] = n + this.#hangover;
      if (reached > top) top = reached - 1;
      while (top >= reached && heldUntil[top] < n) top--;
      if (top >= reached) {
        heldSteps[reached] += step;
        heldSteps[top + 1] -= step;
      }
    }
    this.#squares = squares;
    this.#top = top;
    this.#n = n;
  }

  result(): ActiveSpeech {
    if (this.#squares === 0) return { levelDb: null, activity: null };
    const longTermDb = powerToDb(this.#squares / this.#n);
    const levelDb = this.#marginCrossing();
    return { levelDb, activity: Math.min(1, dbToPower(longTermDb - levelDb)) };
  }

  /** The level A at which A - threshold falls to the margin, interpolated between thresholds in dB. */
  #marginCrossing(): Decibels {
    let below: { level: Decibels; excess: Decibels } | null = null;
    let reached = this.#n - this.#histogram[0];
    let held = 0;
    for (let j = 0; j < THRESHOLDS; j++) {
      held += this.#heldSteps[j];
      const active = reached + held;
      if (active === 0) break;
      const level = powerToDb(this.#squares / active);
      const excess = level - amplitudeToDb(2 ** (j - THRESHOLDS)) - MARGIN_DB;
      if (excess <= 0) {
        if (!below) return level;
        const share = below.excess / (below.excess - excess);
        return below.level + share * (level - below.level);
      }
      below = { level, excess };
      reached -= this.#histogram[j + 1];
    }
    return below?.level ?? powerToDb(this.#squares / this.#n);
  }
}

/** ITU-T P.56, method B, over a stream of mono samples. */
export class ActiveSpeechMeter {
  readonly #feed: StepFeed;
  readonly #counter: SpeechCounter;
  #isEnded = false;

  constructor(sampleRateHz: Hertz) {
    this.#feed = new StepFeed(sampleRateHz, Math.max(1, Math.round(sampleRateHz / 1000)));
    this.#counter = new SpeechCounter(sampleRateHz);
  }

  push(block: Float64Array): void {
    this.#counter.push(this.#feed.push(block), this.#feed.reader.step);
  }

  /** Once no more come. */
  result(): ActiveSpeech {
    if (!this.#isEnded) {
      const { samples, values } = this.#feed.reader.end();
      this.#counter.push(values, samples);
      this.#isEnded = true;
    }
    return this.#counter.result();
  }
}
