/** A capture that the server holds, read by a worker. */
import type { ByteSource } from '@/core/files/index.ts';

const READ_BYTES = 4 << 20;

/** Read in ranges; a few mebibytes are kept so that small reads cost no request each. */
export function storedCapture(captureId: number, size: number): ByteSource {
  let kept: { from: number; bytes: Uint8Array } | null = null;
  return {
    size,
    async read(offset, length) {
      const end = Math.min(size, offset + length);
      if (!kept || offset < kept.from || end > kept.from + kept.bytes.length) {
        const to = Math.min(size, Math.max(end, offset + READ_BYTES)) - 1;
        const response = await fetch(`/api/captures/${captureId}`, { headers: { range: `bytes=${offset}-${to}` } });
        if (!response.ok) throw new Error('The recording could not be fetched.');
        kept = { from: offset, bytes: new Uint8Array(await response.arrayBuffer()) };
      }
      return kept.bytes.subarray(offset - kept.from, end - kept.from);
    },
  };
}
