/** GET: a card's newest revision as a file. */
import { cardFile, loadCard } from '@/server/cards/cards.ts';
import { type Asked, profileFile } from '../../profileFile.ts';

export const GET = (_: Request, asked: Asked): Promise<Response> =>
  profileFile('card', asked, async (id) => {
    const card = await loadCard(id);
    return card && { name: card.name, value: cardFile(card, card.revisions[0]) };
  });
