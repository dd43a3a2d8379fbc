/** A stored capture's bytes: one chunk a mebibyte, read at any place. */
import { Op } from 'sequelize';
import type { ByteSource } from '../core/formats/byteSource.ts';
import type { Models } from './models.ts';

export const CHUNK_BYTES = 1 << 20;

/**
 * @param captureId row of `captures`
 * @param transaction sees chunks that are not committed yet
 */
export function storedBytes(
  { captureChunks }: Models,
  captureId: number,
  size: number,
  transaction?: import('sequelize').Transaction,
): ByteSource {
  // Measurements read straight ahead in small steps; keeping one chunk saves asking for it again.
  let kept: { position: number; bytes: Buffer } | null = null;
  const chunk = async (position: number): Promise<Buffer> => {
    if (kept?.position !== position) {
      const row = await captureChunks.findOne({ where: { captureId, position }, transaction });
      if (!row) throw new Error(`Capture ${captureId} lacks chunk ${position}.`);
      kept = { position, bytes: row.bytes };
    }
    return kept.bytes;
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
