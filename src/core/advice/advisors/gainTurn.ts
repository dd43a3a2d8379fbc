/** A mic gain turned by decibels: by what is usual of its dial, and by what other positions were heard to give. */
import {
  type Card,
  type Dial,
  type DialValue,
  type MicrophoneUse,
  positionsOf,
  type RigProfile,
  valueOn,
  valueText,
} from '../../rig/index.ts';
import { type Decibels, dbToAmplitude, fixed } from '../../units/index.ts';
import { gainSpanDb } from '../alcGain.ts';

/** What one position of a mic gain is likely worth. */
export function stepDb(dial: Dial): Decibels {
  const { length } = positionsOf(dial.scale);
  return gainSpanDb(length) / Math.max(1, length - 1);
}

/** The position that is likely `db` away, one at least; the end of the dial where there is none. */
export function turnedBy(dial: Dial, from: DialValue, db: Decibels): DialValue {
  return movedBy(dial, from, Math.sign(db) * Math.max(stepDb(dial), Math.abs(db)));
}

/** The position nearest to `db` away, which may be the same. */
export function movedBy(dial: Dial, from: DialValue, db: Decibels): DialValue {
  const positions = positionsOf(dial.scale);
  const to = positions.indexOf(from) + Math.round(db / stepDb(dial));
  return positions[Math.min(positions.length - 1, Math.max(0, to))];
}

/** Something heard, and how the microphone was used then. */
export interface HeardThrough {
  readonly use: MicrophoneUse | null;
}

/**
 * What else was heard through the same microphone with the same switch and screen as `one`, and by what factor each would
 * have come in from the distance of `one`: sound pressure goes with one over the distance.
 */
export function throughSameMicrophone<T extends HeardThrough>(all: readonly T[], one: T): readonly { heard: T; factor: number }[] {
  const place = (use: MicrophoneUse | null) => JSON.stringify(use && [use.position, use.accessories]);
  return all
    .filter((each) => each !== one && place(each.use) === place(one.use))
    .map((heard) => ({ heard, factor: heard.use && one.use ? heard.use.distanceCm / one.use.distanceCm : 1 }));
}

/** Whether two cards have the same numbers but for one dial. */
export const differOnlyIn = (rig: RigProfile, dial: Dial, one: Card, other: Card): boolean =>
  rig.dials.every((each) => each.id === dial.id || valueOn(one, each) === valueOn(other, each));

/** What an I/Q recording says of the mic gain, where the level of a mode is more than the ALC: AM by its depth, FM by its deviation. */
export interface RadioGain {
  readonly dial: Dial;
  readonly from: DialValue;
  readonly to: DialValue;
  /** The level is where it belongs, or as near to it as this dial brings it without harm. */
  readonly isRight: boolean;
  /** It does harm as it is: a carrier that is cut off. */
  readonly isHarmful: boolean;
  /** What to do in few words, where it is neither a turn of the gain nor the distance. */
  readonly title?: string;
  /** What was heard beside what is wanted, in few words. */
  readonly note: string;
  readonly text: string;
}

/** Of two neighbours that are both wrong the other must be so much nearer to be worth a turn: less is the next over's scatter. */
const WORTH_DB: Decibels = 1;

/** Where a gain is turned. */
export interface GainTurn {
  readonly to: DialValue;
  /** The neighbours of which one gives too little and the other too much, as was heard: no position is right. */
  readonly gap: { readonly under: DialValue; readonly over: DialValue } | null;
}

/**
 * To a position that was heard to be right, and never beyond one that was heard to be wrong in the other direction.
 * @param wantedDb more that is wanted where the dial stands  @param heard the same of other positions, 0 where it was right
 */
export function turnByHeard(dial: Dial, from: DialValue, wantedDb: Decibels, heard: ReadonlyMap<DialValue, Decibels>): GainTurn {
  const positions = positionsOf(dial.scale);
  const sign = Math.sign(wantedDb);
  const here = { at: positions.indexOf(from), db: wantedDb };
  const ahead = [...heard]
    .map(([position, db]) => ({ at: positions.indexOf(position), db }))
    .filter(({ at }) => at >= 0 && sign * (at - here.at) > 0)
    .sort((a, b) => sign * (a.at - b.at));
  const right = ahead.find(({ db }) => db === 0);
  if (right) return { to: positions[right.at], gap: null };
  const beyond = ahead.find(({ db }) => sign * db < 0);
  if (!beyond) return { to: turnedBy(dial, from, wantedDb), gap: null };
  // The last before it that is still wrong in this direction.
  const before = ahead.filter(({ at, db }) => sign * db > 0 && sign * (beyond.at - at) > 0).at(-1) ?? here;
  const apart = Math.abs(beyond.at - before.at);
  if (apart === 1) {
    const [under, over] = sign > 0 ? [before, beyond] : [beyond, before];
    const nearer = Math.abs(beyond.db) < Math.abs(before.db) - WORTH_DB ? beyond : before;
    return { to: positions[nearer.at], gap: { under: positions[under.at], over: positions[over.at] } };
  }
  // Between two that were heard, by a straight line.
  const share = Math.abs(before.db) / (Math.abs(before.db) + Math.abs(beyond.db));
  const steps = Math.min(apart - 1, Math.max(1, Math.round(share * apart)));
  return { to: positions[before.at + sign * steps], gap: null };
}

/** "Leave Mic level at high and speak from about 1.3 times as far away." @param wantedDb where it is left or put */
export function gapText(dial: Dial, from: DialValue, to: DialValue, wantedDb: Decibels): string {
  const factor = fixed(dbToAmplitude(Math.abs(wantedDb)), 1);
  const place = wantedDb < 0 ? `from about ${factor} times as far away` : `nearer, at about 1/${factor} of the distance`;
  const put =
    to === from ? `Leave ${dial.label} at ${valueText(dial, to)}` : `${dial.label} ${valueText(dial, from)} → ${valueText(dial, to)},`;
  return `${put} and speak ${place}.`;
}
