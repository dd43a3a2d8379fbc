/** The log of overs with their evidence. */
import type { Metadata } from 'next';
import { countOvers, listOvers } from '@/server/overs.ts';
import { OversList } from './OversList.tsx';

export const metadata: Metadata = { title: 'Overs' };
export const dynamic = 'force-dynamic';

const PAGE_SIZE = 25;

export default async function Page({ searchParams }: { searchParams: Promise<Record<string, string | string[] | undefined>> }) {
  const { page } = await searchParams;
  const total = await countOvers();
  const pages = Math.max(1, Math.ceil(total / PAGE_SIZE));
  const wanted = Math.min(pages, Math.max(1, typeof page === 'string' && /^\d{1,6}$/.test(page) ? Number(page) : 1));
  const overs = await listOvers({ limit: PAGE_SIZE, offset: (wanted - 1) * PAGE_SIZE });
  return <OversList overs={overs} page={wanted} pages={pages} total={total} />;
}
