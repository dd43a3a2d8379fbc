/** What the bands of an equalizer come to as a level: all of them alike, or none of them. */
import { mean } from '../../dsp/index.ts';
import { type Card, type Dial, type DialValues, effective, equalizerBands, nearestOn, type RigProfile, valueOn } from '../../rig/index.ts';
import type { Decibels } from '../../units/index.ts';
import { endOf } from './levelWish.ts';
import { cardOf, type GoalState, type NextInput, type SeenOver } from './seen.ts';

/** Bands that lift or cut by so much on average are moved alike, by so much at most. */
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

/** Level dials of the bands that are in the path. */
export const liveLevels = (rig: RigProfile, card: Card): Dial[] =>
  effective(rig, card).bands.flatMap(({ level }) => rig.dials.filter(({ id }) => id === level));

/** The card with every band of its equalizer at 0 dB. */
export function withoutBands(rig: RigProfile, card: Card): Card {
  const levels = new Set(equalizerBands(rig).map(({ level }) => level));
  const flat = rig.dials.filter(({ id }) => levels.has(id)).map((dial) => [dial.id, nearestOn(dial, 0)]);
  return { mode: card.mode, values: { ...card.values, ...Object.fromEntries(flat) } };
}
