/** The Bench: one card's transmit path, what was heard of it, and what to move next. */
import type { Metadata } from 'next';
import { load } from '@/server/answer.ts';
import { loadBenchOf } from '@/server/bench.ts';
import { neighboursOf } from '@/server/cards/cardList.ts';
import { idOf, type Params } from '../paging.ts';
import { Bench } from './Bench.tsx';
import { NoCards } from './NoCards.tsx';

export const metadata: Metadata = { title: 'Bench' };
export const dynamic = 'force-dynamic';

export default async function Page({ searchParams }: { searchParams: Params }) {
  const { card, over, stage } = await searchParams;
  const bench = await load(() => loadBenchOf(idOf(card), { overId: idOf(over) }));
  if (!bench) return <NoCards />;
  const neighbours = await load(() => neighboursOf({ operatorId: bench.card.operator.id, rigId: bench.card.rig.id }));
  return <Bench key={bench.card.id} bench={bench} neighbours={neighbours} firstStage={typeof stage === 'string' ? stage : undefined} />;
}
