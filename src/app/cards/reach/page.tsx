/** Every card of an operator by reach and naturalness, for the voice of one over. */
import type { Metadata } from 'next';
import { loadBench } from '@/server/bench.ts';
import { listCards } from '@/server/cards/cardList.ts';
import { loadCard } from '@/server/cards/cards.ts';
import { NoCards } from '../../bench/NoCards.tsx';
import { idOf, type Params } from '../../paging.ts';
import { ReachPlane } from './ReachPlane.tsx';

export const metadata: Metadata = { title: 'Reach and naturalness' };
export const dynamic = 'force-dynamic';

/** More would take the model a minute. */
const MOST_CARDS = 24;

export default async function Page({ searchParams }: { searchParams: Params }) {
  const { card: asked, over } = await searchParams;
  const [newest] = await listCards({ limit: 1 });
  const id = idOf(asked) ?? newest?.id;
  const bench = id === undefined ? null : await loadBench(id, idOf(over));
  if (!bench) return <NoCards />;
  const list = await listCards({ operatorId: bench.card.operator.id, limit: MOST_CARDS });
  const cards = (await Promise.all(list.map((each) => loadCard(each.id)))).filter((card) => card !== null);
  return <ReachPlane key={`${bench.card.id}-${bench.over?.id}`} bench={bench} cards={cards} />;
}
