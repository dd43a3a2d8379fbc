/** One guided run. */
import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { standingOf } from '@/client/cardStanding.ts';
import { wishOf } from '@/core/tune/index.ts';
import { TunePage } from '@/features/tune/TunePage.tsx';
import { loadBench } from '@/server/bench/bench.ts';
import { cardEvidence } from '@/server/bench/cardEvidence.ts';
import { load } from '@/server/requests/answer.ts';
import { loadTuneRun } from '@/server/tune/tuneRuns.ts';
import { idOf } from '../../paging.ts';

export const metadata: Metadata = { title: 'Tune' };

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const id = idOf((await params).id);
  const tune = id === undefined ? null : await load(() => loadTuneRun(id));
  const bench = tune && (await load(() => loadBench(tune.card.id)));
  if (!tune || !bench) notFound();
  const { alcZone } = wishOf(tune.run, bench.card.rig.profile);
  return (
    <TunePage
      key={tune.id}
      tune={tune}
      bench={bench}
      evidence={await load(() => cardEvidence(bench.card))}
      standing={standingOf(bench, alcZone)}
    />
  );
}
