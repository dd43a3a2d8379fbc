/** The card that a first recording is made with: equalizer flat, compressor off. */
import { type Card, type DialValues, dialOf, effective, nearestOn, type RigProfile, responseOf, valueOn, valuesOf } from '../rig/index.ts';
import type { Decibels } from '../units/index.ts';
import { compressionDials } from './nearestDials.ts';

/** Dials to set; empty where the card is flat and uncompressed already. */
export function toBaseline(rig: RigProfile, card: Card): DialValues {
  const start = valuesOf(card, rig);
  const off = compressionOff(rig, { ...card, values: start });
  const values = { ...start, ...off };
  const flat = effective(rig, { ...card, values }).bands.map(({ level }): [string, DialValues[string]] => [
    level,
    nearestOn(dialOf(rig, level), 0),
  ]);
  const wanted = { ...off, ...Object.fromEntries(flat) };
  return Object.fromEntries(Object.entries(wanted).filter(([id, value]) => start[id] !== value));
}

/** A dial that does nothing in this mode needs no turning. */
function compressionOff(rig: RigProfile, card: Card): DialValues {
  const dead = new Set(effective(rig, card).dials.flatMap(({ dial, dead: why }) => (why ? [dial.id] : [])));
  return Object.fromEntries(Object.entries(compressionDials(rig, card.mode, 0)).filter(([id]) => !dead.has(id)));
}

/** Response within this of flat counts as flat. */
const FLAT_DB: Decibels = 0.5;
/** Whether nothing colours the voice yet. */
export const isBaseline = (rig: RigProfile, card: Card): boolean =>
  responseOf(rig, card).every((db) => Math.abs(db) <= FLAT_DB) &&
  Object.entries(compressionOff(rig, card)).every(([id, value]) => valueOn(card, dialOf(rig, id)) === value);
