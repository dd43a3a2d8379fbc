/** One over: what was measured of it, and where the numbers come from. */
import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { loadOver } from '@/server/overs.ts';
import { Over } from './Over.tsx';

export const dynamic = 'force-dynamic';

interface Params {
  readonly params: Promise<{ id: string }>;
}

export async function generateMetadata({ params }: Params): Promise<Metadata> {
  return { title: `Over ${(await params).id}` };
}

export default async function Page({ params }: Params) {
  const { id } = await params;
  const over = /^\d{1,9}$/.test(id) ? await loadOver(Number(id)) : null;
  if (!over) notFound();
  return <Over key={over.id} over={over} />;
}
