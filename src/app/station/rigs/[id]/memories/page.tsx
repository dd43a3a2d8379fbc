/** The voice memories of a rig, and which of them no longer sound like their card. */
import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { MemoriesPage } from '@/features/station/memories/MemoriesPage.tsx';
import { listCards } from '@/server/cards/cardList.ts';
import { load } from '@/server/requests/answer.ts';
import { loadRig } from '@/server/station/station.ts';
import { listVoiceMemories } from '@/server/station/voiceMemories.ts';
import { idOf } from '../../../../paging.ts';

export const metadata: Metadata = { title: 'Voice memories' };

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const id = idOf((await params).id);
  const rig = id === undefined ? null : await load(() => loadRig(id));
  if (!rig) notFound();
  const [memories, cards] = await load(() => Promise.all([listVoiceMemories(rig.id), listCards({ rigId: rig.id, limit: 200 })]));
  return <MemoriesPage rig={rig} memories={memories} cards={cards} />;
}
