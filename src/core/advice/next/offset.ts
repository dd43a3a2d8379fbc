/** The carrier offset of simple radios: it slides the voice along the filter, and no tone dial brings back what is cut off. */
import { type Dial, type DialValue, valueOn, valueText } from '../../rig/index.ts';
import type { Decibels } from '../../units/index.ts';
import { type CarrierBracket, isAway, isCutOff } from '../advisors/carrierBracket.ts';
import type { Look } from './look.ts';
import { cardOf, type NextInput, type SeenOver } from './seen.ts';

/** A move of the carrier offset. */
export interface OffsetMove {
  readonly dial: Dial;
  readonly to: DialValue;
  readonly why: string;
}

/** What no equalizer comes nearer to than this is for the passband to mend. */
export const FAR_DB: Decibels = 4;

/** Offsets so far apart that nobody hears apart: the dial does nothing here, and is left alone. */
const DEAD = { db: 2, hz: 200 } as const;

function isDead({ lines }: CarrierBracket): boolean {
  const heard = lines.filter(({ leanDb }) => leanDb !== null);
  const spread = (values: readonly number[]) => Math.max(...values) - Math.min(...values);
  return (
    heard.length >= 2 &&
    spread(heard.map(({ passbandHz }) => passbandHz[0])) >= DEAD.hz &&
    spread(heard.map(({ leanDb }) => leanDb ?? 0)) < DEAD.db
  );
}

/** The next offset to hear while it is bracketed, then the candidate that suits the purpose; null where it is no question. */
export function offsetMove({ bracket, tone, goal }: Look, { purpose }: NextInput, last: SeenOver): OffsetMove | null {
  if (!bracket || !tone || goal.alc === 'high') return null;
  const { dial, lines, next, sharp, mellow } = bracket;
  const now = Number(valueOn(cardOf(last), dial));
  const line = lines.find(({ offset }) => offset === now);
  if (!line || line.side === 'balanced' || isDead(bracket)) return null;
  // Inside what is left of a voice the tone may fit well while half of it is cut off.
  if (!isCutOff(line) && !(isAway(dial, now) && tone.bestDb > FAR_DB)) return null;
  const to = next?.offset ?? ((purpose === 'pile-up' || purpose === 'contest' ? sharp : mellow) ?? line).offset;
  if (to === now) return null;
  return {
    dial,
    to,
    why: `${dial.label} comes first: with ${valueText(dial, now)} the voice sounds ${line.side}, and no tone dial brings back what the filter cuts off`,
  };
}
