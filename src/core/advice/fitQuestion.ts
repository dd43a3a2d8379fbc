/** The question behind the equalizer fit: what is searched, what moves cost, and the numbers whose squares are made small. */
import { sum } from '../dsp/index.ts';
import { type Card, type Dial, dialOf, type EqualizerBand, type RigProfile } from '../rig/index.ts';
import type { Decibels, Hertz } from '../units/index.ts';
import type { HeardSpeech, ToneBasis } from './toneError.ts';

/** Costs in squared dB, weighed against the squared RMS error. Small: they decide between near equals. */
export interface FitCosts {
  /** For every dial that moves. */
  readonly move: number;
  /** For every dB that a band lifts or cuts: few broad moves rather than many that undo each other. */
  readonly lift: number;
  /** For every squared dB of a band's boost beyond 3 dB: boost lifts noise and eats headroom. */
  readonly boost: number;
  /** For every squared dB of a band's cut beyond 6 dB. */
  readonly cut: number;
  /** Factor on what bands cost that stand on one spot or fight each other (see pairCost); 0 where only the curve counts. */
  readonly crowding: number;
  /** For every squared dB by which the level into the ALC leaves its place: the overall gain is free, but mic gain has to make it up. */
  readonly level: number;
}

/** What moves cost besides the error they leave, chosen so that few broad moves win over many narrow ones. */
export const DEFAULT_COSTS: FitCosts = { move: 0.12, lift: 0.06, boost: 0.02, cut: 0.02, crowding: 1, level: 0.02 };
const FREE_BOOST_DB: Decibels = 3;
const FREE_CUT_DB: Decibels = 6;

/** What a band's level costs by itself. */
export function levelCost(level: Decibels, costs: FitCosts): number {
  const boost = Math.max(0, level - FREE_BOOST_DB);
  const cut = Math.max(0, -level - FREE_CUT_DB);
  return costs.lift * Math.abs(level) + costs.boost * boost ** 2 + costs.cut * cut ** 2;
}

/** What is searched: a card, its bands, the voice, and what counts. */
export interface FitSearch {
  readonly rig: RigProfile;
  readonly costs: FitCosts;
  /** What the level into the ALC should change by; it is held where it is when left out. */
  readonly levelDb?: Decibels;
  /** Leave alone what is mostly outside the passband. */
  readonly isInsideOnly: boolean;
  /** The card with the equalizer's own switches on. */
  readonly awake: Card;
  readonly bands: readonly EqualizerBand[];
  readonly basis: ToneBasis;
  readonly voice: HeardSpeech;
  readonly passbandHz: readonly [Hertz, Hertz];
  /** Equalizer response that the recording has in it. */
  readonly heardDb: readonly Decibels[];
  /** Equalizer response of the card as it stands. */
  readonly presentDb: readonly Decibels[];
}

/** Dial parts of a band that the fit may move. */
export function movableDials(rig: RigProfile, band: EqualizerBand): Dial[] {
  const isUnknown = rig.equalizer.kind === 'parametric' && rig.equalizer.width.meaning === 'unknown';
  return [band.centre, band.level, isUnknown ? null : band.width].filter((part) => typeof part === 'string').map((id) => dialOf(rig, id));
}

/** Turns band effects and responses into numbers whose plain sum of squares is what the search makes small. */
export interface Projection {
  readonly width: number;
  /** Gain taken out, weighted: adds up to the squared RMS error. */
  shape(effects: readonly Decibels[], into: Float64Array, at: number): void;
  /** The last number: change of the talk's level, to first order, against the card as it stands. */
  level(responseDb: ArrayLike<Decibels>, into: Float64Array, at: number): void;
}

/** For one question. */
export function projection({ basis, voice, costs }: FitSearch): Projection {
  const weights = basis.bands.map((band) => band.weight);
  const scale = weights.map((weight) => Math.sqrt(weight / sum(weights)));
  const parts = basis.bands.flatMap((band) => band.parts);
  const talk = sum(parts.map((i) => voice.speechPowers[i] ?? 0));
  const shares = parts.map((i) => (voice.speechPowers[i] ?? 0) / talk);
  const total = sum(weights);
  const last = basis.bands.length;
  return {
    width: last + 1,
    shape(effects, into, at) {
      let gain = 0;
      for (let b = 0; b < last; b++) gain += (weights[b] / total) * effects[b];
      for (let b = 0; b < last; b++) into[at + b] = scale[b] * (effects[b] - gain);
    },
    level(responseDb, into, at) {
      let change = 0;
      for (let k = 0; k < parts.length; k++) change += shares[k] * responseDb[parts[k]];
      into[at + last] = Math.sqrt(costs.level) * change;
    },
  };
}
