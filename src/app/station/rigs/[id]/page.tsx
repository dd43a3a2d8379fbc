/** One rig, to be changed. */
import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { RigEditor } from '@/features/station/rigs/RigEditor.tsx';
import { load } from '@/server/requests/answer.ts';
import { loadRig } from '@/server/station/station.ts';
import { idOf } from '../../../paging.ts';

export const metadata: Metadata = { title: 'Rig' };

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const id = idOf((await params).id);
  const rig = id === undefined ? null : await load(() => loadRig(id));
  if (!rig) notFound();
  return <RigEditor key={rig.id} id={rig.id} start={rig.profile} />;
}
