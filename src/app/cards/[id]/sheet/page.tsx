/** The dial sheet: what to change on the radio, from what it holds to a card, in menu order. */
import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { Sheet } from '@/features/cards/sheet/Sheet.tsx';
import type { SheetStart } from '@/features/cards/sheet/sheetStart.ts';
import { loadCard, REVISIONS_SHOWN, revisionOfCard } from '@/server/cards/cards.ts';
import { load } from '@/server/requests/answer.ts';
import { radioState } from '@/server/station/radioState.ts';
import { idOf, type Params } from '../../../paging.ts';

export const metadata: Metadata = { title: 'Dial sheet' };

export default async function Page({ params, searchParams }: { params: Promise<{ id: string }>; searchParams: Params }) {
  const id = idOf((await params).id);
  const { from } = await searchParams;
  const card = id === undefined ? null : await load(() => loadCard(id, { revisions: REVISIONS_SHOWN }));
  if (!card) notFound();
  const radio = await load(() => radioState(card.rig.id));
  const number = idOf(from);
  const asked = number === undefined ? null : await load(() => revisionOfCard(card, number));
  const start: SheetStart = asked
    ? { kind: 'revision', number: asked.number }
    : from === 'factory' || from === 'unknown' || (from === 'radio' && radio.tickedAt)
      ? { kind: from }
      : { kind: radio.tickedAt ? 'radio' : 'factory' };
  // An older one than those that are offered is offered as well.
  const isOffered = !asked || card.revisions.some(({ id: known }) => known === asked.id);
  const whole = isOffered ? card : { ...card, revisions: [...card.revisions, asked] };
  // Ticks change where a sheet would start: the open one stays as it is.
  return <Sheet key={`${card.revisions[0].id} ${from ?? ''}`} card={whole} radio={radio} start={start} />;
}
