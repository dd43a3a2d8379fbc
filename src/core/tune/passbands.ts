/** The passbands to choose from, narrow to wide, on a rig's own dials. */
import { nearestPassband } from '../advice/index.ts';
import { type Card, type DialValues, type Purpose, passbandOf, type RigProfile, valuesOf } from '../rig/index.ts';
import type { Hertz } from '../units/index.ts';

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
