/** Practice: a simulated transceiver with hidden faults, and simulated receivers. No radio is needed. */
import type { Metadata } from 'next';
import { loadBench } from '@/server/bench.ts';
import { listCards, neighboursOf } from '@/server/cards/cardList.ts';
import { NoCards } from '../bench/NoCards.tsx';
import { idOf, type Params } from '../paging.ts';
import { Practice } from './Practice.tsx';

export const metadata: Metadata = { title: 'Practice' };
export const dynamic = 'force-dynamic';

export default async function Page({ searchParams }: { searchParams: Params }) {
  const { card } = await searchParams;
  const [newest] = await listCards({ limit: 1 });
  const id = idOf(card) ?? newest?.id;
  const bench = id === undefined ? null : await loadBench(id);
  if (!bench) return <NoCards />;
  const neighbours = await neighboursOf({ operatorId: bench.card.operator.id, rigId: bench.card.rig.id });
  return <Practice key={bench.card.id} bench={bench} neighbours={neighbours} />;
}
