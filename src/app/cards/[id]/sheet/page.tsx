/** The dial sheet: what to change on the radio from one revision to another, in menu order. */
import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { loadCard } from '@/server/cards.ts';
import { Sheet } from './Sheet.tsx';

export const metadata: Metadata = { title: 'Dial sheet' };
export const dynamic = 'force-dynamic';

export default async function Page({
  params,
  searchParams,
}: {
  params: Promise<{ id: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}) {
  const { id } = await params;
  const { from } = await searchParams;
  const card = /^\d{1,9}$/.test(id) ? await loadCard(Number(id)) : null;
  if (!card) notFound();
  const asked = card.revisions.find(({ number }) => String(number) === from);
  return <Sheet card={card} fromNumber={from === 'factory' ? null : ((asked ?? card.revisions[1])?.number ?? null)} />;
}
