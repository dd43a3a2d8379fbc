/** GET: the whole station as an archive. POST: an archive in place of the station, whole or not at all. */
import { createWriteStream } from 'node:fs';
import { mkdir, mkdtemp, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { revalidatePath } from 'next/cache';
import { answer, respond } from '@/server/answer.ts';
import { readArchive } from '@/server/backup/readArchive.ts';
import { writeArchive } from '@/server/backup/writeArchive.ts';
import { Refused } from '@/server/refused.ts';

export const dynamic = 'force-dynamic';

const MOST_BYTES = 64 * 2 ** 30;

/** Lets so many bytes through, then breaks off. */
const atMost = (most: number) =>
  async function* (source: AsyncIterable<Uint8Array>): AsyncGenerator<Uint8Array> {
    let bytes = 0;
    for await (const part of source) {
      bytes += part.length;
      if (bytes > most) throw new Refused('The archive is larger than 64 GiB. Nothing was changed.', 413);
      yield part;
    }
  };

/** Must be sent with an import; a page of another origin can't. */
const INTENT = 'x-dialtune-import';

/** Where an archive lies while it is read: with the data, since a machine's /tmp may be small. */
async function scratch(): Promise<string> {
  const folder = join(process.env.DIALTUNE_DATA ?? '.data', 'scratch');
  await mkdir(folder, { recursive: true });
  return folder;
}

export async function GET(): Promise<Response> {
  const day = new Date().toISOString().slice(0, 10);
  return new Response(await writeArchive(), {
    headers: { 'content-type': 'application/zip', 'content-disposition': `attachment; filename="station-${day}.zip"` },
  });
}

export async function POST(request: Request): Promise<Response> {
  const result = await answer(async () => {
    if (request.headers.get(INTENT) !== 'replace') throw new Refused(`The header ${INTENT} is missing. Nothing was changed.`);
    if (!request.body) throw new Refused('The file is empty (0 bytes). Nothing was changed.', 422);
    const folder = await mkdtemp(join(await scratch(), 'import-'));
    try {
      const path = join(folder, 'station.zip');
      await pipeline(Readable.fromWeb(request.body as never), atMost(MOST_BYTES), createWriteStream(path));
      return await readArchive(path, (await stat(path)).size);
    } finally {
      await rm(folder, { recursive: true, force: true });
    }
  });
  if (result.ok) revalidatePath('/', 'layout');
  return respond(result);
}
