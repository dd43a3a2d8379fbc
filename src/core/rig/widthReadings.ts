/** A width number whose meaning is unknown: what the band does if it is octaves, and what if it is Q. */
import { type Decibels, type Hertz, type Octaves, qToOctaves } from '../units/index.ts';
import type { DialValues } from './card.ts';
import { bandCentre, bandsResponseDb, type EqualizerBand } from './equalizer.ts';
import type { RigProfile } from './rig.ts';

/** A band's width read as octaves and as Q. */
export interface WidthReadings {
  readonly number: number;
  readonly octaves: { readonly widthOctaves: Octaves; readonly responseDb: readonly Decibels[] };
  readonly q: { readonly widthOctaves: Octaves; readonly responseDb: readonly Decibels[] };
  /** Where the two differ most, and by how much (octaves minus Q). */
  readonly apart: { readonly hz: Hertz; readonly db: Decibels };
}

/** Whether it is unknown what the width number means. */
export const hasUnknownWidth = ({ equalizer }: RigProfile): boolean =>
  equalizer.kind === 'parametric' && equalizer.width.meaning === 'unknown';

const readAs = (rig: RigProfile, meaning: 'octaves' | 'q'): RigProfile =>
  rig.equalizer.kind === 'parametric' ? { ...rig, equalizer: { ...rig.equalizer, width: { meaning } } } : rig;

/** @returns null for bands without a width dial and for rigs that have no parametric equalizer */
export function widthReadings(
  rig: RigProfile,
  band: EqualizerBand,
  values: DialValues,
  frequencies: readonly Hertz[],
): WidthReadings | null {
  if (typeof band.width !== 'string' || rig.equalizer.kind !== 'parametric') return null;
  const number = Number(values[band.width]);
  if (!(number > 0)) return null;
  const asOctaves = bandsResponseDb(readAs(rig, 'octaves'), [band], values, frequencies);
  const asQ = bandsResponseDb(readAs(rig, 'q'), [band], values, frequencies);
  const gaps = asOctaves.map((db, i) => db - asQ[i]);
  const at = gaps.reduce((best, gap, i) => (Math.abs(gap) > Math.abs(gaps[best]) ? i : best), 0);
  return {
    number,
    octaves: { widthOctaves: number, responseDb: asOctaves },
    q: { widthOctaves: qToOctaves(number), responseDb: asQ },
    apart: { hz: frequencies[at], db: gaps[at] },
  };
}

/** How far a band's two readings lie from each other, in words. */
export function widthSentence(band: EqualizerBand, values: DialValues, { number, q, apart }: WidthReadings): string {
  const octaves = (width: Octaves) => `${width.toFixed(width < 1 ? 2 : 1)} octaves`;
  const centre = bandCentre(band, values);
  if (Math.abs(apart.db) < 0.5) {
    return `Width ${number} at ${centre} Hz: ${octaves(number)} wide if the number is octaves, ${octaves(q.widthOctaves)} if it is Q; at this level that hardly matters.`;
  }
  return `Width ${number} at ${centre} Hz: ${octaves(number)} wide if the number is octaves, ${octaves(q.widthOctaves)} if it is Q. They differ by up to ${Math.abs(apart.db).toFixed(1)} dB, at ${Math.round(apart.hz)} Hz.`;
}

/** How an operator finds out which it is. */
export const HOW_TO_FIND_OUT =
  'To find out: into a dummy load at low power, set one band to its full boost at 1000 Hz, once with the smallest width number and once with the largest, and record the same sentence on a second receiver. If the larger number sounds fuller over the whole voice, it is octaves; if it sounds like a narrow ring at one pitch, it is Q.';
