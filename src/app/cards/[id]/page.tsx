/** One card: every dial, and its revisions. */
import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { cache } from 'react';
import { CardPage } from '@/features/cards/CardPage.tsx';
import { loadCard, REVISIONS_SHOWN } from '@/server/cards/cards.ts';
import { judgedOver } from '@/server/overs/overs.ts';
import { load } from '@/server/requests/answer.ts';
import { loadStation } from '@/server/station/station.ts';
import { idOf } from '../../paging.ts';

interface Asked {
  readonly params: Promise<{ id: string }>;
}

/** Asked for by the title and by the page: looked up once. */
const find = cache(async ({ params }: Asked) => {
  const id = idOf((await params).id);
  return id === undefined ? null : load(() => loadCard(id, { revisions: REVISIONS_SHOWN }));
});

export async function generateMetadata(input: Asked): Promise<Metadata> {
  return { title: (await find(input))?.name ?? 'Card' };
}

export default async function Page(input: Asked) {
  const card = await find(input);
  if (!card) notFound();
  const [station, over] = await load(() => Promise.all([loadStation(), judgedOver(card.id)]));
  const inView = over && { id: over.id, revisionId: over.revision.id, isMeasured: over.measured !== null };
  return <CardPage key={card.id} card={card} over={inView} station={station} />;
}
