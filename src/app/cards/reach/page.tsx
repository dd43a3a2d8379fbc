/** Every card of an operator by reach and naturalness, for the voice of one over. */
import type { Metadata } from 'next';
import { redirect } from 'next/navigation';
import { ReachPlane } from '@/features/reach/ReachPlane.tsx';
import { loadBenchOf } from '@/server/bench/bench.ts';
import { listCards } from '@/server/cards/cardList.ts';
import { loadCards, REVISIONS_SHOWN } from '@/server/cards/cards.ts';
import { load } from '@/server/requests/answer.ts';
import { idOf, type Params } from '../../paging.ts';

export const metadata: Metadata = { title: 'Reach and naturalness' };

/** More would take the model a minute. */
const MOST_CARDS = 24;

export default async function Page({ searchParams }: { searchParams: Params }) {
  const { card: asked, over } = await searchParams;
  const bench = await load(() => loadBenchOf(idOf(asked), { overId: idOf(over), revisions: REVISIONS_SHOWN }));
  if (!bench) redirect('/welcome');
  const cards = await load(async () => {
    const list = await listCards({ operatorId: bench.card.operator.id, limit: MOST_CARDS });
    return loadCards(list.map(({ id }) => id));
  });
  return <ReachPlane key={`${bench.card.id}-${bench.over?.id}`} bench={bench} cards={cards} />;
}
