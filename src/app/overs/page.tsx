/** The log of overs with their evidence. */
import type { Metadata } from 'next';
import { load } from '@/server/answer.ts';
import { countOvers, listOvers } from '@/server/overs.ts';
import { PAGE_SIZE, type Params, pageOf, searchOf } from '../paging.ts';
import { OversList } from './OversList.tsx';

export const metadata: Metadata = { title: 'Overs' };
export const dynamic = 'force-dynamic';

export default async function Page({ searchParams }: { searchParams: Params }) {
  const asked = await searchParams;
  const search = searchOf(asked.search);
  const total = await load(() => countOvers({ search }));
  const { page, pages, offset } = pageOf(asked.page, total);
  const overs = await load(() => listOvers({ search, limit: PAGE_SIZE, offset }));
  return <OversList overs={overs} page={page} pages={pages} total={total} search={search} />;
}
