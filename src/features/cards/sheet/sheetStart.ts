/** From where a sheet starts: what the radio is taken to hold. */
import { everyDial, factoryCard, isOnScale, type SheetLine, sheet } from '@/core/rig/index.ts';
import type { CardView } from '@/server/cards/cards.ts';
import type { RadioState } from '@/server/station/radioState.ts';

export type SheetStart = { readonly kind: 'radio' | 'factory' | 'unknown' } | { readonly kind: 'revision'; readonly number: number };

/** The lines of a card's sheet. Dials that were never ticked are taken to stand at their factory values. */
export function linesOf(card: CardView, radio: RadioState, start: SheetStart): SheetLine[] {
  const rig = card.rig.profile;
  const wanted = { mode: card.mode, values: card.revisions[0].values };
  if (start.kind === 'unknown') return everyDial(rig, wanted);
  const factory = factoryCard(rig, card.mode);
  if (start.kind === 'factory') return sheet(rig, factory, wanted);
  if (start.kind === 'revision') {
    const values = card.revisions.find(({ number }) => number === start.number)?.values ?? {};
    return sheet(rig, { mode: card.mode, values: { ...factory.values, ...values } }, wanted);
  }
  const held = Object.fromEntries(
    rig.dials.flatMap(({ id, scale }) => (id in radio.values && isOnScale(scale, radio.values[id]) ? [[id, radio.values[id]]] : [])),
  );
  return sheet(rig, { mode: card.mode, values: { ...factory.values, ...held } }, wanted);
}

export const startId = (start: SheetStart): string => (start.kind === 'revision' ? String(start.number) : start.kind);

export function startText(start: SheetStart): string {
  if (start.kind === 'revision') return `revision ${start.number}`;
  return { radio: 'what was last ticked off', factory: 'the factory values', unknown: 'a radio of which nothing is known' }[start.kind];
}
