/** What the bands of an equalizer come to as a level: all of them alike, or none of them. */
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
  const gain = dialInRole(rig, 'mic-gain', mode);
  if (!gain || rig.equalizer.kind === 'parametric' || (state !== 'high' && state !== 'low')) return null;
  const share = shareOf(gain, valueOn(cardOf(last), gain));
  const sign = state === 'high' ? 1 : -1;
  if (sign > 0 ? share > GAIN_END : share < 1 - GAIN_END) return null;
  const levels = liveLevels(rig, { mode, values });
  const lift = levels.length === 0 ? 0 : sign * mean(levels.map((dial) => Number(values[dial.id] ?? valueOn(cardOf(last), dial))));
  if (lift < LEAST_LIFT_DB) return null;
  const by = sign * Math.min(lift, MOST_ALIKE_DB);
  return Object.fromEntries(levels.map((dial) => [dial.id, nearestOn(dial, Number(values[dial.id]) - by)]));
}

/** The most that is asked of an equalizer at once. */
const MOST_LEVEL_DB: Decibels = 6;

/**
 * What a parametric equalizer should add to the level, where the mic gain stands at an end of its dial and the ALC is on the
 * far side of the zone; 0 where the gain has room.
 */
export function wantedLevelDb(
  { rig, mode, school }: NextInput,
  last: SeenOver,
  { state, likely }: { readonly state: GoalState['alc']; readonly likely: Fraction | null },
): Decibels {
  const gain = dialInRole(rig, 'mic-gain', mode);
  if (!gain || rig.equalizer.kind !== 'parametric' || likely === null) return 0;
  const share = shareOf(gain, valueOn(cardOf(last), gain));
  const isAtEnd = state === 'low' ? share >= 1 - GAIN_END : state === 'high' && share <= GAIN_END;
  if (!isAtEnd) return 0;
  const away = METER_DB * (mean(school.alcZone) - likely);
  return Math.max(-MOST_LEVEL_DB, Math.min(MOST_LEVEL_DB, away));
}

/** Level dials of the bands that are in the path. */
const liveLevels = (rig: RigProfile, card: Card): Dial[] =>
  effective(rig, card).bands.flatMap(({ level }) => rig.dials.filter(({ id }) => id === level));

/** A step of the gain that may jump over a zone. */
const COARSE_DB: Decibels = 1;
/** So many steps of the sliders alike, either way, are tried. */
const MOST_STEPS = 3;

/**
 * The same equalizer a step or more louder or softer: finer than a mic gain of coarse steps. Only sliders cover the passband,
 * and none of them may come to an end of its dial.
 */
export function levelsAlike(rig: RigProfile, card: Card): DialValues[] {
  const gain = dialInRole(rig, 'mic-gain', card.mode);
  const positions = gain ? positionsOf(gain.scale).length : 0;
  const isCoarse = positions > 1 && gainSpanDb(positions) / (positions - 1) >= COARSE_DB;
  if (rig.equalizer.kind !== 'graphic' || !isCoarse) return [];
  const levels = liveLevels(rig, card);
  const steps = Array.from({ length: 2 * MOST_STEPS + 1 }, (_, k) => k - MOST_STEPS).filter((by) => by !== 0);
  return levels.length === 0
    ? []
    : steps.flatMap((by) => {
        const moved = levels.map((dial) => {
          const positions = positionsOf(dial.scale);
          return [dial.id, positions[positions.indexOf(valueOn(card, dial)) + by]] as const;
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
