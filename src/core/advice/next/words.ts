/** What the engine says, in words. */
import { type Dial, type DialValue, shareOf } from '../../rig/index.ts';
import { type Decibels, decibels, type Fraction, fixed } from '../../units/index.ts';
import type { Worded } from './byWords.ts';
import type { GoalState, NextInput } from './seen.ts';
import type { ToneStanding } from './tone.ts';

/** Why the mic gain is turned. @param isOverdriven a fault of too much drive stands @param isAtEnd the meter shows no more */
export function gainPurpose(
  isOverdriven: boolean,
  state: GoalState['alc'],
  { dial, from, to }: { readonly dial: Dial; readonly from: DialValue; readonly to: DialValue },
  isWithOthers: boolean,
  isAtEnd: boolean,
): string {
  const isDown = shareOf(dial, to) < shareOf(dial, from);
  if (isDown && isOverdriven) return 'the transmitter is driven too hard';
  if (state === 'high' || state === 'low') return `the ALC was ${state === 'high' ? 'above' : 'below'} the zone`;
  if (isDown && isAtEnd) return 'the ALC stood at the end of its scale, which does not tell how far beyond it the level is';
  return isWithOthers
    ? 'the mic gain makes up for the change of level'
    : `all readings together put the level a little too ${isDown ? 'high' : 'low'}`;
}

/** That no position of the mic gain is right, and what helps then. @param share where it stands on its dial */
export function noPositionText(isLow: boolean, share: Fraction): string {
  const isAtEnd = isLow ? share >= 1 : share <= 0;
  const why = isAtEnd ? `the mic gain is at the ${isLow ? 'upper' : 'lower'} end of its dial` : 'its steps are too coarse';
  const how = isLow ? 'a little nearer to the microphone' : 'a little further from the microphone';
  return `No position of the mic gain brings the ALC into the zone: ${why}. Leave it where it is, and speak ${how}.`;
}

/** That a processor holds the level outside the zone, and what helps then. */
export const heldText = (isLow: boolean): string =>
  isLow
    ? 'The ALC stays below the zone whatever the mic gain does: a processor or a limiter holds the level. More gain would only distort. Leave it there, or look for the limiter and the processor’s output level in the menu.'
    : 'The ALC stays above the zone whatever the mic gain does: a processor holds the level there. Look for its output level in the menu, or use less of it.';

/** Where to look for an equalizer that does nothing. */
export const lookText = (dials: readonly string[]): string =>
  `little of the equalizer’s change was heard: look at its switch and bank on the radio (${dials.join(', ')})`;

/** The same before all is called done, where it is hardly likely. */
export const doubtedText = (dials: readonly string[]): string =>
  `The voice alone does not tell for certain that the equalizer is in the path: look at its switch and bank on the radio (${dials.join(', ')}), and say the same once more.`;

/** What else could be done: another setting of the equalizer, and what other stations say beside the recording. */
export function runnersUpOf({ tone, words }: { readonly tone: ToneStanding | null; readonly words: Worded | null }): string[] {
  const other = tone?.fit.runnerUp;
  return [
    ...(other ? [runnerUpText(Math.abs(other.errorDb - (tone?.fit.best.errorDb ?? 0)))] : []),
    ...(words && words.why !== '' && !words.isGood ? [`Other stations: ${words.why}. The recording comes first; ask by which path.`] : []),
  ];
}

const runnerUpText = (db: Decibels): string =>
  db < 0.1 ? 'Another equalizer setting is as good.' : `Another equalizer setting comes within ${decibels(db, 1)} of it.`;

/** That what a step turns is as it should be. */
export function scopeText(scope: NextInput['scope']): string {
  if (scope?.includes('tone')) return 'The tone is as near the target as these dials bring it.';
  return scope?.includes('compression') ? 'Compression is as your school has it.' : 'The level is where it belongs.';
}

/** "about −44 dB (−52 to −38)": a level that is to be expected, and its range. */
export const rangeAbout = ([low, likely, high]: readonly [Decibels, Decibels, Decibels]): string =>
  `about ${decibels(likely, 0)} (${[low, high].map((db) => fixed(db, 0)).join(' to ')})`;

/** With a capital letter. */
export const sentence = (text: string): string => (text === '' ? '' : text[0].toUpperCase() + text.slice(1));
