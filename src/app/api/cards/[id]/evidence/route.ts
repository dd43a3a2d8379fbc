/** GET: everything that was seen and heard of a card, for the advisors on its Bench. */
import { cardEvidence } from '@/server/bench/cardEvidence.ts';
import { loadCard } from '@/server/cards/cards.ts';
import { handle } from '@/server/requests/answer.ts';
import { Refused } from '@/server/requests/refused.ts';

export const GET = (_: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> =>
  handle(async () => {
    const { id } = await params;
    const card = /^\d{1,9}$/.test(id) ? await loadCard(Number(id)) : null;
    if (!card) throw new Refused('There is no such card.', 404);
    return Response.json(await cardEvidence(card));
  });
