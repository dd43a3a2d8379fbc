/** Practice: a simulated transceiver with hidden faults, and simulated receivers. No radio is needed. */
import type { Metadata } from 'next';
import { redirect } from 'next/navigation';
import { Practice } from '@/features/practice/Practice.tsx';
import { loadBenchOf } from '@/server/bench/bench.ts';
import { historyOf } from '@/server/bench/history.ts';
import { neighboursOf } from '@/server/cards/cardList.ts';
import { load } from '@/server/requests/answer.ts';
import { idOf, type Params } from '../paging.ts';

export const metadata: Metadata = { title: 'Practice' };

export default async function Page({ searchParams }: { searchParams: Params }) {
  const { card } = await searchParams;
  const bench = await load(() => loadBenchOf(idOf(card)));
  if (!bench) redirect('/welcome');
  const neighbours = await load(() => neighboursOf({ operatorId: bench.card.operator.id, rigId: bench.card.rig.id }));
  const { card: shown } = bench;
  const history = await load(async () => (shown.practiceRadio === null ? [] : historyOf(shown)));
  return <Practice key={shown.id} bench={bench} neighbours={neighbours} history={history} />;
}
