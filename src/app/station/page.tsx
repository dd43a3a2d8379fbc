/** Operators, rigs, microphones and receivers of the station. */
import type { Metadata } from 'next';
import { load } from '@/server/answer.ts';
import { loadStation } from '@/server/station/station.ts';
import { staleMemories } from '@/server/station/voiceMemories.ts';
import type { Params } from '../paging.ts';
import { whoIsThere } from '../who.ts';
import { StationPage } from './StationPage.tsx';

export const metadata: Metadata = { title: 'Station' };
export const dynamic = 'force-dynamic';

export default async function Page({ searchParams }: { searchParams: Params }) {
  const withRetired = (await searchParams).retired === '1';
  const [station, stale, who] = await load(() => Promise.all([loadStation({ withRetired }), staleMemories(), whoIsThere()]));
  return <StationPage station={station} staleMemories={stale} withRetired={withRetired} who={who} />;
}
