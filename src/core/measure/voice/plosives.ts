/** Popping: short bursts of air on the microphone, far below the voice and as strong as it. */
import { FRAME_SECONDS, Halver, highPass, type Kernel, lowPass, median, type SamplesAt, ThreeSections } from '../../dsp/index.ts';
import { type Decibels, dbToPower, type Hertz, type Power } from '../../units/index.ts';

const LOW_HZ = 15;
const HIGH_HZ = 70;
/** The rate is halved while it stays at least this, and all is kept that the filters pass. */
const LEAST_RATE_HZ: Hertz = 600;
const KEPT_HZ: Hertz = 150;
/** Common practice: a pop is as loud as the talk itself and stands far out of the usual rumble. */
const RE_SPEECH_DB: Decibels = -6;
const RE_RUMBLE_DB: Decibels = 20;

/** Feeds on the low band of a recording. */
export class PlosiveMeter {
  readonly #halvers: readonly Halver[];
  readonly #filter: ThreeSections;
  readonly #frameSamples: number;
  readonly #powers: Power[] = [];
  #energy = 0;
  #filled = 0;

  constructor(
    readonly kernel: Kernel,
    sampleRateHz: Hertz,
  ) {
    const halvers: Halver[] = [];
    let rate = sampleRateHz;
    for (; rate / 2 >= LEAST_RATE_HZ; rate /= 2) halvers.push(new Halver(kernel, rate, KEPT_HZ, 1));
    this.#halvers = halvers;
    this.#filter = new ThreeSections(kernel, [highPass(rate, LOW_HZ), lowPass(rate, HIGH_HZ), lowPass(rate, HIGH_HZ)]);
    this.#frameSamples = Math.max(1, Math.round(rate * FRAME_SECONDS));
  }

  push(low: SamplesAt): void {
    const { address, count } = this.#filter.push(this.#halvers.reduce((passed, halver) => halver.push(passed), low));
    for (let from = 0; from < count; ) {
      const take = Math.min(count - from, this.#frameSamples - this.#filled);
      this.#energy += this.kernel.run.energy(address + 4 * from, take);
      this.#filled += take;
      from += take;
      if (this.#filled < this.#frameSamples) continue;
      this.#powers.push(this.#energy / this.#frameSamples);
      this.#energy = 0;
      this.#filled = 0;
    }
  }

  /** Number of pops, adjoining frames counted once. @param speechDb active speech level */
  pops(speechDb: Decibels): number {
    const powers = this.#powers;
    const loud = dbToPower(speechDb + RE_SPEECH_DB);
    if (!powers.some((power) => power > loud)) return 0;
    // Digital silence is no rumble.
    const rumble = median(powers.filter((power) => power > 0));
    const least = Math.max(loud, dbToPower(RE_RUMBLE_DB) * rumble);
    return powers.filter((power, i) => power > least && !(powers[i - 1] > least)).length;
  }
}
