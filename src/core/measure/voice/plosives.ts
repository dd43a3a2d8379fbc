/** Popping: short bursts of air on the microphone, far below the voice and as strong as it. */
import { BiquadChain, FrameMeter, highPass, lowPass, median } from '../../dsp/index.ts';
import { type Decibels, type Hertz, powerToDb } from '../../units/index.ts';

const LOW_HZ = 15;
const HIGH_HZ = 70;
/** Common practice: a pop is as loud as the talk itself and stands far out of the usual rumble. */
const RE_SPEECH_DB: Decibels = -6;
const RE_RUMBLE_DB: Decibels = 20;

/** Feeds on the low band of a recording. */
export class PlosiveMeter {
  readonly #filter: BiquadChain;
  readonly #frames: FrameMeter;

  constructor(sampleRateHz: Hertz) {
    this.#filter = new BiquadChain([highPass(sampleRateHz, LOW_HZ), lowPass(sampleRateHz, HIGH_HZ), lowPass(sampleRateHz, HIGH_HZ)]);
    this.#frames = new FrameMeter(sampleRateHz);
  }

  push(low: Float64Array): void {
    this.#frames.push(this.#filter.process(low.slice()));
  }

  /** Number of pops, adjoining frames counted once. @param speechDb active speech level */
  pops(speechDb: Decibels): number {
    const { powers } = this.#frames.result();
    const heard = powers.filter((power) => power > 0);
    if (heard.length === 0) return 0;
    const levels = powers.map(powerToDb);
    // Digital silence is no rumble.
    const least = Math.max(speechDb + RE_SPEECH_DB, median(heard.map(powerToDb)) + RE_RUMBLE_DB);
    return levels.filter((level, i) => level > least && !(levels[i - 1] > least)).length;
  }
}
