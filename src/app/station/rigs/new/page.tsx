/** A new rig: from a shape, or as a copy of another. */
import type { Metadata } from 'next';
import { RigEditor } from '@/features/station/rigs/RigEditor.tsx';
import { ShapeChooser } from '@/features/station/rigs/ShapeChooser.tsx';
import { load } from '@/server/requests/answer.ts';
import { loadRig } from '@/server/station/station.ts';
import { idOf, type Params } from '../../../paging.ts';

export const metadata: Metadata = { title: 'Describe a radio' };

export default async function Page({ searchParams }: { searchParams: Params }) {
  const id = idOf((await searchParams).copy);
  const model = id === undefined ? null : await load(() => loadRig(id));
  return model ? <RigEditor start={{ ...model.profile, name: `${model.name}, copy`.slice(0, 60) }} /> : <ShapeChooser />;
}
