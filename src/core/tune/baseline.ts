/** The card that a first recording is made with: equalizer flat, compressor off. And the passbands to choose from. */
import { compressionDials, nearestPassband } from '../advice/index.ts';
import {
  type Card,
  type DialValues,
  dialOf,
  effective,
  nearestOn,
  type Purpose,
  passbandOf,
  type RigProfile,
  responseOf,
  valueOn,
  valuesOf,
} from '../rig/index.ts';
import type { Decibels, Hertz } from '../units/index.ts';

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

/** Passbands that operators choose (common practice), narrow to wide. */
const USUAL_PASSBANDS: readonly {
  readonly name: string;
  readonly edgesHz: readonly [Hertz, Hertz];
  readonly note: string;
  readonly purposes: readonly Purpose[];
}[] = [
  { name: 'Narrow', edgesHz: [300, 2400], note: 'weak signals and long distance; less pleasant', purposes: ['contest'] },
  { name: 'Usual', edgesHz: [300, 2700], note: 'DX and pile-ups', purposes: ['pile-up'] },
  { name: 'Conversation', edgesHz: [200, 2900], note: 'rag chews and general use', purposes: ['balanced'] },
  { name: 'Full', edgesHz: [100, 2900], note: 'the fullest that fits a usual channel', purposes: ['natural'] },
];

/** One of them, on a rig's own dials. */
export interface PassbandChoice {
  readonly name: string;
  readonly note: string;
  /** What the rig comes to. */
  readonly edgesHz: readonly [Hertz, Hertz];
  readonly values: DialValues;
  /** As the card has it now. */
  readonly isNow: boolean;
  readonly suitsPurpose: boolean;
}

/** Empty where the passband is fixed in this mode; choices that come to the same on this rig are one. */
export function passbandChoices(rig: RigProfile, card: Card, purpose: Purpose): PassbandChoice[] {
  const now = passbandOf(rig, card.mode, valuesOf(card, rig));
  const found = new Map<string, PassbandChoice>();
  for (const { name, edgesHz, note, purposes } of USUAL_PASSBANDS) {
    const values = nearestPassband(rig, card.mode, card.values, edgesHz);
    if (Object.keys(values).length === 0) return [];
    const edges = passbandOf(rig, card.mode, { ...card.values, ...values });
    const key = edges.join();
    const suitsPurpose = purposes.includes(purpose);
    const before = found.get(key);
    // Of two that come to the same on this rig, the one that is really meant keeps its name.
    const isNamed = !before || key === edgesHz.join();
    found.set(key, {
      ...(isNamed ? { name, note } : { name: before.name, note: before.note }),
      edgesHz: edges,
      values,
      isNow: key === now.join(),
      suitsPurpose: suitsPurpose || (before?.suitsPurpose ?? false),
    });
  }
  return [...found.values()];
}
