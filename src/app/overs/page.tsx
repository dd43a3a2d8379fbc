/** The log of overs with their evidence. */
import type { Metadata } from 'next';
import { OversList } from '@/features/overs/OversList.tsx';
import { pageOfOvers } from '@/server/overs/overs.ts';
import { load } from '@/server/requests/answer.ts';
import { PAGE_SIZE, type Params, pageOf, searchOf } from '../paging.ts';

export const metadata: Metadata = { title: 'Overs' };

export default async function Page({ searchParams }: { searchParams: Params }) {
  const asked = await searchParams;
  const search = searchOf(asked.search);
  const { overs, total } = await load(() => pageOfOvers(search, PAGE_SIZE, (length) => pageOf(asked.page, length).offset));
  const { page, pages } = pageOf(asked.page, total);
  return <OversList overs={overs} page={page} pages={pages} total={total} search={search} />;
}
