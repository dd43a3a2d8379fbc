/** All cards, the one changed last first. */
import type { Metadata } from 'next';
import { listCards } from '@/server/cards.ts';
import { loadStation } from '@/server/station.ts';
import { CardsList } from './CardsList.tsx';

export const metadata: Metadata = { title: 'Cards' };
export const dynamic = 'force-dynamic';

export default async function Page() {
  const [cards, station] = await Promise.all([listCards(), loadStation()]);
  return <CardsList cards={cards} station={station} />;
}
