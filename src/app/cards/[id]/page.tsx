/** One card: every dial, and its revisions. */
import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { loadCard } from '@/server/cards.ts';
import { CardPage } from './CardPage.tsx';

export const dynamic = 'force-dynamic';

interface Params {
  readonly params: Promise<{ id: string }>;
}

const find = async ({ params }: Params) => {
  const { id } = await params;
  return /^\d{1,9}$/.test(id) ? loadCard(Number(id)) : null;
};

export async function generateMetadata(input: Params): Promise<Metadata> {
  return { title: (await find(input))?.name ?? 'Card' };
}

export default async function Page(input: Params) {
  const card = await find(input);
  if (!card) notFound();
  return <CardPage key={card.revisions[0].id} card={card} />;
}
