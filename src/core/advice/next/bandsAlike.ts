/** What the bands of an equalizer come to as a level: all of them alike, or none of them. */
import { mean } from '../../dsp/index.ts';
import {
  type Card,
  type DialValues,
  dialInRole,
  effective,
  equalizerBands,
  nearestOn,
  type RigProfile,
  shareOf,
  valueOn,
} from '../../rig/index.ts';
import type { Decibels, Fraction } from '../../units/index.ts';
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
  const levels = effective(rig, { mode, values }).bands.flatMap(({ level }) => rig.dials.filter(({ id }) => id === level));
  const lift = levels.length === 0 ? 0 : sign * mean(levels.map((dial) => Number(values[dial.id] ?? valueOn(cardOf(last), dial))));
  if (lift < LEAST_LIFT_DB) return null;
  const by = sign * Math.min(lift, MOST_ALIKE_DB);
  return Object.fromEntries(levels.map((dial) => [dial.id, nearestOn(dial, Number(values[dial.id]) - by)]));
}

/** The card with every band of its equalizer at 0 dB. */
export function withoutBands(rig: RigProfile, card: Card): Card {
  const levels = new Set(equalizerBands(rig).map(({ level }) => level));
  const flat = rig.dials.filter(({ id }) => levels.has(id)).map((dial) => [dial.id, nearestOn(dial, 0)]);
  return { mode: card.mode, values: { ...card.values, ...Object.fromEntries(flat) } };
}
