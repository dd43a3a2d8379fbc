/** A file on disk as a byte source. */
import { open } from 'node:fs/promises';
import type { ByteSource } from '@/core/files/index.ts';

export interface OpenFile extends ByteSource {
  close(): Promise<void>;
}

/** @throws the system's error when the file can't be opened */
export async function openFile(path: string): Promise<OpenFile> {
  const handle = await open(path, 'r');
  const stat = await handle.stat();
  if (!stat.isFile()) {
    await handle.close();
    throw Object.assign(new Error('not a file'), { code: 'EISDIR' });
  }
  return {
    size: stat.size,
    async read(offset, length) {
      const bytes = new Uint8Array(Math.max(0, Math.min(length, stat.size - offset)));
      let filled = 0;
      while (filled < bytes.length) {
        const { bytesRead } = await handle.read(bytes, filled, bytes.length - filled, offset + filled);
        if (bytesRead === 0) break;
        filled += bytesRead;
      }
      return bytes.subarray(0, filled);
    },
    close: () => handle.close(),
  };
}
