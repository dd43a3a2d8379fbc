/** The dial sheet: what to change on the radio, from what it holds to a card, in menu order. */
import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { loadCard } from '@/server/cards/cards.ts';
import { radioState } from '@/server/station/radioState.ts';
import { idOf, type Params } from '../../../paging.ts';
import { Sheet } from './Sheet.tsx';
import type { SheetStart } from './sheetStart.ts';

export const metadata: Metadata = { title: 'Dial sheet' };
export const dynamic = 'force-dynamic';

export default async function Page({ params, searchParams }: { params: Promise<{ id: string }>; searchParams: Params }) {
  const id = idOf((await params).id);
  const { from } = await searchParams;
  const card = id === undefined ? null : await loadCard(id);
  if (!card) notFound();
  const radio = await radioState(card.rig.id);
  const asked = card.revisions.find(({ number }) => String(number) === from);
  const start: SheetStart = asked
    ? { kind: 'revision', number: asked.number }
    : from === 'factory' || from === 'unknown' || (from === 'radio' && radio.tickedAt)
      ? { kind: from }
      : { kind: radio.tickedAt ? 'radio' : 'factory' };
  return <Sheet key={`${card.revisions[0].id} ${JSON.stringify(start)}`} card={card} radio={radio} start={start} />;
}
