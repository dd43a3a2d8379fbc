/** Two to four overs side by side. */
import type { Metadata } from 'next';
import { Compare } from '@/features/overs/compare/Compare.tsx';
import { MOST_OVERS } from '@/features/overs/most.ts';
import { loadOvers } from '@/server/overs/overs.ts';
import { load } from '@/server/requests/answer.ts';

export const metadata: Metadata = { title: 'Compare overs' };

export default async function Page({ searchParams }: { searchParams: Promise<{ overs?: string }> }) {
  const { overs = '' } = await searchParams;
  const ids = [
    ...new Set(
      String(overs)
        .split(',')
        .filter((id) => /^\d{1,9}$/.test(id)),
    ),
  ].slice(0, MOST_OVERS);
  return <Compare overs={await load(() => loadOvers(ids.map(Number)))} />;
}
