/** AM: mic gain against how deep the carrier is modulated. */
import { type Card, type Dial, type DialValue, dialInRole, type RigProfile, valueOn, valueText } from '../../rig/index.ts';
import { amplitudeToDb, type Decibels, type Fraction, roughPercent } from '../../units/index.ts';
import { stepDb, turnedBy } from './gainTurn.ts';

/** How deep an over was modulated, by its usual peaks. */
export interface Modulation {
  readonly up: Fraction;
  readonly down: Fraction;
  /** The carrier was cut off on downward peaks: how far beyond, nobody can tell. */
  readonly isCutOff: boolean;
}

/** What the depth says of the gain. */
export interface AmGain {
  readonly dial: Dial;
  readonly from: DialValue;
  readonly to: DialValue;
  readonly isRight: boolean;
  readonly text: string;
}

/** Peaks belong between these depths: near to full, and never cut off (common practice). */
export const AM_ZONE: readonly [Fraction, Fraction] = [0.7, 0.95];
/** Where a turn aims at. */
const AIM: Fraction = 0.85;
/** A carrier that is cut off gets so much less. */
const CUT_OFF_DB: Decibels = -3;
/** No more at once, however little was heard: the microphone may have been off. */
const MOST_DB: Decibels = 12;

/** Null where this mode has no mic gain. @param modulation measured with this card */
export function amGain(rig: RigProfile, card: Card, { up, down, isCutOff }: Modulation): AmGain | null {
  const dial = dialInRole(rig, 'mic-gain', card.mode);
  if (!dial) return null;
  const from = valueOn(card, dial);
  const depth = Math.max(up, down);
  const isOver = isCutOff || down > AM_ZONE[1];
  const seen = `Peaks modulate ${roughPercent(up)} up and ${roughPercent(down)} down; ${roughPercent(AM_ZONE[0])} to ${roughPercent(AM_ZONE[1])} is wanted.`;
  const answer = (to: DialValue, isRight: boolean, text: string): AmGain => ({ dial, from, to, isRight, text: `${seen} ${text}` });
  const here = `${dial.label} at ${valueText(dial, from)}`;
  if (!isOver && depth >= AM_ZONE[0]) return answer(from, true, `Leave ${here}.`);
  const what = isCutOff
    ? 'The carrier is cut off, which splatters'
    : isOver
      ? 'The next loud word cuts the carrier off'
      : 'Much carrier and little voice';
  const db = isCutOff ? CUT_OFF_DB : Math.min(MOST_DB, amplitudeToDb(AIM / (isOver ? down : depth)));
  // On a dial of coarse steps the next one may be too much: what is nearest to right stays.
  if (!isOver && db < stepDb(dial) / 2) return answer(from, true, `The next step of ${dial.label} would likely be too much: leave it.`);
  const to = turnedBy(dial, from, db);
  if (to !== from) return answer(to, false, `${what}: ${dial.label} ${valueText(dial, from)} → ${valueText(dial, to)}.`);
  return answer(
    from,
    false,
    `${what}, and ${dial.label} is at its end. ${isOver ? 'Speak from farther away' : 'Speak at half the distance: that is worth about 6 dB'}.`,
  );
}
