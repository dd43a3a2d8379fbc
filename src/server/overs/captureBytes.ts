/** A stored capture's bytes: one chunk a mebibyte, read at any place. */
import type { Connection } from 'mariadb';
import { Op, type Transaction } from 'sequelize';
import type { ByteSource } from '@/core/files/index.ts';
import type { Models } from '../db/models.ts';

export const CHUNK_BYTES = 1 << 20;
/** So many chunks from the beginning stay in memory: 128 MiB, whatever the file's size. */
const KEPT_CHUNKS = 128;

/**
 * Keeps one chunk, as it is: Sequelize would write it into the text of its statement as hexadecimal digits, which takes
 * the driver seven times as long. @throws the driver's errors
 */
export async function keepChunk(captureId: number, position: number, bytes: Buffer, transaction: Transaction): Promise<void> {
  // The connection that the transaction holds; Sequelize has it, and does not tell in its types.
  const { connection } = transaction as unknown as { readonly connection: Connection };
  await connection.execute('INSERT INTO capture_chunks (capture_id, position, bytes) VALUES (?, ?, ?)', [captureId, position, bytes]);
}

/**
 * @param captureId row of `captures`
 */
export function storedBytes({ captureChunks }: Models, captureId: number, size: number): ByteSource {
  // Measurements read straight ahead, several times over: the beginning is kept, and the next chunk is on its way
  // while this one is worked on.
  const kept = new Map<number, Promise<Buffer>>();
  const last = Math.ceil(size / CHUNK_BYTES) - 1;
  const fetched = async (position: number): Promise<Buffer> => {
    const row = await captureChunks.findOne({ where: { captureId, position }, raw: true });
    if (!row) throw new Error(`Capture ${captureId} lacks chunk ${position}.`);
    return row.bytes;
  };
  const ask = (position: number): Promise<Buffer> => {
    let asked = kept.get(position);
    if (!asked) {
      asked = fetched(position);
      // Whoever needs it hears of the failure; asking ahead must not.
      asked.catch(() => kept.delete(position));
      kept.set(position, asked);
    }
    return asked;
  };
  const chunk = (position: number): Promise<Buffer> => {
    for (const old of kept.keys()) if (old >= KEPT_CHUNKS && (old < position || old > position + 1)) kept.delete(old);
    const here = ask(position);
    if (position < last) void ask(position + 1).catch(() => {});
    return here;
  };
  return {
    size,
    async read(offset, length) {
      const end = Math.min(size, offset + length);
      const out = new Uint8Array(Math.max(0, end - offset));
      for (let at = offset; at < end; ) {
        const position = Math.floor(at / CHUNK_BYTES);
        const bytes = await chunk(position);
        const from = at - position * CHUNK_BYTES;
        const part = bytes.subarray(from, Math.min(bytes.length, from + end - at));
        out.set(part, at - offset);
        at += part.length;
      }
      return out;
    },
  };
}

/** The bytes as a stream, one chunk after another. */
export function streamCapture(models: Models, captureId: number): ReadableStream<Uint8Array> {
  let position = -1;
  return new ReadableStream({
    async pull(controller) {
      const row = await models.captureChunks.findOne({
        where: { captureId, position: { [Op.gt]: position } },
        order: [['position', 'ASC']],
      });
      if (!row) return controller.close();
      position = row.position;
      controller.enqueue(new Uint8Array(row.bytes));
    },
  });
}
