/**
 * WAV files: what the header says, checked against what is there.
 * Sources: RIFF/WAVE (WAVE_FORMAT_PCM, IEEE_FLOAT, EXTENSIBLE), EBU Tech 3306 (RF64, ds64).
 */
import { FormatError } from '../schema/index.ts';
import type { ByteSource } from './byteSource.ts';
import { HIGHEST_RATE_HZ, LOWEST_RATE_HZ, type SampleLayout } from './sampleLayout.ts';

const PCM = 1;
const FLOAT = 3;
const EXTENSIBLE = 0xfffe;
const UNKNOWN_SIZE = 0xffffffff;
/** A hostile file can hold millions of tiny chunks; a real one holds a few. */
const MOST_CHUNKS = 1000;

const text = (bytes: Uint8Array, from: number): string => String.fromCharCode(...bytes.subarray(from, from + 4));

/** Whether bytes start like a WAV file; whether it is a whole one, `readWavInfo` tells. @param start the first four bytes */
export const startsLikeWav = (start: Uint8Array): boolean => ['RIFF', 'RF64', 'BW64'].includes(text(start, 0));

const viewOf = (bytes: Uint8Array) => new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);

/** Other files that people take for WAV, by their first bytes. */
const LOOK_ALIKES: readonly [RegExp, string][] = [
  [/^ID3|^\xff[\xe2\xe3\xf2\xf3\xfa\xfb]/, 'an MP3 file'],
  [/^OggS/, 'an Ogg file'],
  [/^fLaC/, 'a FLAC file'],
  [/^....ftyp/s, 'an MP4 or M4A file'],
  [/^FORM/, 'an AIFF file'],
  // biome-ignore lint/suspicious/noControlCharactersInRegex: gzip's first bytes
  [/^\x1f\x8b|^PK/, 'a compressed archive'],
  [/^%PDF/, 'a PDF document'],
  [/^\x89PNG|^\xff\xd8\xff/, 'a picture'],
  [/^\s*[{[<]/, 'a text file'],
];

/**
 * Reads the header and finds the samples.
 * @throws FormatError with one sentence when this is not a WAV file that can be measured
 */
export async function readWavInfo(source: ByteSource): Promise<SampleLayout> {
  if (source.size === 0) throw new FormatError('The file is empty (0 bytes).');
  const head = await source.read(0, 12);
  if (head.length < 12 || !startsLikeWav(head) || text(head, 8) !== 'WAVE') {
    const start = String.fromCharCode(...head);
    const alike = LOOK_ALIKES.find(([pattern]) => pattern.test(start))?.[1];
    throw new FormatError(`Not a WAV file${alike ? `: it looks like ${alike}` : ': it does not start with a WAV header'}.`);
  }
  const { format, data, longData } = await findChunks(source);
  if (!format) throw new FormatError('This WAV file is damaged: it has no format chunk.');
  const shape = readFormat(format);
  if (!data) throw new FormatError('This WAV file holds no samples: its data chunk is missing.');
  if (data.size === 0 && (await isChunkAt(source, data.offset))) {
    throw new FormatError('This WAV file holds no samples.');
  }
  return { ...shape, dataOffset: data.offset, ...countFrames(source, data, longData, shape) };
}

interface Chunks {
  format: Uint8Array | null;
  data: { offset: number; size: number } | null;
  /** Size of the data chunk as an RF64 file's ds64 chunk tells it. */
  longData: number | null;
}

async function findChunks(source: ByteSource): Promise<Chunks> {
  const found: Chunks = { format: null, data: null, longData: null };
  let offset = 12;
  for (let count = 0; count < MOST_CHUNKS && offset + 8 <= source.size; count++) {
    const header = await source.read(offset, 8);
    const id = text(header, 0);
    const size = viewOf(header).getUint32(4, true);
    const body = offset + 8;
    if (id === 'ds64' && size >= 16) {
      const sizes = await source.read(body, 16);
      if (sizes.length === 16) found.longData = Number(viewOf(sizes).getBigUint64(8, true)) || null;
    } else if (id === 'fmt ' && !found.format) {
      found.format = await source.read(body, Math.min(size, 40));
    } else if (id === 'data') {
      found.data = { offset: body, size };
      if (found.format) return found;
    }
    const length = id === 'data' && size === UNKNOWN_SIZE && found.longData !== null ? found.longData : size;
    offset = body + length + (length % 2);
  }
  return found;
}

/** An empty data chunk is either the end of a recorder that never finished its header, or really empty. */
async function isChunkAt(source: ByteSource, offset: number): Promise<boolean> {
  const header = await source.read(offset, 8);
  if (header.length < 8) return true;
  return /^[A-Za-z0-9_ ]{4}$/.test(text(header, 0)) && viewOf(header).getUint32(4, true) <= source.size - offset - 8;
}

function readFormat(bytes: Uint8Array): Pick<SampleLayout, 'sampleRateHz' | 'channels' | 'bits' | 'encoding'> {
  if (bytes.length < 16) throw new FormatError('This WAV file is damaged: its format chunk is cut short.');
  const view = viewOf(bytes);
  let tag = view.getUint16(0, true);
  const channels = view.getUint16(2, true);
  const sampleRateHz = view.getUint32(4, true);
  const frameBytes = view.getUint16(12, true);
  const bits = view.getUint16(14, true);
  if (tag === EXTENSIBLE && bytes.length >= 26) tag = view.getUint16(24, true);
  if (tag !== PCM && tag !== FLOAT) {
    throw new FormatError(`This WAV file uses a compressed coding (format ${tag}); PCM or float samples are needed.`);
  }
  if (channels < 1 || channels > 2) {
    throw new FormatError(`This WAV file has ${channels} channels; one or two can be measured.`);
  }
  if (sampleRateHz < LOWEST_RATE_HZ || sampleRateHz > HIGHEST_RATE_HZ) {
    throw new FormatError(
      `This WAV file has a sample rate of ${sampleRateHz} Hz; ${LOWEST_RATE_HZ} to ${HIGHEST_RATE_HZ} Hz can be measured.`,
    );
  }
  const known = tag === PCM ? [8, 16, 24, 32] : [32, 64];
  // Samples fill whole bytes: 20 bits live in 3, 12 in 2, justified to the top.
  const stored = Math.ceil(bits / 8) * 8;
  if (!known.includes(stored) || bits === 0) {
    throw new FormatError(`This WAV file has ${bits}-bit ${tag === PCM ? 'integer' : 'float'} samples; that can't be read.`);
  }
  if (frameBytes !== 0 && frameBytes !== (channels * stored) / 8) {
    throw new FormatError(`This WAV file contradicts itself: ${frameBytes} bytes a frame for ${channels} x ${bits} bits.`);
  }
  return { sampleRateHz, channels, bits: stored, encoding: tag === PCM ? 'pcm' : 'float' };
}

function countFrames(
  source: ByteSource,
  data: { offset: number; size: number },
  longData: number | null,
  { channels, bits }: Pick<SampleLayout, 'channels' | 'bits'>,
): Pick<SampleLayout, 'frames' | 'warnings'> {
  const present = Math.max(0, source.size - data.offset);
  const isStreamed = (data.size === UNKNOWN_SIZE || data.size === 0) && longData === null;
  const claimed = data.size === UNKNOWN_SIZE && longData !== null ? longData : data.size;
  const bytes = isStreamed ? present : Math.min(claimed, present);
  const frameBytes = (channels * bits) / 8;
  const frames = Math.floor(bytes / frameBytes);
  if (frames === 0) throw new FormatError('This WAV file holds no samples.');
  const warnings: string[] = [];
  if (!isStreamed && claimed > present) {
    warnings.push(
      `The file is cut short: its header promises ${Math.floor(claimed / frameBytes)} samples, ${frames} are there and were measured.`,
    );
  }
  return { frames, warnings };
}
