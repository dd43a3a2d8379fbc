/** Is a radio fit for the air? One page of answer from what was recorded of it. */
import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { FitForAir } from '@/features/station/rigs/FitForAir.tsx';
import { newestRadios } from '@/server/overs/rigEvidence.ts';
import { load } from '@/server/requests/answer.ts';
import { loadRig } from '@/server/station/station.ts';
import { idOf, type Params } from '../../../../paging.ts';

export const metadata: Metadata = { title: 'Fit for the air?' };

export default async function Page({ params, searchParams }: { params: Promise<{ id: string }>; searchParams: Params }) {
  const id = idOf((await params).id);
  const practiceRadio = idOf((await searchParams).practice) ?? null;
  const rig = id === undefined ? null : await load(() => loadRig(id));
  if (!rig) notFound();
  return <FitForAir rig={rig} practiceRadio={practiceRadio} captures={await load(() => newestRadios(rig.id, practiceRadio))} />;
}
