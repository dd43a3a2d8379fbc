/** One over: what was measured of it, and where the numbers come from. */
import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { Over } from '@/features/overs/Over.tsx';
import { capturesOfOvers, loadOver } from '@/server/overs/overView.ts';
import { listReports } from '@/server/reports/reports.ts';
import { load } from '@/server/requests/answer.ts';
import { idOf } from '../../paging.ts';

const REPORTS = 100;

interface Params {
  readonly params: Promise<{ id: string }>;
  readonly searchParams: Promise<{ capture?: string }>;
}

export async function generateMetadata({ params }: Params): Promise<Metadata> {
  return { title: `Over ${(await params).id}` };
}

export default async function Page({ params, searchParams }: Params) {
  const id = idOf((await params).id);
  const best = id === undefined ? null : await load(() => loadOver(id));
  if (!best) notFound();
  const { capture } = await searchParams;
  const [reports, captures] = await load(() => Promise.all([listReports({ overId: best.id, limit: REPORTS }), capturesOfOvers([best.id])]));
  const over = captures.find((each) => each.capture?.id === idOf(capture)) ?? best;
  return <Over key={`${over.id} ${over.capture?.id}`} over={over} captures={captures} reports={reports} />;
}
