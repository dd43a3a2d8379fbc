/** A file on disk as a byte source. */
import { closeSync, fstatSync, openSync, readSync } from 'node:fs';
import type { ByteSource } from '@/core/files/index.ts';

export interface OpenFile extends ByteSource {
  close(): Promise<void>;
}

/**
 * Plain descriptors: what a command leaves open ends with the process, without a warning. At once: nothing else is waiting for
 * this process, and a thread to read for it costs more than the reading.
 * @throws the system's error when the file can't be opened
 */
export async function openFile(path: string): Promise<OpenFile> {
  const file = openSync(path, 'r');
  const found = fstatSync(file);
  if (!found.isFile()) {
    closeSync(file);
    throw Object.assign(new Error('not a file'), { code: 'EISDIR' });
  }
  const { size } = found;
  return {
    size,
    async read(offset, length, into) {
      const wanted = Math.max(0, Math.min(length, size - offset));
      const bytes = into && into.length >= wanted ? into.subarray(0, wanted) : new Uint8Array(wanted);
      let filled = 0;
      while (filled < wanted) {
        const bytesRead = readSync(file, bytes, filled, wanted - filled, offset + filled);
        if (bytesRead === 0) break;
        filled += bytesRead;
      }
      return bytes.subarray(0, filled);
    },
    close: async () => closeSync(file),
  };
}
