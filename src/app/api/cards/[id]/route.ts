/** GET: a card's newest revision as a file. */
import { cardFile, loadCard } from '@/server/cards/cards.ts';
import { idOf } from '../../../paging.ts';
import { jsonFile, noSuch } from '../../jsonFile.ts';

export const dynamic = 'force-dynamic';

export async function GET(_: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  const id = idOf((await params).id);
  const card = id === undefined ? null : await loadCard(id);
  return card ? jsonFile(card.name, cardFile(card, card.revisions[0])) : noSuch('card');
}
