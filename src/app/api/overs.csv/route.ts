/** GET: the log of overs as CSV for a spreadsheet, as it is read. */
import { Readable } from 'node:stream';
import { handle } from '@/server/answer.ts';
import { oversCsv } from '@/server/backup/writeArchive.ts';

export const dynamic = 'force-dynamic';

export const GET = (): Promise<Response> =>
  handle(async () => {
    const lines = oversCsv();
    // Asked for the first line here: a database that is away is told in words, not by a file that breaks off.
    const first = await lines.next();
    const whole = async function* () {
      if (!first.done) yield Buffer.from(first.value);
      for await (const line of lines) yield Buffer.from(line);
    };
    return new Response(Readable.toWeb(Readable.from(whole())) as ReadableStream<Uint8Array>, {
      headers: { 'content-type': 'text/csv; charset=utf-8', 'content-disposition': 'attachment; filename="overs.csv"' },
    });
  });
