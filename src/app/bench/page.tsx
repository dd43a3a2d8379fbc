/** The Bench: one card's transmit path, what was heard of it, and what to move next. */
import type { Metadata } from 'next';
import { loadBench } from '@/server/bench.ts';
import { listCards } from '@/server/cards.ts';
import { Bench } from './Bench.tsx';
import { NoCards } from './NoCards.tsx';

export const metadata: Metadata = { title: 'Bench' };
export const dynamic = 'force-dynamic';

const idIn = (text: string | string[] | undefined): number | undefined =>
  typeof text === 'string' && /^\d{1,9}$/.test(text) ? Number(text) : undefined;

export default async function Page({ searchParams }: { searchParams: Promise<Record<string, string | string[] | undefined>> }) {
  const { card, over, stage } = await searchParams;
  const cards = await listCards();
  if (cards.length === 0) return <NoCards />;
  const wanted = cards.find(({ id }) => id === idIn(card)) ?? cards[0];
  const bench = await loadBench(wanted.id, idIn(over));
  if (!bench) return <NoCards />;
  return <Bench key={bench.card.id} bench={bench} cards={cards} firstStage={typeof stage === 'string' ? stage : undefined} />;
}
