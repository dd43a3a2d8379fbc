/** Operators, rigs, microphones and receivers of the station. */
import type { Metadata } from 'next';
import { loadStation } from '@/server/station.ts';
import { StationPage } from './StationPage.tsx';

export const metadata: Metadata = { title: 'Station' };
export const dynamic = 'force-dynamic';

export default async function Page() {
  return <StationPage station={await loadStation()} />;
}
