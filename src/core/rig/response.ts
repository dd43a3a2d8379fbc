/** What a card's equalizer does to the voice, as one curve. */
import { TWELFTH_CENTRES } from '../dsp/index.ts';
import type { Decibels, Hertz } from '../units/index.ts';
import { type Card, type DialValues, valueOn } from './card.ts';
import { effective } from './effective.ts';
import { bandsResponseDb, equalizerBands } from './equalizer.ts';
import { dialOf, type RigProfile } from './rig.ts';

/** All values of a card, factory values filled in. */
export const valuesOf = (card: Card, rig: RigProfile): DialValues =>
  Object.fromEntries(rig.dials.map((dial) => [dial.id, valueOn(card, dial)]));

/** Response in dB of a card's live equalizer bands; at VOICE_TWELFTH_OCTAVES when no frequencies are given. */
export function responseOf(rig: RigProfile, card: Card, frequencies: readonly Hertz[] = TWELFTH_CENTRES): Decibels[] {
  const { bands, values } = effective(rig, card);
  return bandsResponseDb(rig, bands, values, frequencies);
}

/** Turns on the equalizer's own switches; leaves everything else, the compressor above all, alone. */
export function enableEqualizer(rig: RigProfile, card: Card): Card {
  const values = { ...valuesOf(card, rig) };
  for (const band of equalizerBands(rig)) {
    for (const need of dialOf(rig, band.level).needs ?? []) {
      const other = dialOf(rig, need.dial);
      if (other.stage === 'equalizer' && !need.is.includes(values[other.id])) values[other.id] = need.is[0];
    }
  }
  return { ...card, values };
}
