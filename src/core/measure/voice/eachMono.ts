/** The walk through a recording's channel in the kernel's memory, so many samples at once however it is read. */
import { type Kernel, Room, type SamplesAt } from '../../dsp/index.ts';
import type { InterleavedBlock, SampleSource } from '../../files/index.ts';
import type { Fraction } from '../../units/index.ts';
import { type WalkOptions, walk } from '../walk.ts';

/** Which channel, progress, a signal to stop. */
export interface ChannelOptions extends WalkOptions {
  /** Counted from 1; the mean of both when left out. */
  readonly channel?: number;
}

/**
 * @param blockSamples at once; the last may be fewer
 * @param share part of the whole work, for the progress
 * @param use told the channel's samples, and both channels as pairs where there are two
 * @returns how many values were no numbers
 */
export async function eachMono(
  source: SampleSource,
  kernel: Kernel,
  blockSamples: number,
  options: ChannelOptions,
  share: readonly [Fraction, Fraction],
  use: (mono: SamplesAt, pairs: SamplesAt | null) => void,
): Promise<number> {
  const { channels } = source;
  const [codes, stored, mono] = [new Room(kernel), new Room(kernel), new Room(kernel)];
  const [first, second] = channels === 1 ? [1, 0] : options.channel === undefined ? [0.5, 0.5] : options.channel === 1 ? [1, 0] : [0, 1];
  let filled = 0;
  const append = (block: InterleavedBlock): void => {
    const at = stored.forValues(channels * blockSamples) + 4 * filled;
    if (block instanceof Float32Array) kernel.floats({ address: at, length: block.length }).set(block);
    else {
      const room = codes.forValues(Math.ceil(block.length / 2));
      kernel.codes({ address: room, length: block.length }).set(block);
      kernel.run.fromInt16(room, at, block.length);
    }
    filled += block.length;
  };
  const worked = () => {
    const address = stored.forValues(0);
    const count = filled / channels;
    filled = 0;
    if (channels === 1) {
      use({ address, count }, null);
      return;
    }
    const out = mono.forValues(blockSamples);
    kernel.run.mixed(address, count, first, second, out);
    use({ address: out, count }, { address, count });
  };
  const nonFinite = await walk(source, source.interleaved, options, share, (block) => {
    for (let at = 0; at < block.length; ) {
      const take = Math.min(block.length - at, channels * blockSamples - filled);
      append(block.subarray(at, at + take));
      at += take;
      if (filled === channels * blockSamples) worked();
    }
    return block.length / channels;
  });
  if (filled > 0) worked();
  return nonFinite;
}
