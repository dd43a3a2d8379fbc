/**
 * Reach: how much weaker a signal may arrive and stay readable, against the same voice flat, uncompressed, 300 to
 * 2700 Hz, both at one peak envelope power. Readable means that the intelligibility index, frame by frame (K. Rhebergen
 * and N. Versfeld 2005), falls to the criterion in white noise; what follows the voice no more (coherence) counts as
 * noise too (J. Kates and K. Arehart 2005).
 */
import { gaussian, mean, percentile, type Random, seededRandom, standardDeviation, sum } from '../dsp/index.ts';
import { type Decibels, dbToPower, type Fraction, type Hertz, type Power, powerToDb } from '../units/index.ts';
import { activeFrames, type BandFrames, bandWidths } from './bandFrames.ts';
import { localCoherence } from './coherence.ts';
import { BAND_IMPORTANCE, bandAudibility, SII_BANDS } from './speechIntelligibility.ts';

/** About where half of the words of a sentence are understood. */
export const CRITERION: Fraction = 0.3;
/** The criterion's neighbours, to see whether the answer hangs on it. */
export const OTHER_CRITERIA: readonly Fraction[] = [0.2, 0.4];

/** Speech at the listener's ear: overall level of ordinary speech (ANSI S3.5-1997, normal effort). */
const EAR_LEVEL_DB: Decibels = 62.35;
const BANDS = SII_BANDS.length;
const HOP_S = 0.02133;
const LEAST_POWER: Power = 1e-30;
/** Noise per hertz between which the criterion is looked for. */
const [LEAST_NOISE_DB, MOST_NOISE_DB]: readonly [Decibels, Decibels] = [-140, 20];
/** Stretches that are drawn as a whole when the scatter over speech is estimated. */
const PIECE_FRAMES = Math.round(1 / HOP_S);

/** A voice at the receiver's output. */
export interface ReceivedVoice {
  /** What a receiver gives without noise, at peak envelope power 1. */
  readonly heard: BandFrames;
  /** The voice through all that is linear, in step with it. */
  readonly clean: BandFrames;
  readonly rateHz: Hertz;
}

/** A voice as reach sees it. */
export class ReadableVoice {
  /** Level of band b in frame f that follows the voice, at the ear, and power of that which does not. */
  readonly #speechDb: Float64Array;
  readonly #distortion: Float64Array;
  readonly #widths: readonly Hertz[];
  /** Brings the voice to the ear's level. */
  readonly #earDb: Decibels;
  readonly #densities = new Map<Fraction, Power | null>();
  /** Mean indices that were worked out, by the noise in dB: what one criterion has tried helps the next. */
  readonly #tried = new Map<Decibels, Fraction>();
  #scattered: Float64Array | null = null;
  readonly frames: number;
  /** Power that does not follow the voice and is no steady noise, re that which does. */
  readonly distortionDb: Decibels;
  /** Steady noise, of the room for example, re the voice. */
  readonly noiseDb: Decibels;

  /** @throws RangeError when nobody talks in it, or the two are not of one length */
  constructor({ heard, clean, rateHz }: ReceivedVoice) {
    if (heard.count !== clean.count) throw new RangeError('What is heard and the clean voice must be of one length.');
    const frames = activeFrames(clean);
    if (frames.length === 0) throw new RangeError('There is no speech to judge by.');
    const shares = localCoherence(clean, heard);
    this.frames = frames.length;
    this.#widths = bandWidths(heard, rateHz);
    const following = this.#pick(heard, frames, (at) => shares[at]);
    this.#distortion = this.#pick(heard, frames, (at) => 1 - shares[at]);
    const speech = sum(following);
    const noise = steadyNoise(heard);
    this.#earDb = EAR_LEVEL_DB - powerToDb(speech / frames.length);
    this.#speechDb = following.map((power, at) => powerToDb(power + LEAST_POWER) + this.#earDb - powerToDb(this.#widths[at % BANDS]));
    // Where a band is silent for a moment the room is all there is of it: noise, and no distortion.
    const bent = this.#distortion.reduce((total, power, at) => total + Math.max(0, power - NOISE_RANGE * noise[at % BANDS]), 0);
    this.distortionDb = powerToDb(Math.max(bent / speech, LEAST_SHARE));
    this.noiseDb = powerToDb(Math.max((sum(noise) * frames.length) / speech, LEAST_SHARE));
  }

