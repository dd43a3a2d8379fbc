/** Samples of a recording, read block by block as often as a measurement needs. */
import type { FullScale } from '../dsp/index.ts';
import type { Hertz } from '../units/index.ts';
import type { ByteSource } from './byteSource.ts';
import { codeStep, fullScaleOf, type SampleLayout } from './sampleLayout.ts';
import { readWavInfo } from './wav.ts';

/** One block: an array per channel, full scale 1.0, all of one length. */
export type SampleBlock = readonly Float64Array[];

/** Samples of all channels in turn: floats, or 16-bit codes as stored (full scale 32768), which the kernel turns into samples. */
export type InterleavedBlock = Int16Array | Float32Array;

/** A recording as a stream of blocks, samples at full scale 1. */
export interface SampleSource {
  readonly sampleRateHz: Hertz;
  readonly channels: number;
  readonly frames: number;
  readonly fullScale: FullScale;
  /** Size of one integer code, 0 for floats. */
  readonly codeStep: number;
  /** Remarks on how the file was read. */
  readonly warnings: readonly string[];
  /** Reads block by block; may be called again. Values that are no finite number come as 0 and are counted. */
  blocks(options?: BlockOptions): AsyncIterable<SampleBlock>;
  /** The same with the channels in turn, for the kernel; single precision. A block is good until the next one is asked for. */
  interleaved(options?: BlockOptions): AsyncIterable<InterleavedBlock>;
}

/** Which part, which channel, and how to stop. */
export interface BlockOptions {
  /** Sample frame to start at; 0 when left out. */
  readonly from?: number;
  /** Told how many values of a block were no finite number. */
  readonly onNonFinite?: (count: number) => void;
  /** Where the bytes of a block may be read to; asked before each. Without it they share a room of their own. */
  readonly room?: (bytes: number) => Uint8Array | undefined;
}

const BLOCK_BYTES = 1 << 18;

/** Samples of a file that is laid out as told. */
export const samplesOf = (source: ByteSource, layout: SampleLayout): SampleSource => ({
  sampleRateHz: layout.sampleRateHz,
  channels: layout.channels,
  frames: layout.frames,
  warnings: layout.warnings,
  fullScale: fullScaleOf(layout),
  codeStep: codeStep(layout),
  blocks: (options) => splitBlocks(source, layout, options),
  interleaved: (options) => interleavedBlocks(source, layout, options),
});

/** Opens a WAV file. @throws FormatError when it can't be read */
export const openWav = async (source: ByteSource): Promise<SampleSource> => samplesOf(source, await readWavInfo(source));

async function* rawBlocks(source: ByteSource, layout: SampleLayout, { from = 0, room }: BlockOptions): AsyncGenerator<Codes> {
  const frameBytes = (layout.bits / 8) * layout.channels;
  const framesPerBlock = Math.floor(BLOCK_BYTES / frameBytes);
  const own = room ? undefined : new Uint8Array(framesPerBlock * frameBytes);
  for (let frame = from; frame < layout.frames; frame += framesPerBlock) {
    const wanted = Math.min(framesPerBlock, layout.frames - frame) * frameBytes;
    const bytes = await source.read(layout.dataOffset + frame * frameBytes, wanted, own ?? room?.(wanted));
    yield codesOf(bytes.subarray(0, bytes.length - (bytes.length % frameBytes)), layout);
  }
}

type CodeArray = Uint8Array | Int8Array | Int16Array | Int32Array | Float32Array | Float64Array;

/** Stored numbers and what makes samples of them: (code - middle) * scale. */
interface Codes {
  readonly codes: CodeArray;
  readonly middle: number;
  readonly scale: number;
}

/** Typed arrays need their bytes aligned. Every machine this runs on is little-endian, as the files are. */
const aligned = (bytes: Uint8Array, width: number) => (bytes.byteOffset % width === 0 ? bytes : bytes.slice());

function codesOf(bytes: Uint8Array, { bits, encoding, isSigned8 }: SampleLayout): Codes {
  const width = bits / 8;
  const { buffer, byteOffset } = aligned(bytes, width === 3 ? 1 : width);
  const count = bytes.length / width;
  if (encoding === 'float') {
    return {
      codes: bits === 32 ? new Float32Array(buffer, byteOffset, count) : new Float64Array(buffer, byteOffset, count),
      middle: 0,
      scale: 1,
    };
  }
  const scale = 2 ** (1 - bits);
  switch (bits) {
    case 8:
      return isSigned8 ? { codes: new Int8Array(buffer, byteOffset, count), middle: 0, scale } : { codes: bytes, middle: 128, scale };
    case 16:
      return { codes: new Int16Array(buffer, byteOffset, count), middle: 0, scale };
    case 24: {
      const codes = new Int32Array(count);
      for (let n = 0, at = 0; n < count; n++, at += 3) codes[n] = bytes[at] | (bytes[at + 1] << 8) | ((bytes[at + 2] << 24) >> 8);
      return { codes, middle: 0, scale };
    }
    default:
      return { codes: new Int32Array(buffer, byteOffset, count), middle: 0, scale };
  }
}

