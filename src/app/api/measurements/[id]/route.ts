/** GET: how far a measurement is. */
import { database } from '@/server/database.ts';
import { measuringPool, resumeMeasuring } from '@/server/measuringPool.ts';

export const dynamic = 'force-dynamic';

export async function GET(_: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  const { id } = await params;
  const row = /^\d{1,9}$/.test(id)
    ? await database().models.measurements.findByPk(Number(id), { attributes: ['id', 'captureId', 'status', 'error'] })
    : null;
  if (!row) return Response.json({ message: 'There is no such measurement.' }, { status: 404 });
  const isWaiting = row.status === 'queued' || row.status === 'running';
  // Nobody works on it any more: the database went away in between.
  if (isWaiting && measuringPool().progress(row.id) === undefined) await resumeMeasuring();
  return Response.json({
    status: row.status,
    error: row.error,
    share: measuringPool().progress(row.id) ?? (row.status === 'done' ? 1 : 0),
  });
}
