/** Compression as a school has it: where it stands, and the dials that bring it there. All shares are common practice. */
import { type Card, type Dial, type DialValues, dialInRole, positionsOf, type RigProfile, shareOf, valueOn } from '../../rig/index.ts';
import type { Decibels, Fraction } from '../../units/index.ts';
import { gainSpanDb } from '../alcGain.ts';
import { type HeardWay, type StandingCard, shiftSince } from '../alcStanding.ts';
import { type CompressionReading, type CompressorBelief, chanceBetween, compressorBelief } from '../compressorLaw.ts';
import { compressionDials } from '../nearestDials.ts';
import type { CompressionWish } from './schools.ts';
import { cardOf, type GoalState, type SeenOver } from './seen.ts';

/** Shares of the scale that count as this school, and the one that is set. */
const SHARES: Readonly<Record<Exclude<CompressionWish, 'none' | 'handbook'>, readonly [Fraction, Fraction, Fraction]>> = {
  token: [0.2, 0.3, 0.4],
  'weak-mic': [0.6, 0.62, 0.65],
};
/** The handbook's: decibels on the compression meter. */
const HANDBOOK_DB: readonly [Decibels, Decibels] = [10, 20];
/** Where the handbook's search begins. */
const HANDBOOK_START: Fraction = 0.5;

interface Standing {
  readonly state: GoalState['compression'];
  /** Dials to set; empty where it is as wanted. */
  readonly set: DialValues;
}

/**
 * @param meterDb what the compression meter showed with this card; null where nobody looked
 * @param belief  what is known of the compressor; by that one reading when left out
 */
export function compressionStanding(
  rig: RigProfile,
  card: Card,
  wish: CompressionWish,
  meterDb: Decibels | null,
  belief?: CompressorBelief,
): Standing {
  const amount = dialInRole(rig, 'compression', card.mode);
  if (!amount) return { state: 'ok', set: {} };
  const now = compressionShare(rig, card);
  const to = (share: Fraction, state: GoalState['compression']): Standing => {
    const wanted = compressionDials(rig, card.mode, share);
    const set = Object.fromEntries(Object.entries(wanted).filter(([id, value]) => valueById(rig, card, id) !== value));
    return { state: Object.keys(set).length === 0 ? 'ok' : state, set };
  };
  if (wish === 'none') return now === 0 ? { state: 'ok', set: {} } : to(0, 'high');
  if (wish === 'handbook') {
    if (now === 0) return to(HANDBOOK_START, 'low');
    if (meterDb === null) return { state: 'unknown', set: {} };
    const [low, high] = HANDBOOK_DB;
    if (meterDb >= low && meterDb <= high) return { state: 'ok', set: {} };
    const known = belief ?? compressorBelief([{ share: now, db: meterDb, levelDb: 0 }]);
    const state = meterDb < low ? 'low' : 'high';
    const share = likeliestShare(amount, known, now, state);
    if (share !== null) return to(share, state);
    // At its upper end it does what it can; at its lower one the level before it is too much.
    return { state: state === 'low' ? 'ok' : state, set: {} };
  }
  const names = amount.scale.kind === 'options';
  if (names && wish === 'token') {
    // Only names: the lowest step above off.
    const steps = positionsOf(amount.scale);
    const share = 1 / Math.max(1, steps.length - 1);
    return now > 0 && Math.abs(now - share) < 1e-6 ? { state: 'ok', set: {} } : to(share, now === 0 ? 'low' : 'high');
  }
  const [low, aim, high] = SHARES[wish];
  if (now >= low - 1e-9 && now <= high + 1e-9) return { state: 'ok', set: {} };
  return to(aim, now < low ? 'low' : 'high');
}

/** Whether two cards compress alike: every dial of the compressor stands the same. */
export const isCompressedAlike = (rig: RigProfile, a: Card, b: Card): boolean =>
  rig.dials.every((dial) => dial.stage !== 'compressor' || valueOn(a, dial) === valueOn(b, dial));

/** What the compression meter showed so far while it was on, with the level as it was then beside the present card's. */
export function compressionReadings(
  rig: RigProfile,
  overs: readonly SeenOver[],
  now: StandingCard,
  ways: readonly HeardWay[],
): (CompressionReading & { readonly over: SeenOver })[] {
  const gain = dialInRole(rig, 'mic-gain', now.mode);
  const gainDb = (card: Card): Decibels => (gain ? gainSpanDb(positionsOf(gain.scale).length) * shareOf(gain, valueOn(card, gain)) : 0);
  return overs.flatMap((over) => {
    const share = compressionShare(rig, cardOf(over));
    if (over.compressionDb === null || share === 0) return [];
    // Before the compressor its own dials make no difference.
    const own = rig.dials.filter(({ stage }) => stage === 'compressor').map((dial) => [dial.id, valueOn(over.card, dial)]);
    const { shiftDb } = shiftSince(rig, over.card, { ...now, values: { ...now.values, ...Object.fromEntries(own) } }, ways);
    return [{ over, share, db: over.compressionDb, levelDb: gainDb(over.card) - gainDb(now) - shiftDb }];
  });
}

/** With less than this no position of the amount is right. */
const LEAST_CHANCE = 0.1;

/** The position above off that is likeliest to show what the handbook asks for, on the side of the present one that leads there; null where none does. */
function likeliestShare(dial: Dial, belief: CompressorBelief, now: Fraction, state: 'low' | 'high'): Fraction | null {
  const shares = positionsOf(dial.scale)
    .map((value) => shareOf(dial, value))
    .filter((share) => (state === 'low' ? share > now : share > 0 && share < now));
  const chances = shares.map((share) => chanceBetween(belief, share, HANDBOOK_DB));
  const most = Math.max(0, ...chances);
  return most < LEAST_CHANCE ? null : shares[chances.indexOf(most)];
}

/** How much less level brings a meter that shows too much into the middle of the handbook's range. */
export const tooMuchDb = (meterDb: Decibels): Decibels => meterDb - (HANDBOOK_DB[0] + HANDBOOK_DB[1]) / 2;

/** Share of the scale in use; 0 while it is switched off. */
export function compressionShare(rig: RigProfile, card: Card): Fraction {
  const amount = dialInRole(rig, 'compression', card.mode);
  const processor = dialInRole(rig, 'processor', card.mode);
  if (!amount) return 0;
  const need = amount.needs?.find(({ dial }) => dial === processor?.id);
  if (processor && need && !need.is.includes(String(valueOn(card, processor)))) return 0;
  return shareOf(amount, valueOn(card, amount));
}

function valueById(rig: RigProfile, card: Card, id: string) {
  const dial = rig.dials.find((each) => each.id === id);
  return dial && valueOn(card, dial);
}