  #pick({ powers }: BandFrames, frames: readonly number[], share: (at: number) => Fraction): Float64Array {
    const picked = new Float64Array(frames.length * BANDS);
    frames.forEach((f, n) => {
      for (let b = 0; b < BANDS; b++) picked[n * BANDS + b] = share(f * BANDS + b) * powers[f * BANDS + b];
    });
    return picked;
  }

  /**
   * Index of each frame in white noise.
   * @param density noise power per hertz
   * @param scatter each frame's noise is drawn around its mean when given
   */
  indices(density: Power, scatter: Random | null = null): Float64Array {
    const noise = new Float64Array(BANDS);
    const levels = this.#widths.map((width) => this.#earDb - powerToDb(width));
    // A band of noise over a frame has about width * time degrees of freedom.
    const spreads = this.#widths.map((width) => 1 / Math.sqrt(Math.max(1, width * HOP_S)));
    const normal = scatter && gaussian(scatter);
    const indices = new Float64Array(this.frames);
    for (let f = 0; f < this.frames; f++) {
      const from = f * BANDS;
      for (let b = 0; b < BANDS; b++) {
        const drawn = normal ? Math.max(0.05, 1 + normal() * spreads[b]) : 1;
        noise[b] = powerToDb(this.#distortion[from + b] + drawn * density * this.#widths[b] + LEAST_POWER) + levels[b];
      }
      const audible = bandAudibility(this.#speechDb.subarray(from, from + BANDS), noise);
      for (let b = 0; b < BANDS; b++) indices[f] += audible[b] * BAND_IMPORTANCE[b];
    }
    return indices;
  }

  /** The indices at CRITERION with the noise drawn: the same at every call. @param seed of the first call */
  scattered(density: Power, seed: number): Float64Array {
    this.#scattered ??= this.indices(density, seededRandom(seed));
    return this.#scattered;
  }

  #meanAt(db: Decibels): Fraction {
    const known = this.#tried.get(db);
    if (known !== undefined) return known;
    const index = mean(this.indices(dbToPower(db)));
    this.#tried.set(db, index);
    return index;
  }

  /** Noise density at which the mean index is at the criterion; null when it is not reached even without noise. */
  densityAt(criterion: Fraction): Power | null {
    const known = this.#densities.get(criterion);
    if (known !== undefined) return known;
    const density = this.#findDensity(criterion);
    this.#densities.set(criterion, density);
    return density;
  }

  #findDensity(criterion: Fraction): Power | null {
    const over = (db: Decibels) => this.#meanAt(db) - criterion;
    if (over(LEAST_NOISE_DB) < 0) return null;
    over(MOST_NOISE_DB);
    const tried = [...this.#tried].sort(([a], [b]) => a - b);
    let [low] = tried.findLast(([, index]) => index >= criterion) ?? [LEAST_NOISE_DB];
    let [high] = tried.find(([, index]) => index < criterion) ?? [MOST_NOISE_DB];
    let [above, below] = [over(low), over(high)];
    // False position with the Illinois weights: the index falls steadily, in some eight steps to a hundredth of a dB.
    let last = 0;
    for (let k = 0; k < 60 && high - low > 0.005; k++) {
      const at = low + ((high - low) * above) / (above - below);
      const value = over(at);
      if (Math.abs(value) < 3e-5) return dbToPower(at);
      if (value > 0) {
        [low, above] = [at, value];
        if (last > 0) below /= 2;
      } else {
        [high, below] = [at, value];
        if (last < 0) above /= 2;
      }
      last = value;
    }
    return dbToPower((low + high) / 2);
  }
}

/** A band's quietest tenth is noise; single frames of it reach a few times its level. */
const QUIET_PERCENT = 10;
const NOISE_RANGE = 4;
const LEAST_SHARE: Power = 1e-9;

function steadyNoise({ powers, count }: BandFrames): Power[] {
  return Array.from({ length: BANDS }, (_, b) =>
    percentile(
      Array.from({ length: count }, (_, f) => powers[f * BANDS + b]),
      QUIET_PERCENT,
    ),
  );
}

/** Reach against the flat voice, with its doubt, at the criterion and others. */
export interface Reach {
  /** How many dB weaker than the flat voice it may arrive. Null when the voice is not readable at all. */
  readonly reachDb: Decibels | null;
  /** One standard deviation, over stretches of this speech and over noise. */
  readonly uncertaintyDb: Decibels | null;
  /** The same at other criteria. */
  readonly atOtherCriteria: readonly (readonly [Fraction, Decibels | null])[];
  /** Peak envelope power over noise in 3 kHz at which it is just readable. */
  readonly neededSnrDb: Decibels | null;
  /** What does not follow the voice and is no noise, re what does. */
  readonly distortionDb: Decibels;
  /** Steady noise re the voice. */
  readonly noiseDb: Decibels;
}

/** @param flat the reference: the same voice flat, uncompressed, 300 to 2700 Hz, at the same peak envelope power */
export function reachOf(voice: ReadableVoice, flat: ReadableVoice): Reach {
  const at = (criterion: Fraction): Decibels | null => {
    const [own, other] = [voice.densityAt(criterion), flat.densityAt(criterion)];
    return own === null || other === null ? null : powerToDb(own / other);
  };
  const density = voice.densityAt(CRITERION);
  return {
    reachDb: at(CRITERION),
    uncertaintyDb: uncertainty(voice, flat),
    atOtherCriteria: OTHER_CRITERIA.map((criterion) => [criterion, at(criterion)]),
    neededSnrDb: density === null ? null : -powerToDb(density * 3000),
    distortionDb: voice.distortionDb,
    noiseDb: voice.noiseDb,
  };
}

/** Scatter of the paired difference of the indices over stretches of speech, as dB by the slope of the index. */
function uncertainty(voice: ReadableVoice, flat: ReadableVoice): Decibels | null {
  const [own, other] = [voice.densityAt(CRITERION), flat.densityAt(CRITERION)];
  if (own === null || other === null) return null;
  const [a, b] = [voice.scattered(own, 1), flat.scattered(other, 2)];
  const stretches: number[] = [];
  const frames = Math.min(a.length, b.length);
  for (let from = 0; from < frames; from += PIECE_FRAMES) {
    const part = [a, b].map((indices) => mean(indices.subarray(from, Math.min(frames, from + PIECE_FRAMES))));
    stretches.push(part[0] - part[1]);
  }
  if (stretches.length < 3) return null;
  const slope = (mean(voice.indices(own / 1.26)) - mean(voice.indices(own * 1.26))) / 2;
  return slope > 0 ? standardDeviation(stretches) / Math.sqrt(stretches.length - 1) / slope : null;
}
