/** A new microphone, or a copy of another. */
import type { Metadata } from 'next';
import type { Microphone } from '@/core/rig/index.ts';
import { MicrophoneEditor } from '@/features/station/microphones/MicrophoneEditor.tsx';
import { load } from '@/server/requests/answer.ts';
import { loadMicrophone } from '@/server/station/station.ts';
import { idOf, type Params } from '../../../paging.ts';

export const metadata: Metadata = { title: 'Describe a microphone' };

const BLANK: Microphone = {
  format: 'dialtune-microphone',
  version: 1,
  name: '',
  kind: '',
  pattern: 'cardioid',
  level: 'medium',
  distanceCm: 6,
  positions: [],
  accessories: [],
};

export default async function Page({ searchParams }: { searchParams: Params }) {
  const id = idOf((await searchParams).copy);
  const model = id === undefined ? null : await load(() => loadMicrophone(id));
  const start = model ? { ...model.profile, name: `${model.name}, copy`.slice(0, 60) } : BLANK;
  return <MicrophoneEditor start={start} />;
}
