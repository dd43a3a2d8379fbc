/** A file that is still being written, as a byte source: who reads ahead of the writer waits for it. */
import type { FileHandle } from 'node:fs/promises';
import type { MessagePort } from 'node:worker_threads';
import type { ByteSource } from '@/core/files/index.ts';
import type { Arrival } from './headStart.ts';

const LOOK_EVERY_MS = 10;
/** A writer that stands still for so long keeps no thread waiting. */
const PATIENCE_MS = 10_000;
const pause = () => new Promise((resolve) => setTimeout(resolve, LOOK_EVERY_MS));

/**
 * Closes the file with the port, which tells when it is whole or gone.
 * @param bytes that it will have
 */
export function growingFile(file: FileHandle, bytes: number, port: MessagePort): ByteSource {
  let state: Arrival | 'coming' = 'coming';
  port.on('message', (news: Arrival) => {
    state = news;
  });
  port.on('close', () => {
    state = state === 'coming' ? 'gone' : state;
    void file.close().catch(() => {});
  });
  const waitFor = async (end: number): Promise<void> => {
    for (let [size, since] = [-1, 0]; ; ) {
      const now = (await file.stat()).size;
      if (now >= end) return;
      if (now > size) [size, since] = [now, performance.now()];
      if (state === 'gone' || performance.now() - since > PATIENCE_MS) throw new Error('the recording did not arrive');
      // All of it was said to be here, and is not.
      if (state === 'whole') throw new Error('the recording is shorter than was said');
      await pause();
    }
  };
  return {
    size: bytes,
    async read(offset, length) {
      const end = Math.min(bytes, offset + length);
      await waitFor(end);
      const out = new Uint8Array(Math.max(0, end - offset));
      for (let filled = 0; filled < out.length; ) {
        const { bytesRead } = await file.read(out, filled, out.length - filled, offset + filled);
        if (bytesRead === 0) throw new Error('the recording was cut off');
        filled += bytesRead;
      }
      return out;
    },
  };
}
