/** Drive against the next channel: whether an over was clean, and the highest mic gain that stays so. */
import { mean } from '../../dsp/index.ts';
import { overdrivenBy } from '../../findings/index.ts';
import type { SsbMeasurement } from '../../measure/index.ts';
import { type Dial, dialInRole, positionsOf, type RigProfile, shareOf, valueOn } from '../../rig/index.ts';
import { type Decibels, decibels, type Fraction } from '../../units/index.ts';
import { gainSpanDb, TENTH } from '../alcGain.ts';
import { isCompressedAlike } from './compression.ts';
import type { GoalState, SeenOver } from './seen.ts';

/** The next channel is clean below this, against the wanted power (the contract's limit). */
export const CLEAN_DB: Decibels = -36;
/** Above this SWR the antenna is looked at before anything is turned (common practice). */
export const MOST_SWR = 3;
/** How fast the next channel fills above the knee, dB for each dB of drive (third order; common practice). */
const GROWTH = 3;
/** The same where little or much of it is the amplifier's: what fades with the voice itself, and the fifth order. */
const LEAST_GROWTH = 1;
const MOST_GROWTH = 5;
/**
 * What is said differs: one text fills the next channel by so much more or less than another of the same voice at the same level (six
 * recorded voices of four texts each through simulated amplifiers, 20 stations: 1 to 5 dB).
 */
export const TEXT_DB: Decibels = 3;
const TEXT_SPREAD_DB: Decibels = TENTH * TEXT_DB;
/** Noise and filters let no next channel fall further; what is likely, and what may be. */
const LIKELY_FLOOR_DB: Decibels = -60;
const FLOOR_DB: Decibels = -80;
/** The least step down from an over that was not clean. */
const LEAST_STEP_DB: Decibels = 2;

/** Power in the louder next channel against the wanted power; null where it is unknown or only noise. */
export function nextChannelDb(radios: readonly SsbMeasurement[]): Decibels | null {
  const radio = radios.at(-1);
  if (!radio) return null;
  const sides = (['wantedSide', 'otherSide'] as const).flatMap((side) => {
    const level = radio.adjacentDb[side];
    return level === null || radio.notes[`adjacentDb.${side}`] !== undefined ? [] : [level];
  });
  return sides.length === 0 ? null : Math.max(...sides);
}

/** What tells of an over's drive. */
export type Driven = Pick<SeenOver, 'radios' | 'tests' | 'adjacentDb'>;

/** The next channel by a recording; where none tells, as it was read off an analyser. */
export const nextChannelOf = ({ radios, adjacentDb = null }: Driven): Decibels | null => nextChannelDb(radios) ?? adjacentDb;

/** Too much drive in a sentence: the next channel is not clean, or a fault was found. Null where neither is. */
export function tooMuchDrive(over: Driven): string | null {
  const { radios, tests = [] } = over;
  const level = nextChannelOf(over);
  if (level !== null && level > CLEAN_DB)
    return `The next channel is not clean: ${decibels(level, 0)} re the voice, and ${decibels(CLEAN_DB, 0)} or less is wanted.`;
  const twoTone = tests.findLast(({ kind }) => kind === 'two-tone');
  return overdrivenBy([...(radios.at(-1)?.findings ?? []), ...(twoTone?.findings ?? [])])?.text ?? null;
}

/** Whether an over was clean: by the next channel where it can be measured; else by a fault, of two tones as well. */
export function driveOf(over: Driven): GoalState['drive'] {
  const { radios, tests = [] } = over;
  const level = nextChannelOf(over);
  if (level === null && radios.length === 0 && !tests.some(({ kind }) => kind === 'two-tone')) return 'unknown';
  if (level !== null) return level > CLEAN_DB ? 'high' : 'ok';
  return tooMuchDrive(over) === null ? 'ok' : 'high';
}

/**
 * The highest share of the gain dial that keeps the next channel clean; 1 where nothing says otherwise.
 * @param shiftDb  how much more level the card that is asked about sends on than an over's card did, the gain aside
 * @param changeDb how much more its equalizer brings into the next channel than an over's did
 * @param isOdd    whether an over that was not clean is by itself: all overs inside the zone together are clean
 */
export function cleanShare(
  rig: RigProfile,
  overs: readonly SeenOver[],
  shiftDb: (over: SeenOver) => Decibels,
  changeDb: (over: SeenOver) => Decibels = () => 0,
  isOdd: (over: SeenOver) => boolean = () => false,
): Fraction {
  const dial = dialInRole(rig, 'mic-gain', overs[overs.length - 1].card.mode);
  if (!dial) return 1;
  const span = gainSpanDb(positionsOf(dial.scale).length);
  const last = overs[overs.length - 1];
  const told = overs
    .filter(({ card }) => isCompressedAlike(rig, card, last.card))
    .flatMap((over) => {
      const was = nextChannelOf(over);
      const state = driveOf(over);
      const level = was === null ? null : was + changeDb(over);
      // What a duller tone makes clean limits nothing; what a brighter one may make dirty, the next over tells.
      const isDirty = state === 'high' && (level === null || level > CLEAN_DB);
      return state === 'unknown' || (isDirty && isOdd(over)) ? [] : [{ level, isDirty, share: shareOn(over, dial) - shiftDb(over) / span }];
    });
  const dirty = told.filter(({ isDirty }) => isDirty);
  if (dirty.length === 0) return 1;
  // The ALC holds the drive while it acts: from clean overs nothing can be foreseen of how much more they would bear.
  const below = mean(dirty.map(({ level, share }) => share - Math.max(LEAST_STEP_DB, ((level ?? CLEAN_DB) - CLEAN_DB) / GROWTH) / span));
  const clean = Math.max(0, ...told.filter(({ isDirty }) => !isDirty).map(({ share }) => share));
  const lowest = Math.min(...dirty.map(({ share }) => share));
  return clean < lowest ? Math.max(below, clean) : mean([below, clean]);
}

/**
 * What the next channel of an over that was not clean should be with so much less gain: 10th, 50th and 90th percentile.
 * @param lessDb the same of the turn
 */
export const afterLessDb = (
  level: Decibels,
  [least, likely, most]: readonly [Decibels, Decibels, Decibels],
): [Decibels, Decibels, Decibels] => [
  Math.max(FLOOR_DB, level - GROWTH * likely - Math.hypot(MOST_GROWTH * most - GROWTH * likely, TEXT_SPREAD_DB)),
  Math.max(LIKELY_FLOOR_DB, level - GROWTH * likely),
  Math.max(LIKELY_FLOOR_DB, level - GROWTH * likely) + Math.hypot(GROWTH * likely - LEAST_GROWTH * least, TEXT_SPREAD_DB),
];

const shareOn = ({ card }: SeenOver, dial: Dial): Fraction => shareOf(dial, valueOn(card, dial));
