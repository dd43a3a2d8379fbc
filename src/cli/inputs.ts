/** Reading the files that commands name. */
import { readFileSync, statSync } from 'node:fs';
import type { CurvePoint } from '@/core/curve/index.ts';
import { openWav, parseCurve, type SampleSource } from '@/core/files/index.ts';
import { FormatError } from '@/core/schema/index.ts';
import { InputError } from './errors.ts';
import { openFile } from './fileSource.ts';

const LARGEST_TEXT = 4 << 20;

/** Turns what went wrong into one sentence that names the file. */
export async function about<T>(path: string, work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    if (error instanceof FormatError || (error as Error).name === 'InvalidInput')
      throw new InputError(`${path}: ${(error as Error).message}`);
    const code = (error as NodeJS.ErrnoException).code;
    if (code === 'ENOENT') throw new InputError(`${path}: no such file.`);
    if (code === 'EACCES') throw new InputError(`${path}: not allowed to read it.`);
    if (code === 'EISDIR') throw new InputError(`${path}: this is not a file.`);
    throw error;
  }
}

export const openVoice = (path: string): Promise<SampleSource> => about(path, async () => openWav(await openFile(path)));

export function readText(path: string): Promise<string> {
  return about(path, async () => {
    // Without promises: loading their half of Node's files takes longer than a command line gains by them.
    const { size } = statSync(path);
    if (size > LARGEST_TEXT) throw new FormatError(`Too large: ${size} bytes.`);
    return readFileSync(path, 'utf8');
  });
}

export const readCurve = (path: string): Promise<CurvePoint[]> => about(path, async () => parseCurve(await readText(path)));

/** Whether a file holds a trace or a curve as text. */
export const isText = (path: string): boolean => /\.(?:csv|txt)$/i.test(path);
