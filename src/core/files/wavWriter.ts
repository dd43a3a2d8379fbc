/** Writes WAV files: PCM 8/16/24/32 or float 32/64, as RF64 where 4 GiB don't suffice (EBU Tech 3306). */
import type { Hertz } from '../units/index.ts';
import type { SampleEncoding } from './sampleLayout.ts';

/** Rate, channels, bits and encoding of a file to be written. */
export interface WavShape {
  readonly sampleRateHz: Hertz;
  readonly channels: number;
  readonly bits: number;
  readonly encoding: SampleEncoding;
}

const put = (view: DataView, at: number, id: string) => {
  for (let i = 0; i < 4; i++) view.setUint8(at + i, id.charCodeAt(i));
};

/** Header for `frames` sample frames; RF64 with a ds64 chunk when the sizes outgrow 32 bits. */
export function wavHeader(shape: WavShape, frames: number): Uint8Array {
  const frameBytes = (shape.channels * shape.bits) / 8;
  const dataBytes = frames * frameBytes;
  const isLong = dataBytes + 100 > 0xffffffff;
  const bytes = new Uint8Array(isLong ? 80 : 44);
  const view = new DataView(bytes.buffer);
  const size32 = (value: number) => (isLong ? 0xffffffff : value);
  put(view, 0, isLong ? 'RF64' : 'RIFF');
  view.setUint32(4, size32(bytes.length - 8 + dataBytes + (dataBytes % 2)), true);
  put(view, 8, 'WAVE');
  let at = 12;
  if (isLong) {
    put(view, at, 'ds64');
    view.setUint32(at + 4, 28, true);
    view.setBigUint64(at + 8, BigInt(bytes.length - 8 + dataBytes + (dataBytes % 2)), true);
    view.setBigUint64(at + 16, BigInt(dataBytes), true);
    view.setBigUint64(at + 24, BigInt(frames), true);
    at += 36;
  }
  put(view, at, 'fmt ');
  view.setUint32(at + 4, 16, true);
  view.setUint16(at + 8, shape.encoding === 'pcm' ? 1 : 3, true);
  view.setUint16(at + 10, shape.channels, true);
  view.setUint32(at + 12, shape.sampleRateHz, true);
  view.setUint32(at + 16, shape.sampleRateHz * frameBytes, true);
  view.setUint16(at + 20, frameBytes, true);
  view.setUint16(at + 22, shape.bits, true);
  put(view, at + 24, 'data');
  view.setUint32(at + 28, size32(dataBytes), true);
  return bytes;
}

/** Sample frames as bytes. Integers are rounded and limited to their range. @param block an array per channel */
export function wavData(shape: WavShape, block: readonly (Float64Array | Float32Array)[]): Uint8Array {
  const { bits, channels } = shape;
  const frames = block[0].length;
  const view = new DataView(new ArrayBuffer((frames * channels * bits) / 8));
  const top = 2 ** (bits - 1);
  if (shape.encoding === 'pcm' && bits === 16) return codes16(block);
  let at = 0;
  for (let n = 0; n < frames; n++) {
    for (let c = 0; c < channels; c++, at += bits / 8) {
      const x = block[c][n];
      if (shape.encoding === 'float') {
        if (bits === 32) view.setFloat32(at, x, true);
        else view.setFloat64(at, x, true);
        continue;
      }
      const code = Math.max(-top, Math.min(top - 1, Math.round(x * top)));
      if (bits === 8) view.setUint8(at, code + 128);
      else if (bits === 16) view.setInt16(at, code, true);
      else if (bits === 24) {
        view.setUint8(at, code & 0xff);
        view.setInt16(at + 1, code >> 8, true);
      } else view.setInt32(at, code, true);
    }
  }
  return new Uint8Array(view.buffer);
}

/** The usual coding by itself: every machine this runs on stores numbers as the files do. */
function codes16(block: readonly (Float64Array | Float32Array)[]): Uint8Array {
  const channels = block.length;
  const codes = new Int16Array(channels * block[0].length);
  for (let c = 0; c < channels; c++) {
    const samples = block[c];
    for (let n = 0, at = c; n < samples.length; n++, at += channels) {
      const x = samples[n] * 32768;
      // Rounded by cutting off a positive number; what is no number is silence.
      codes[at] = x >= 32767 ? 32767 : x <= -32768 ? -32768 : Number.isNaN(x) ? 0 : ((x + 32768.5) | 0) - 32768;
    }
  }
  return new Uint8Array(codes.buffer);
}

/** A whole file in memory. */
export function writeWav(shape: WavShape, block: readonly (Float64Array | Float32Array)[]): Uint8Array {
  const header = wavHeader(shape, block[0].length);
  const data = wavData(shape, block);
  const file = new Uint8Array(header.length + data.length + (data.length % 2));
  file.set(header);
  file.set(data, header.length);
  return file;
}
