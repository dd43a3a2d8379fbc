/** One microphone, to be changed. */
import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { MicrophoneEditor } from '@/features/station/microphones/MicrophoneEditor.tsx';
import { load } from '@/server/requests/answer.ts';
import { loadMicrophone } from '@/server/station/station.ts';
import { idOf } from '../../../paging.ts';

export const metadata: Metadata = { title: 'Microphone' };

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const id = idOf((await params).id);
  const row = id === undefined ? null : await load(() => loadMicrophone(id));
  if (!row) notFound();
  return <MicrophoneEditor id={row.id} start={row.profile} />;
}
