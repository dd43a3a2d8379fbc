/** One over: what was measured of it, and where the numbers come from. */
import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { Over } from '@/features/overs/Over.tsx';
import { loadOver } from '@/server/overs/overs.ts';
import { listReports } from '@/server/reports/reports.ts';
import { load } from '@/server/requests/answer.ts';
import { idOf } from '../../paging.ts';

const REPORTS = 100;

interface Params {
  readonly params: Promise<{ id: string }>;
}

export async function generateMetadata({ params }: Params): Promise<Metadata> {
  return { title: `Over ${(await params).id}` };
}

export default async function Page({ params }: Params) {
  const id = idOf((await params).id);
  const over = id === undefined ? null : await load(() => loadOver(id));
  if (!over) notFound();
  const reports = await load(() => listReports({ overId: over.id, limit: REPORTS }));
  return <Over key={over.id} over={over} reports={reports} />;
}
