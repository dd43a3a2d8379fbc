/** GET: the whole station as an archive. POST: an archive in place of the station, whole or not at all. */
import { type FileHandle, open } from 'node:fs/promises';
import { join } from 'node:path';
import { revalidatePath } from 'next/cache';
import { readArchive } from '@/server/backup/readArchive.ts';
import { writeArchive } from '@/server/backup/writeArchive.ts';
import { resumeMeasuring } from '@/server/measuring/measuringPool.ts';
import { answer, handle, respond } from '@/server/requests/answer.ts';
import { heavy } from '@/server/requests/heavy.ts';
import { Refused } from '@/server/requests/refused.ts';
import { inScratch, spooled } from '@/server/requests/spool.ts';
import { streamOf } from '@/server/requests/streams.ts';
import { FILE_LENGTH } from '@/server/web/fileLength.ts';

const LIMIT = { most: 64 * 2 ** 30, tooLarge: 'The archive is larger than 64 GiB. Nothing was changed.' };

/** Must be sent with an import; a page of another origin can't. */
const INTENT = 'x-dialtune-import';

const PIECE_BYTES = 1 << 18;

async function* piecesOf(file: FileHandle): AsyncGenerator<Uint8Array> {
  for (;;) {
    const { bytesRead, buffer } = await file.read(new Uint8Array(PIECE_BYTES), 0, PIECE_BYTES);
    if (bytesRead === 0) return;
    yield buffer.subarray(0, bytesRead);
  }
}

/** Asked for as HEAD too, where nothing is made: nobody would take it. */
export const GET = (request: Request): Promise<Response> =>
  handle(async () => {
    const headers = {
      'content-type': 'application/zip',
      'content-disposition': `attachment; filename="station-${new Date().toISOString().slice(0, 10)}.zip"`,
    };
    if (request.method === 'HEAD') return new Response(null, { headers });
    return inScratch(async (folder) => {
      const path = join(folder, 'station.zip');
      await heavy(() => writeArchive(path), request.signal);
      // Open, the file outlives its name: however slowly it is taken, nothing but the file is held.
      const file = await open(path);
      const { size } = await file.stat();
      return new Response(
        streamOf(piecesOf(file), () => file.close()),
        { headers: { ...headers, [FILE_LENGTH]: String(size) } },
      );
    });
  });

export async function POST(request: Request): Promise<Response> {
  const result = await answer(async () => {
    if (request.headers.get(INTENT) !== 'replace') throw new Refused(`The header ${INTENT} is missing. Nothing was changed.`);
    if (!request.body) throw new Refused('The file is empty (0 bytes). Nothing was changed.', 422);
    return spooled(request.body, LIMIT, ({ path, size }) => heavy(() => readArchive(path, size)));
  });
  if (result.ok) {
    revalidatePath('/', 'layout');
    // Recordings that the archive holds unmeasured.
    await resumeMeasuring().catch((error) => console.error(error));
  }
  return respond(result);
}
