/** What comes in lies on disk first, however slowly it comes: the database is asked only when all of it is there. */
import { createHash } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { type FileHandle, mkdir, mkdtemp, open, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { ByteSource } from '@/core/files/index.ts';
import { Refused } from './refused.ts';

export interface Spooled extends ByteSource {
  readonly path: string;
  readonly sha256: string;
}

/** A folder of its own that is gone after the work; with the data, since a machine's /tmp may be small. */
export async function inScratch<T>(work: (folder: string) => Promise<T>): Promise<T> {
  const scratch = join(process.env.DIALTUNE_DATA ?? '.data', 'scratch');
  await mkdir(scratch, { recursive: true });
  const folder = await mkdtemp(join(scratch, 'of-'));
  try {
    return await work(folder);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

/**
 * Writes a stream to disk and works on it.
 * @param limits how long it may be, what to say when it is longer, and who is told of each part that has come
 * @throws Refused when it is too long, and whatever broke the stream off
 */
export function spooled<T>(
  body: AsyncIterable<Uint8Array>,
  { most, tooLarge, onPart }: { most: number; tooLarge: string; onPart?: (path: string, bytes: number) => void },
  work: (file: Spooled) => Promise<T>,
): Promise<T> {
  return inScratch(async (folder) => {
    const path = join(folder, 'file');
    const hash = createHash('sha256');
    let size = 0;
    const counted = async function* (source: AsyncIterable<Uint8Array>) {
      for await (const part of source) {
        size += part.length;
        if (size > most) throw new Refused(tooLarge, 413);
        hash.update(part);
        yield part;
        onPart?.(path, size);
      }
    };
    await pipeline(Readable.from(body), counted, createWriteStream(path));
    const handle = await open(path);
    try {
      return await work({ path, size, sha256: hash.digest('hex'), read: (offset, length) => readAt(handle, offset, length) });
    } finally {
      await handle.close();
    }
  });
}

async function readAt(handle: FileHandle, offset: number, length: number): Promise<Uint8Array> {
  const { buffer, bytesRead } = await handle.read(new Uint8Array(length), 0, length, offset);
  return buffer.subarray(0, bytesRead);
}
