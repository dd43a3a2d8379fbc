/** The Bench: one card's transmit path, what was heard of it, and what to move next. */
import type { Metadata } from 'next';
import { redirect } from 'next/navigation';
import { standingOf } from '@/client/cardStanding.ts';
import { Bench } from '@/features/bench/Bench.tsx';
import { loadBenchOf } from '@/server/bench/bench.ts';
import { neighboursOf } from '@/server/cards/cardList.ts';
import { load } from '@/server/requests/answer.ts';
import { idOf, type Params } from '../paging.ts';

export const metadata: Metadata = { title: 'Bench' };

export default async function Page({ searchParams }: { searchParams: Params }) {
  const { card, over, stage } = await searchParams;
  const bench = await load(() => loadBenchOf(idOf(card), { overId: idOf(over) }));
  if (!bench) redirect('/welcome');
  const neighbours = await load(() => neighboursOf({ operatorId: bench.card.operator.id, rigId: bench.card.rig.id }));
  return (
    <Bench
      key={bench.card.id}
      bench={bench}
      standing={standingOf(bench)}
      neighbours={neighbours}
      firstStage={typeof stage === 'string' ? stage : undefined}
    />
  );
}
