/** Operators, rigs, microphones and receivers of the station. */
import type { Metadata } from 'next';
import { StationPage } from '@/features/station/StationPage.tsx';
import { load } from '@/server/requests/answer.ts';
import { whoIsThere } from '@/server/requests/preferences.ts';
import { loadStation } from '@/server/station/station.ts';
import { staleMemories } from '@/server/station/voiceMemories.ts';
import type { Params } from '../paging.ts';

export const metadata: Metadata = { title: 'Station' };

export default async function Page({ searchParams }: { searchParams: Params }) {
  const withRetired = (await searchParams).retired === '1';
  const [station, stale, who] = await load(() => Promise.all([loadStation({ withRetired }), staleMemories(), whoIsThere()]));
  return <StationPage station={station} staleMemories={stale} withRetired={withRetired} who={who} />;
}
