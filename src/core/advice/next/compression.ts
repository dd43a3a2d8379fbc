/** Compression as a school has it: where it stands, and the dials that bring it there. All shares are common practice. */
import { type Card, type DialValues, dialInRole, positionsOf, type RigProfile, shareOf, valueOn } from '../../rig/index.ts';
import type { Decibels, Fraction } from '../../units/index.ts';
import { compressionDials } from '../nearestDials.ts';
import type { CompressionWish } from './schools.ts';
import type { GoalState } from './seen.ts';

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

/** @param meterDb what the compression meter showed with this card; null where nobody looked */
export function compressionStanding(rig: RigProfile, card: Card, wish: CompressionWish, meterDb: Decibels | null): Standing {
  const amount = dialInRole(rig, 'compression', card.mode);
  if (!amount) return { state: 'ok', set: {} };
  const now = shareNow(rig, card);
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
    const middle = (low + high) / 2;
    const share = meterDb < 1 ? Math.min(1, now + 0.25) : Math.min(1, Math.max(0.05, (now * middle) / meterDb));
    return to(share, meterDb < low ? 'low' : 'high');
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

/** Share of the scale in use; 0 while it is switched off. */
function shareNow(rig: RigProfile, card: Card): Fraction {
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
