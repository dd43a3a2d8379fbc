/** The other rigs that a card can be copied to. */

import type { DialValues } from '@/core/rig/index.ts';
import { canCarry } from '@/core/rig/index.ts';
import { lastCards } from '../cards/cardList.ts';
import { type CardView, loadCards } from '../cards/cards.ts';
import { loadStation, type RigView, type Station } from './station.ts';

export interface CopyChoice {
  readonly rig: RigView;
  /** The operator's last card there with the same microphone: it knows the gain that suits this voice. */
  readonly known: { readonly name: string; readonly values: DialValues } | null;
}

export async function copyChoices(card: CardView): Promise<{ station: Station; others: CopyChoice[] }> {
  const [station, last] = await Promise.all([loadStation(), lastCards(card.operator.id)]);
  const rigs = station.rigs.filter((rig) => rig.id !== card.rig.id && canCarry(rig.profile, card.mode));
  const cards = await loadCards(rigs.flatMap(({ id }) => last.get(id) ?? []));
  const others = rigs.map((rig) => {
    const other = cards.find((each) => each.rig.id === rig.id && each.microphone.id === card.microphone.id);
    return { rig, known: other ? { name: other.name, values: other.revisions[0].values } : null };
  });
  return { station, others };
}
