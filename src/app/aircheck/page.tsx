/** Begin an air check, or look at one. */
import type { Metadata } from 'next';
import { AirCheckStart } from '@/features/aircheck/AirCheckStart.tsx';
import { listAirChecks } from '@/server/aircheck/airChecks.ts';
import { cardIdInWork } from '@/server/bench/bench.ts';
import { listCards } from '@/server/cards/cardList.ts';
import { load } from '@/server/requests/answer.ts';
import { idOf, type Params } from '../paging.ts';

export const metadata: Metadata = { title: 'Air check' };

const [CARDS, CHECKS] = [100, 30];

export default async function Page({ searchParams }: { searchParams: Params }) {
  const { card } = await searchParams;
  const [cards, cardId, checks] = await load(() =>
    Promise.all([listCards({ limit: CARDS }), cardIdInWork(idOf(card)), listAirChecks(CHECKS)]),
  );
  return <AirCheckStart cards={cards} cardId={cardId} checks={checks} />;
}
