/** GET: how far a measurement is. */
import { database } from '@/server/db/database.ts';
import { measuringPool } from '@/server/measuring/measuringPool.ts';
import { handle } from '@/server/requests/answer.ts';
import { Refused } from '@/server/requests/refused.ts';
import { idOf } from '../../../paging.ts';

export const GET = (_: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> =>
  handle(async () => {
    const id = idOf((await params).id);
    const attributes = ['id', 'status', 'error'];
    const row = id === undefined ? null : await database().models.measurements.findByPk(id, { attributes });
    if (!row) throw new Refused('There is no such measurement.', 404);
    const share = measuringPool().progress(row.id) ?? (row.status === 'done' ? 1 : 0);
    return Response.json({ status: row.status, error: row.error, share });
  });
