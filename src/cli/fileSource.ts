/** A file on disk as a byte source. */
import { close, fstat, open, read } from 'node:fs';
import { promisify } from 'node:util';
import type { ByteSource } from '@/core/files/index.ts';

export interface OpenFile extends ByteSource {
  close(): Promise<void>;
}

// Plain descriptors: what a command leaves open ends with the process, without a warning.
const [opened, stat, readInto, closed] = [promisify(open), promisify(fstat), promisify(read), promisify(close)];

/** @throws the system's error when the file can't be opened */
export async function openFile(path: string): Promise<OpenFile> {
  const file = await opened(path, 'r');
  const { size, isFile } = await stat(file).then((found) => ({ size: found.size, isFile: found.isFile() }));
  if (!isFile) {
    await closed(file);
    throw Object.assign(new Error('not a file'), { code: 'EISDIR' });
  }
  return {
    size,
    async read(offset, length) {
      const bytes = new Uint8Array(Math.max(0, Math.min(length, size - offset)));
      let filled = 0;
      while (filled < bytes.length) {
        const { bytesRead } = await readInto(file, bytes, filled, bytes.length - filled, offset + filled);
        if (bytesRead === 0) break;
        filled += bytesRead;
      }
      return bytes.subarray(0, filled);
    },
    close: () => closed(file),
  };
}
