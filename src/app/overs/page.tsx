/** The log of overs with their evidence. */
import type { Metadata } from 'next';
import { load } from '@/server/answer.ts';
import { pageOfOvers } from '@/server/overs.ts';
import { PAGE_SIZE, type Params, pageOf, searchOf } from '../paging.ts';
import { OversList } from './OversList.tsx';

export const metadata: Metadata = { title: 'Overs' };
export const dynamic = 'force-dynamic';

export default async function Page({ searchParams }: { searchParams: Params }) {
  const asked = await searchParams;
  const search = searchOf(asked.search);
  const { overs, total } = await load(() => pageOfOvers(search, PAGE_SIZE, (length) => pageOf(asked.page, length).offset));
  const { page, pages } = pageOf(asked.page, total);
  return <OversList overs={overs} page={page} pages={pages} total={total} search={search} />;
}
