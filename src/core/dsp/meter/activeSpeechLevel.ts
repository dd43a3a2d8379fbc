/** Active speech level. Source: ITU-T P.56, method B (time constant 30 ms, hangover 200 ms, margin 15.9 dB). */
import { amplitudeToDb, type Decibels, dbToPower, type Fraction, type Hertz, powerToDb } from '../../units/index.ts';

const TIME_CONSTANT_S = 0.03;
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

/** ITU-T P.56, method B, over a stream of mono samples. */
export class ActiveSpeechMeter {
  readonly #smoothing: number;
  readonly #hangover: number;
  /** histogram[k]: samples whose envelope reached exactly the k lowest thresholds. */
  readonly #histogram = new Float64Array(THRESHOLDS + 1);
  /** Samples kept by the hangover: +1 at the lowest threshold held, -1 above the highest. */
  readonly #heldSteps = new Float64Array(THRESHOLDS + 1);
  readonly #heldUntil = new Float64Array(THRESHOLDS).fill(-1);
  /** Highest threshold reached within the hangover. */
  #top = -1;
  #squares = 0;
  #first = 0;
  #second = 0;
  #n = 0;

  constructor(sampleRateHz: Hertz) {
    this.#smoothing = Math.exp(-1 / (sampleRateHz * TIME_CONSTANT_S));
    this.#hangover = Math.ceil(sampleRateHz * HANGOVER_S);
  }

  push(block: Float64Array): void {
    const g = this.#smoothing;
    const histogram = this.#histogram;
    const heldSteps = this.#heldSteps;
    const heldUntil = this.#heldUntil;
    let squares = this.#squares;
    let first = this.#first;
    let second = this.#second;
    let top = this.#top;
    let n = this.#n;
    for (let i = 0; i < block.length; i++, n++) {
      const x = block[i];
      squares += x * x;
      first = g * first + (1 - g) * (x < 0 ? -x : x);
      second = g * second + (1 - g) * first;
      // floor(log2) of an integer through clz32, exact where Math.log2 rounds.
      const reached = second >= 0.5 ? THRESHOLDS : 32 - Math.clz32(second * TOP_CODE);
      histogram[reached]++;
      // The highest threshold reached restarts the hangover of all below it; only it needs a note.
      if (reached > 0) heldUntil[reached - 1] = n + this.#hangover;
      if (reached > top) top = reached - 1;
      while (top >= reached && heldUntil[top] < n) top--;
      if (top >= reached) {
        heldSteps[reached]++;
        heldSteps[top + 1]--;
      }
    }
    this.#squares = squares;
    this.#first = first;
    this.#second = second;
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
