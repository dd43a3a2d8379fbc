/** What other stations said, of all cards or of one. */
import type { Metadata } from 'next';
import { ReportsPage } from '@/features/reports/ReportsPage.tsx';
import { loadReports } from '@/server/reports/reportsPage.ts';
import { load } from '@/server/requests/answer.ts';
import { idOf, PAGE_SIZE, type Params, pageOf, searchOf } from '../paging.ts';

export const metadata: Metadata = { title: 'Reports' };

export default async function Page({ searchParams }: { searchParams: Params }) {
  const asked = await searchParams;
  const query = { cardId: idOf(asked.card), overId: idOf(asked.over), search: searchOf(asked.search) };
  const { total, ...found } = await load(() => loadReports(query, PAGE_SIZE, (length) => pageOf(asked.page, length).offset));
  const { page, pages } = pageOf(asked.page, total);
  return <ReportsPage {...found} overId={query.overId} search={query.search} total={total} page={page} pages={pages} />;
}
