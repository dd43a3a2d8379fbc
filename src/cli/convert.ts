/** dialtune convert: I/Q between WAV and SigMF, sample by sample as stored where the coding allows. */
import { createWriteStream } from 'node:fs';
import { writeFile } from 'node:fs/promises';
import { pipeline } from 'node:stream/promises';
import { readWavInfo, sha512, sigmfMetaFor, wavCoder, wavHeader } from '@/core/files/index.ts';
import { InputError, UsageError } from './errors.ts';
import { openFile } from './fileSource.ts';
import { about } from './inputs.ts';
import { parse } from './options.ts';
import { isSigmf, openRecording } from './recording.ts';

export async function convert(args: readonly string[]): Promise<{ json: object; text: string }> {
  const parsed = parse(args, []);
  if (parsed.files.length !== 2) throw new UsageError('convert takes two files: what there is, and what to write');
  const [from, to] = parsed.files;
  if (isSigmf(from) === isSigmf(to)) throw new UsageError('convert goes from WAV to SigMF (.sigmf-meta) or back');
  try {
    return isSigmf(to) ? await toSigmf(from, to.replace(/\.sigmf-(?:meta|data)$/, '')) : await toWav(from, to);
  } catch (error) {
    const { code, path } = error as NodeJS.ErrnoException;
    if (code) throw new InputError(`${path ?? to}: it could not be written (${code}).`);
    throw error;
  }
}

async function toSigmf(from: string, bare: string): Promise<{ json: object; text: string }> {
  return about(from, async () => {
    const file = await openFile(from);
    const layout = await readWavInfo(file);
    // WAV's 8-bit codes have no sign, as cu8 has none; everything else lies the same in both.
    const size = (layout.frames * layout.channels * layout.bits) / 8;
    const data = { size, read: (offset: number, length: number) => file.read(layout.dataOffset + offset, Math.min(length, size - offset)) };
    const meta = sigmfMetaFor(layout, { description: 'written by dialtune convert', sha512: await sha512(data) });
    await pipeline(
      async function* () {
        for (let at = 0; at < size; at += 1 << 20) yield await data.read(at, 1 << 20);
      },
      createWriteStream(`${bare}.sigmf-data`),
    );
    await writeFile(`${bare}.sigmf-meta`, `${JSON.stringify(meta, null, 2)}\n`);
    return {
      json: { meta: `${bare}.sigmf-meta`, data: `${bare}.sigmf-data`, ...meta.global },
      text: `${bare}.sigmf-meta and ${bare}.sigmf-data: ${layout.frames} samples of ${meta.global['core:datatype']}`,
    };
  });
}

async function toWav(from: string, to: string): Promise<{ json: object; text: string }> {
  const source = await openRecording(from);
  const isFloat = source.codeStep === 0;
  const bits = isFloat ? 32 : source.codeStep >= 2 ** -7 ? 8 : source.codeStep >= 2 ** -15 ? 16 : 32;
  const shape = {
    sampleRateHz: Math.round(source.sampleRateHz),
    channels: source.channels,
    bits,
    encoding: isFloat ? ('float' as const) : ('pcm' as const),
  };
  const coded = wavCoder(shape);
  await pipeline(async function* () {
    yield wavHeader(shape, source.frames);
    for await (const block of source.blocks()) yield coded(block);
  }, createWriteStream(to));
  return {
    json: { out: to, ...shape, frames: source.frames, warnings: source.warnings },
    text: [`${to}: ${source.frames} samples`, ...source.warnings].join('\n'),
  };
}
