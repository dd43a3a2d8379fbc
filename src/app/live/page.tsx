/** Live audio of a second receiver through the sound card, for the card being worked on. */
import type { Metadata } from 'next';
import { redirect } from 'next/navigation';
import { Live } from '@/features/live/Live.tsx';
import { cardInWork } from '@/server/bench/bench.ts';
import { neighboursOf } from '@/server/cards/cardList.ts';
import { allTargets } from '@/server/cards/targets.ts';
import { load } from '@/server/requests/answer.ts';
import { idOf, type Params } from '../paging.ts';

export const metadata: Metadata = { title: 'Live' };

export default async function Page({ searchParams }: { searchParams: Params }) {
  const { card: asked } = await searchParams;
  const card = await load(() => cardInWork(idOf(asked)));
  if (!card) redirect('/welcome');
  const [targets, neighbours] = await load(() =>
    Promise.all([allTargets(), neighboursOf({ operatorId: card.operator.id, rigId: card.rig.id })]),
  );
  return <Live key={card.id} card={card} neighbours={neighbours} targets={targets} />;
}
