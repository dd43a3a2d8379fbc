/** Samples of a recording, read block by block as often as a measurement needs. */
import type { FullScale } from '../signal/clipping.ts';
import type { Hertz } from '../signal/units.ts';
import type { ByteSource } from './byteSource.ts';
import { codeStep, fullScaleOf, readWavInfo, type WavInfo } from './wav.ts';

/** One block: an array per channel, full scale 1.0, all of one length. */
export type SampleBlock = readonly Float64Array[];

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
}

export interface BlockOptions {
  /** Sample frame to start at; 0 when left out. */
  readonly from?: number;
  /** Told how many values of a block were no finite number. */
  readonly onNonFinite?: (count: number) => void;
}

const BLOCK_BYTES = 1 << 18;

/** Opens a WAV file. @throws FormatError when it can't be read */
export async function openWav(source: ByteSource): Promise<SampleSource> {
  const info = await readWavInfo(source);
  return {
    ...info,
    fullScale: fullScaleOf(info),
    codeStep: codeStep(info),
    blocks: (options) => wavBlocks(source, info, options),
  };
}

async function* wavBlocks(source: ByteSource, info: WavInfo, { from = 0, onNonFinite }: BlockOptions = {}): AsyncGenerator<SampleBlock> {
  const sampleBytes = info.bits / 8;
  const frameBytes = sampleBytes * info.channels;
  const framesPerBlock = Math.floor(BLOCK_BYTES / frameBytes);
  const decode = decoderFor(info);
  for (let frame = from; frame < info.frames; frame += framesPerBlock) {
    const count = Math.min(framesPerBlock, info.frames - frame);
    const bytes = await source.read(info.dataOffset + frame * frameBytes, count * frameBytes);
    const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
    const got = Math.floor(bytes.length / frameBytes);
    let nonFinite = 0;
    const block = Array.from({ length: info.channels }, (_, channel) => {
      const samples = new Float64Array(got);
      for (let n = 0, at = channel * sampleBytes; n < got; n++, at += frameBytes) {
        const value = decode(view, at);
        if (Number.isFinite(value)) samples[n] = value;
        else nonFinite++;
      }
      return samples;
    });
    if (nonFinite > 0) onNonFinite?.(nonFinite);
    yield block;
  }
}

type Decoder = (view: DataView, at: number) => number;

function decoderFor({ encoding, bits }: WavInfo): Decoder {
  if (encoding === 'float') {
    return bits === 32 ? (view, at) => view.getFloat32(at, true) : (view, at) => view.getFloat64(at, true);
  }
  switch (bits) {
    case 8:
      return (view, at) => (view.getUint8(at) - 128) / 128;
    case 16:
      return (view, at) => view.getInt16(at, true) / 32768;
    case 24:
      return (view, at) => (view.getUint8(at) | (view.getInt16(at + 1, true) << 8)) / 8388608;
    default:
      return (view, at) => view.getInt32(at, true) / 2147483648;
  }
}

/** Mean of the channels, or one of them (counted from 1). */
export function mixDown(block: SampleBlock, channel?: number): Float64Array {
  if (channel !== undefined) return block[channel - 1];
  if (block.length === 1) return block[0];
  const [left, right] = block;
  return left.map((value, n) => (value + right[n]) / 2);
}

/** Samples [from, to) of the mean of all channels, in memory: for short stretches only. */
export async function readStretch(source: SampleSource, from: number, to: number): Promise<Float64Array> {
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
export const readAll = (source: SampleSource): Promise<Float64Array> => readStretch(source, 0, source.frames);
