/** A level that is wanted of the equalizer, where the mic gain stands at an end of its dial. */
import { mean } from '../../dsp/index.ts';
import { dialInRole, type RigProfile, shareOf, valueOn } from '../../rig/index.ts';
import type { Decibels, Fraction } from '../../units/index.ts';
import { METER_DB } from '../alcGain.ts';
import { isInside } from './level.ts';
import { cardOf, type GoalState, type NextInput, type SeenOver } from './seen.ts';
import type { ToneStanding, WantedLevel } from './tone.ts';

/** A mic gain this near an end of its dial has hardly any room left. */
const GAIN_END: Fraction = 0.12;
/** A change of level that a gain at its end leaves alone. */
const FREE_CHANGE_DB: Decibels = 2;
/** The most that is asked of an equalizer at once. */
const MOST_LEVEL_DB: Decibels = 6;

/** Costs (see `WantedLevel`): to come nearer to the zone, and to stay in it. */
const WANTED_COST = 0.06;
const KEPT_COST = 0.25;
const MOST_LOST_DB: Decibels = 0.3;
/** Each further over that found the ALC on the same side asks for it more strongly, and the tone may lose more for it, up to so much. */
const MORE_LOST_DB: Decibels = 0.2;
const LOST_AT_MOST_DB: Decibels = 0.7;

/**
 * What a parametric equalizer should add to the level, where the mic gain stands at an end of its dial and the ALC is on the
 * far side of the zone; null where the gain has room.
 */
export function wantedLevel(
  { rig, mode, school, overs }: Pick<NextInput, 'rig' | 'mode' | 'school' | 'overs'>,
  last: SeenOver,
  { state, likely }: { readonly state: GoalState['alc']; readonly likely: Fraction | null },
): WantedLevel | null {
  if (rig.equalizer.kind !== 'parametric' || likely === null || (state !== 'low' && state !== 'high')) return null;
  const isAtEnd = (over: SeenOver) => endOf(rig, mode, over) === (state === 'low' ? 'top' : 'foot');
  if (!isAtEnd(last)) return null;
  const [low, high] = school.alcZone;
  const isBeyond = ({ alc }: SeenOver) => alc !== null && (state === 'low' ? alc < low : alc > high);
  const other = overs.findLastIndex((over) => !isAtEnd(over) || !isBeyond(over));
  const times = Math.max(1, overs.length - 1 - other);
  // At an end of the scale the level may be anywhere beyond it.
  const away = METER_DB * (isInside(likely) ? 1 : times) * (mean(school.alcZone) - likely);
  return {
    levelDb: Math.max(-MOST_LEVEL_DB, Math.min(MOST_LEVEL_DB, away)),
    cost: WANTED_COST * times,
    mostLostDb: Math.min(LOST_AT_MOST_DB, MOST_LOST_DB + MORE_LOST_DB * (times - 1)),
  };
}

/**
 * With a level that is right and the mic gain at an end of its dial: what an equalizer must leave of it, where a tone changes it by so
 * much that the gain would have to go beyond its end; null elsewhere.
 */
export function keptLevel({ rig, mode }: Pick<NextInput, 'rig' | 'mode'>, last: SeenOver, changeDb: Decibels): WantedLevel | null {
  const end = endOf(rig, mode, last);
  const isBeyond = (end === 'top' && changeDb < -FREE_CHANGE_DB) || (end === 'foot' && changeDb > FREE_CHANGE_DB);
  return isBeyond ? { levelDb: 0, cost: KEPT_COST, mostLostDb: 0 } : null;
}

/** At which end of its dial the mic gain stands, or nearly; null for neither. */
export function endOf(rig: RigProfile, mode: NextInput['mode'], over: SeenOver): 'top' | 'foot' | null {
  const gain = dialInRole(rig, 'mic-gain', mode);
  const share = gain ? shareOf(gain, valueOn(cardOf(over), gain)) : 0.5;
  if (share >= 1 - GAIN_END) return 'top';
  return share <= GAIN_END ? 'foot' : null;
}

/** A tone that gives the level, or half of it; null where either would lose too much of the tone. */
export const wantedTone = (level: WantedLevel, withLevel: (level: WantedLevel) => ToneStanding | null): ToneStanding | null =>
  firstOf([level, { ...level, levelDb: level.levelDb / 2 }], withLevel, ({ gainDb }) => gainDb >= -level.mostLostDb);

/** A tone that leaves the level, the more strictly the less it does; null where none will. @param isSpoilt takes the level away */
export const keptTone = (
  level: WantedLevel,
  withLevel: (level: WantedLevel) => ToneStanding | null,
  isSpoilt: (tone: ToneStanding) => boolean,
): ToneStanding | null =>
  firstOf(
    [1, 2, 4].map((times) => ({ ...level, cost: times * level.cost })),
    withLevel,
    (tone) => !isSpoilt(tone),
  );

/** The first of what is made of each that will do; null where none does. */
function firstOf<T, U>(all: readonly T[], made: (each: T) => U | null, isGood: (each: U) => boolean): U | null {
  for (const each of all) {
    const one = made(each);
    if (one && isGood(one)) return one;
  }
  return null;
}
