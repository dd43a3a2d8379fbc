/** Station archives taken apart, bent and put together again. */
import { createHash } from 'node:crypto';
import { writeFileSync } from 'node:fs';
import { openPromise } from 'yauzl';
import { ZipFile } from 'yazl';

export type Files = Map<string, Buffer>;

export const hash = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');

export async function unpack(path: string): Promise<Files> {
  const zip = await openPromise(path, { autoClose: false });
  const files: Files = new Map();
  for await (const entry of zip.eachEntry()) {
    const parts: Buffer[] = [];
    for await (const part of await zip.openReadStreamPromise(entry)) parts.push(part as Buffer);
    files.set(entry.fileName, Buffer.concat(parts));
  }
  zip.close();
  return files;
}

export async function pack(files: Files, path: string): Promise<string> {
  const zip = new ZipFile();
  for (const [file, bytes] of files) zip.addBuffer(bytes, file);
  zip.end();
  const parts: Buffer[] = [];
  for await (const part of zip.outputStream) parts.push(part as Buffer);
  writeFileSync(path, Buffer.concat(parts));
  return path;
}

/** Changes files and lists them truthfully again, as a forger would. */
export function forged(files: Files, change: (files: Files) => void): Files {
  const own = new Map(files);
  change(own);
  const manifest = JSON.parse(own.get('dialtune-station.json')?.toString() ?? '{}');
  manifest.files = [...own]
    .filter(([name]) => name !== 'dialtune-station.json')
    .map(([name, bytes]) => ({ name, bytes: bytes.length, sha256: hash(bytes) }));
  own.set('dialtune-station.json', Buffer.from(JSON.stringify(manifest)));
  return own;
}
