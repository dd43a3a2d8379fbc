/** GET: the log of overs as CSV for a spreadsheet, as it is read. */
import { oversCsv } from '@/server/backup/writeArchive.ts';
import { handle } from '@/server/requests/answer.ts';
import { streamOf } from '@/server/requests/streams.ts';

const PIECE_CHARACTERS = 1 << 16;

export const GET = (): Promise<Response> =>
  handle(async () => {
    const lines = oversCsv();
    // Asked for the first line here: a database that is away is told in words, not by a file that breaks off.
    const first = await lines.next();
    const whole = async function* () {
      if (!first.done) yield Buffer.from(first.value);
      // Many lines a piece: each piece is a turn of the whole machine.
      let held = '';
      for await (const line of lines) {
        held += line;
        if (held.length < PIECE_CHARACTERS) continue;
        yield Buffer.from(held);
        held = '';
      }
      yield Buffer.from(held);
    };
    return new Response(streamOf(whole()), {
      headers: { 'content-type': 'text/csv; charset=utf-8', 'content-disposition': 'attachment; filename="overs.csv"' },
    });
  });
