/** Begin a guided run over a card, or go on with one. */
import type { Metadata } from 'next';
import { redirect } from 'next/navigation';
import { usualSchool } from '@/core/tune/index.ts';
import { TuneStart } from '@/features/tune/TuneStart.tsx';
import { cardInWork } from '@/server/bench/bench.ts';
import { listCards } from '@/server/cards/cardList.ts';
import { load } from '@/server/requests/answer.ts';
import { lastSchool, listTuneRuns } from '@/server/tune/tuneRuns.ts';
import { idOf, type Params } from '../paging.ts';

export const metadata: Metadata = { title: 'Tune' };

const [CARDS, RUNS] = [100, 30];

export default async function Page({ searchParams }: { searchParams: Params }) {
  const { card: asked, ears } = await searchParams;
  const card = await load(() => cardInWork(idOf(asked)));
  if (!card) redirect('/welcome');
  const [cards, runs, last] = await load(() =>
    Promise.all([listCards({ limit: CARDS }), listTuneRuns(RUNS), lastSchool(card.operator.id)]),
  );
  const school = last ?? usualSchool(card.rig.profile, 'files');
  return (
    <TuneStart
      key={card.id}
      card={card}
      cards={cards}
      runs={runs}
      school={ears === 'practice' || ears === 'none' ? { ...school, ears } : school}
    />
  );
}
