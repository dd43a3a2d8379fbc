/** A card copied to another rig: the nearest sound on its dials. */
import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { CopyPage } from '@/features/cards/copy/CopyPage.tsx';
import { loadCard } from '@/server/cards/cards.ts';
import { load } from '@/server/requests/answer.ts';
import { copyChoices } from '@/server/station/copyChoices.ts';
import { idOf } from '../../../paging.ts';

export const metadata: Metadata = { title: 'Copy to another rig' };

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const id = idOf((await params).id);
  const card = id === undefined ? null : await load(() => loadCard(id));
  if (!card) notFound();
  return <CopyPage card={card} {...(await load(() => copyChoices(card)))} />;
}
