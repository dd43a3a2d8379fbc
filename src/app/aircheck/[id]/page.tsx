/** One air check, while it goes on and afterwards. */
import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { AirCheckPage } from '@/features/aircheck/AirCheckPage.tsx';
import { loadAirCheck } from '@/server/aircheck/airChecks.ts';
import { load } from '@/server/requests/answer.ts';
import { idOf } from '../../paging.ts';

export const metadata: Metadata = { title: 'Air check' };

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const id = idOf((await params).id);
  const check = id === undefined ? null : await load(() => loadAirCheck(id));
  if (!check) notFound();
  return <AirCheckPage key={check.id} check={check} />;
}
