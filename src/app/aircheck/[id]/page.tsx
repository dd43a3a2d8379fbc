/** One air check, while it goes on and afterwards. */
import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { AirCheckPage } from '@/features/aircheck/AirCheckPage.tsx';
import { loadAirCheck } from '@/server/aircheck/airChecks.ts';
import { loadBench } from '@/server/bench/bench.ts';
import { newestHeard } from '@/server/overs/overs.ts';
import { load } from '@/server/requests/answer.ts';
import { schoolOfCard } from '@/server/tune/cardSchool.ts';
import { idOf } from '../../paging.ts';

export const metadata: Metadata = { title: 'Air check' };

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const id = idOf((await params).id);
  const check = id === undefined ? null : await load(() => loadAirCheck(id));
  if (!check) notFound();
  const [heard, bench, school] = await load(() =>
    Promise.all([
      newestHeard(check.card.id, check.startedAt, check.endedAt),
      check.side === 'checking' ? loadBench(check.card.id) : null,
      schoolOfCard(check.card),
    ]),
  );
  return <AirCheckPage key={check.id} check={check} heard={heard} bench={bench} school={school.wish} />;
}
