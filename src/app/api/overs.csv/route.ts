/** GET: the log of overs as CSV for a spreadsheet. */
import { oversCsv } from '@/server/backup/writeArchive.ts';

export const dynamic = 'force-dynamic';

export async function GET(): Promise<Response> {
  return new Response(await oversCsv(), {
    headers: { 'content-type': 'text/csv; charset=utf-8', 'content-disposition': 'attachment; filename="overs.csv"' },
  });
}
