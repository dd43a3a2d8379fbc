/** Sample frames as bytes, for a stream of blocks. Apart from wavWriter.ts, so that pages that write a file need no kernel. */
import { createKernel } from '../dsp/index.ts';
import { type WavShape, wavData } from './wavWriter.ts';

/** `wavData` for many blocks of one file: the usual coding of one channel is done in a kernel. */
export function wavCoder(shape: WavShape): (block: readonly (Float64Array | Float32Array)[]) => Uint8Array {
  const kernel = shape.encoding === 'pcm' && shape.bits === 16 && shape.channels === 1 ? createKernel() : null;
  if (!kernel) return (block) => wavData(shape, block);
  let [samples, codes] = [kernel.take(0, 8), kernel.take(0, 2)];
  return ([channel]) => {
    const { length } = channel;
    if (samples.length < length) [samples, codes] = [kernel.take(length, 8), kernel.take(length, 2)];
    kernel.doubles(samples).set(channel);
    kernel.run.codesOfDoubles(samples.address, length, codes.address);
    return new Uint8Array(kernel.codes({ address: codes.address, length }).slice().buffer);
  };
}
