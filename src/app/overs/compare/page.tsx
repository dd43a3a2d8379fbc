/** Two to four overs side by side, or captures of one. */
import type { Metadata } from 'next';
import { Compare } from '@/features/overs/compare/Compare.tsx';
import { MOST_OVERS } from '@/features/overs/most.ts';
import { loadCaptures, loadOvers } from '@/server/overs/overView.ts';
import { load } from '@/server/requests/answer.ts';

export const metadata: Metadata = { title: 'Compare overs' };

const idsOf = (text = ''): number[] => [
  ...new Set(
    String(text)
      .split(',')
      .filter((id) => /^\d{1,9}$/.test(id))
      .map(Number),
  ),
];

export default async function Page({ searchParams }: { searchParams: Promise<{ overs?: string; captures?: string }> }) {
  const { overs, captures } = await searchParams;
  const ids = idsOf(captures ?? overs).slice(0, MOST_OVERS);
  return <Compare overs={await load(() => (captures === undefined ? loadOvers(ids) : loadCaptures(ids)))} />;
}
