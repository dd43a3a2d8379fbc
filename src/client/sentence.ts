/** What the sentence in the header needs of the server. */
import type { Purpose } from '@/core/rig/index.ts';
import { saveCard } from '@/server/cards/actions.ts';
import type { CardView } from '@/server/cards/cards.ts';
import { asked } from './asked.ts';
import { cardsNamed } from './cardsNamed.ts';

export const sentenceOf = (card: CardView) => ({
  find: cardsNamed,
  async onPurpose(purpose: Purpose): Promise<string | null> {
    const answer = await asked(saveCard({ cardId: card.id, purpose, base: { purpose: card.purpose } }));
    return answer.ok ? null : answer.message;
  },
});
