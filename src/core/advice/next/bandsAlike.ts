/** What the bands of an equalizer come to as a level, and what they may give the mic gain that it has not. */
import { mean } from '../../dsp/index.ts';
import {
  type Card,
  type Dial,
  type DialValues,
  dialInRole,
  effective,
  equalizerBands,
  nearestOn,
  positionsOf,
  type RigProfile,
  shareOf,
  valueOn,
} from '../../rig/index.ts';
import type { Decibels, Fraction } from '../../units/index.ts';
import { gainSpanDb, METER_DB } from '../alcGain.ts';
import { cardOf, type GoalState, type NextInput, type SeenOver } from './seen.ts';

/** A mic gain this near an end of its dial has hardly any room left; bands that lift or cut by so much on average are moved alike. */
const GAIN_END: Fraction = 0.12;
const LEAST_LIFT_DB: Decibels = 2;
const MOST_ALIKE_DB: Decibels = 8;

/**
 * With the mic gain at an end of its dial: every live band moved as much the other way, where together they only lift or
 * only cut, which is level and not tone. Null where the gain has room, or the bands have nothing to give. Bands of a parametric
 * equalizer do not cover the passband: moved alike they are tone.
 */
export function bandsAlike({ rig, mode }: NextInput, last: SeenOver, values: DialValues, state: GoalState['alc']): DialValues | null {
  if (rig.equalizer.kind === 'parametric' || (state !== 'high' && state !== 'low')) return null;
  if (endOf(rig, mode, last) !== (state === 'high' ? 'foot' : 'top')) return null;
  const sign = state === 'high' ? 1 : -1;
  const levels = liveLevels(rig, { mode, values });
  const lift = levels.length === 0 ? 0 : sign * mean(levels.map((dial) => Number(values[dial.id] ?? valueOn(cardOf(last), dial))));
  if (lift < LEAST_LIFT_DB) return null;
  const by = sign * Math.min(lift, MOST_ALIKE_DB);
  return Object.fromEntries(levels.map((dial) => [dial.id, nearestOn(dial, Number(values[dial.id]) - by)]));
}

/** The most that is asked of an equalizer at once. */
const MOST_LEVEL_DB: Decibels = 6;

/** A level that is wanted of an equalizer, since the mic gain has no room left. */
export interface WantedLevel {
  readonly levelDb: Decibels;
  /** For every squared dB that the level is away from it. */
  readonly cost: number;
  /** So much of the tone may be lost for it. */
  readonly mostLostDb: Decibels;
}
/** Costs (see `WantedLevel`): to come nearer to the zone, and to stay in it. */
const WANTED_COST = 0.06;
const KEPT_COST = 0.25;
/** How near to an end of the scale a reading is one of it. */
const AT_END: Fraction = 0.05;
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
  const isBound = likely <= AT_END || likely >= 1 - AT_END;
  const away = METER_DB * (isBound ? times : 1) * (mean(school.alcZone) - likely);
  return {
    levelDb: Math.max(-MOST_LEVEL_DB, Math.min(MOST_LEVEL_DB, away)),
    cost: WANTED_COST * times,
    mostLostDb: Math.min(LOST_AT_MOST_DB, MOST_LOST_DB + MORE_LOST_DB * (times - 1)),
  };
}

/**
 * With a level that is right and the mic gain at an end of its dial: what a parametric equalizer must leave of it, where a tone changes
 * it by so much that the gain would have to go beyond its end; null elsewhere.
 */
export function keptLevel({ rig, mode }: Pick<NextInput, 'rig' | 'mode'>, last: SeenOver, changeDb: Decibels): WantedLevel | null {
  const end = endOf(rig, mode, last);
  const isBeyond = (end === 'top' && changeDb < -LEAST_LIFT_DB) || (end === 'foot' && changeDb > LEAST_LIFT_DB);
  return isBeyond && rig.equalizer.kind === 'parametric' ? { levelDb: 0, cost: KEPT_COST, mostLostDb: 0 } : null;
}

/** At which end of its dial the mic gain stands, or nearly; null for neither. */
function endOf(rig: RigProfile, mode: NextInput['mode'], over: SeenOver): 'top' | 'foot' | null {
  const gain = dialInRole(rig, 'mic-gain', mode);
  const share = gain ? shareOf(gain, valueOn(cardOf(over), gain)) : 0.5;
  if (share >= 1 - GAIN_END) return 'top';
  return share <= GAIN_END ? 'foot' : null;
}

/** Level dials of the bands that are in the path. */
const liveLevels = (rig: RigProfile, card: Card): Dial[] =>
  effective(rig, card).bands.flatMap(({ level }) => rig.dials.filter(({ id }) => id === level));

/** A step of the gain that may jump over a zone. */
const COARSE_DB: Decibels = 1;
/** So many steps of the sliders alike, of bass and treble each, are tried either way. */
const MOST_STEPS = 3;
const MOST_KNOB_STEPS = 2;
const eitherWay = (most: number): number[] => Array.from({ length: 2 * most + 1 }, (_, k) => k - most);

/**
 * An equalizer a step or more louder or softer: finer than a mic gain of coarse steps. Sliders alike, which leaves the tone as it
 * is; bass and treble by a step or two, which may not. No dial leaves its scale. None for parametric bands, whose rigs have fine gains.
 */
export function finerLevels(rig: RigProfile, card: Card): DialValues[] {
  const gain = dialInRole(rig, 'mic-gain', card.mode);
  const positions = gain ? positionsOf(gain.scale).length : 0;
  const isCoarse = positions > 1 && gainSpanDb(positions) / (positions - 1) >= COARSE_DB;
  const levels = isCoarse ? liveLevels(rig, card) : [];
  const turns: number[][] =
    rig.equalizer.kind === 'graphic'
      ? eitherWay(MOST_STEPS).map((by) => levels.map(() => by))
      : rig.equalizer.kind === 'tone'
        ? levels.reduce<number[][]>((all, _) => all.flatMap((each) => eitherWay(MOST_KNOB_STEPS).map((by) => [...each, by])), [[]])
        : [];
  return turns
    .filter((turn) => turn.some((by) => by !== 0))
    .flatMap((turn) => {
      const moved = levels.map((dial, k) => {
        const positions = positionsOf(dial.scale);
        return [dial.id, positions[positions.indexOf(valueOn(card, dial)) + turn[k]]] as const;
      });
      return moved.some(([, value]) => value === undefined) ? [] : [Object.fromEntries(moved)];
    });
}

/** The card with every band of its equalizer at 0 dB. */
export function withoutBands(rig: RigProfile, card: Card): Card {
  const levels = new Set(equalizerBands(rig).map(({ level }) => level));
  const flat = rig.dials.filter(({ id }) => levels.has(id)).map((dial) => [dial.id, nearestOn(dial, 0)]);
  return { mode: card.mode, values: { ...card.values, ...Object.fromEntries(flat) } };
}