/** One channel of interleaved codes. With plain names of its own: this is where reading spends its time. */
function channelOf(codes: Codes['codes'], channels: number, channel: number, middle: number, scale: number): Float64Array {
  const count = codes.length / channels;
  const samples = new Float64Array(count);
  for (let n = 0, at = channel; n < count; n++, at += channels) samples[n] = (codes[at] - middle) * scale;
  return samples;
}

async function* splitBlocks(source: ByteSource, layout: SampleLayout, options: BlockOptions = {}): AsyncGenerator<SampleBlock> {
  const { channels, encoding } = layout;
  for await (const { codes, middle, scale } of rawBlocks(source, layout, options)) {
    let nonFinite = 0;
    const block = Array.from({ length: channels }, (_, channel) => {
      const samples = channelOf(codes, channels, channel, middle, scale);
      if (encoding === 'float') nonFinite += silenceNonFinite(samples);
      return samples;
    });
    if (nonFinite > 0) options.onNonFinite?.(nonFinite);
    yield block;
  }
}

async function* interleavedBlocks(source: ByteSource, layout: SampleLayout, options: BlockOptions = {}): AsyncGenerator<InterleavedBlock> {
  for await (const { codes, middle, scale } of rawBlocks(source, layout, options)) {
    if (codes instanceof Int16Array) {
      yield codes;
      continue;
    }
    const samples = new Float32Array(codes.length);
    for (let n = 0; n < samples.length; n++) samples[n] = (codes[n] - middle) * scale;
    const nonFinite = layout.encoding === 'float' ? silenceNonFinite(samples) : 0;
    if (nonFinite > 0) options.onNonFinite?.(nonFinite);
    yield samples;
  }
}

/** Beyond a million times full scale it is no sample of anything, whatever scale a program wrote its floats in. */
const LARGEST_SAMPLE = 1e6;

/** Values that are no finite number, or none that a sample can have, become 0. @returns how many there were */
function silenceNonFinite(samples: Float32Array | Float64Array): number {
  let count = 0;
  for (let n = 0; n < samples.length; n++) {
    if (Math.abs(samples[n]) <= LARGEST_SAMPLE) continue;
    samples[n] = 0;
    count++;
  }
  return count;
}

/** Mean of the channels, or one of them (counted from 1). */
export function mixDown(block: SampleBlock, channel?: number): Float64Array {
  if (channel !== undefined) return block[channel - 1];
  if (block.length === 1) return block[0];
  const [left, right] = block;
  return left.map((value, n) => (value + right[n]) / 2);
}

/** Samples of a piece; pieces fit the processor's caches. */
const PIECE = 16384;

/**
 * The mean of all channels in pieces: 16-bit codes as stored where there is one channel of them, else single precision.
 * A piece is good until the next one is asked for.
 */
export async function* monoPieces(source: SampleSource): AsyncGenerator<InterleavedBlock> {
  const { channels } = source;
  const room = new Float32Array(PIECE);
  for await (const block of source.interleaved()) {
    const scale = (block instanceof Int16Array ? 2 ** -15 : 1) / channels;
    for (let at = 0; at < block.length; at += PIECE * channels) {
      const piece = block.subarray(at, at + PIECE * channels);
      if (channels === 1) {
        yield piece;
        continue;
      }
      const count = piece.length / channels;
      for (let n = 0; n < count; n++) room[n] = (piece[2 * n] + piece[2 * n + 1]) * scale;
      yield room.subarray(0, count);
    }
  }
}

/** A piece as samples in double precision. */
export const samplesOfPiece = (piece: InterleavedBlock): Float64Array =>
  piece instanceof Int16Array ? Float64Array.from(piece, (code) => code * 2 ** -15) : new Float64Array(piece);

/** Samples [from, to) of the mean of all channels, in memory: for short stretches only. */
export async function readPart(source: SampleSource, from: number, to: number): Promise<Float64Array> {
  const end = Math.min(to, source.frames);
  const stretch = new Float64Array(Math.max(0, end - from));
  let at = from;
  for await (const block of source.blocks({ from })) {
    const mono = mixDown(block).subarray(0, end - at);
    stretch.set(mono, at - from);
    at += mono.length;
    if (at >= end) break;
  }
  return stretch.subarray(0, Math.max(0, at - from));
}

/** All samples of the mean of all channels, in memory: for short recordings only. */
export const readAll = (source: SampleSource): Promise<Float64Array> => readPart(source, 0, source.frames);

/** The beginning of a recording as a recording of its own. @param seconds at most this long */
export function headOf(source: SampleSource, seconds: number): SampleSource {
  const frames = Math.min(source.frames, Math.floor(seconds * source.sampleRateHz));
  if (frames === source.frames) return source;
  return {
    ...source,
    frames,
    async *blocks(options) {
      let left = frames - (options?.from ?? 0);
      for await (const block of source.blocks(options)) {
        if (left <= 0) return;
        yield block.map((samples) => samples.subarray(0, left));
        left -= block[0].length;
      }
    },
    async *interleaved(options) {
      let left = (frames - (options?.from ?? 0)) * source.channels;
      for await (const block of source.interleaved(options)) {
        if (left <= 0) return;
        yield block.subarray(0, left);
        left -= block.length;
      }
    },
  };
}
