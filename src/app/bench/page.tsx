/** The Bench: one card's transmit path, what was heard of it, and what to move next. */
import type { Metadata } from 'next';
import { loadBench } from '@/server/bench.ts';
import { listCards, neighboursOf } from '@/server/cards/cardList.ts';
import { idOf, type Params } from '../paging.ts';
import { Bench } from './Bench.tsx';
import { NoCards } from './NoCards.tsx';

export const metadata: Metadata = { title: 'Bench' };
export const dynamic = 'force-dynamic';

export default async function Page({ searchParams }: { searchParams: Params }) {
  const { card, over, stage } = await searchParams;
  const asked = idOf(card);
  const [newest] = await listCards({ limit: 1 });
  const bench = (asked === undefined ? null : await loadBench(asked, idOf(over))) ?? (newest ? await loadBench(newest.id) : null);
  if (!bench) return <NoCards />;
  const neighbours = await neighboursOf({ operatorId: bench.card.operator.id, rigId: bench.card.rig.id });
  return <Bench key={bench.card.id} bench={bench} neighbours={neighbours} firstStage={typeof stage === 'string' ? stage : undefined} />;
}
