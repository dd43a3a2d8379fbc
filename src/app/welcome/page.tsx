/** The first page of a station that has no card yet, and the way to the first one. */
import type { Metadata } from 'next';
import { Welcome } from '@/features/welcome/Welcome.tsx';
import { listCards } from '@/server/cards/cardList.ts';
import { load } from '@/server/requests/answer.ts';
import { loadStation } from '@/server/station/station.ts';
import type { Params } from '../paging.ts';

export const metadata: Metadata = { title: 'Welcome' };

export default async function Page({ searchParams }: { searchParams: Params }) {
  const { setup } = await searchParams;
  const [station, [card]] = await load(() => Promise.all([loadStation(), listCards({ limit: 1 })]));
  return <Welcome station={station} card={card ?? null} isSettingUp={setup !== undefined} />;
}
