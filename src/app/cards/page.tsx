/** All cards, the one changed last first. */
import type { Metadata } from 'next';
import { CardsList } from '@/features/cards/CardsList.tsx';
import { countCards, listCards } from '@/server/cards/cardList.ts';
import { load } from '@/server/requests/answer.ts';
import { loadStation } from '@/server/station/station.ts';
import { PAGE_SIZE, type Params, pageOf, searchOf } from '../paging.ts';

export const metadata: Metadata = { title: 'Cards' };

export default async function Page({ searchParams }: { searchParams: Params }) {
  const asked = await searchParams;
  const query = { search: searchOf(asked.search), withRetired: asked.retired === '1' };
  const total = await load(() => countCards(query));
  const { page, pages, offset } = pageOf(asked.page, total);
  const [cards, station] = await load(() => Promise.all([listCards({ ...query, limit: PAGE_SIZE, offset }), loadStation()]));
  return <CardsList cards={cards} station={station} total={total} page={page} pages={pages} {...query} />;
}
