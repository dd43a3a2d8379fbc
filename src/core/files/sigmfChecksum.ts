/** Whether a SigMF data file is the one its meta file was written for. */
import { createSHA512 } from 'hash-wasm';
import type { ByteSource } from './byteSource.ts';
import type { SigmfMeta } from './sigmf.ts';

const BLOCK_BYTES = 1 << 20;

/** SHA-512 of all bytes, lower-case hex. */
export async function sha512(source: ByteSource): Promise<string> {
  const hash = await createSHA512();
  hash.init();
  for (let at = 0; at < source.size; at += BLOCK_BYTES) hash.update(await source.read(at, BLOCK_BYTES));
  return hash.digest('hex');
}

/** A warning when the meta file tells another checksum than the data has; nothing when it tells none or the right one. */
export async function sha512Warnings(meta: SigmfMeta, data: ByteSource): Promise<string[]> {
  const told = meta.global['core:sha512'];
  if (told === undefined || (await sha512(data)) === told.toLowerCase()) return [];
  return [
    'Meta and data disagree: the data file is not the one the meta file was written for (its SHA-512 differs). It was measured as it is.',
  ];
}
