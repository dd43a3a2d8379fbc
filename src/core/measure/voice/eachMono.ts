/** The walk through a recording's channel in the kernel's memory, so many samples at once however it is read. */
import { type Kernel, type PieceAt, Pieces, Room, type SamplesAt } from '../../dsp/index.ts';
import type { SampleSource } from '../../files/index.ts';
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
 * @param use told the channel's samples (16-bit codes as stored, where there is one channel of them and a whole block), and
 *   both channels as pairs where there are two
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
  const [stored, mono] = [new Room(kernel), new Room(kernel)];
  const [first, second] = channels === 1 ? [1, 0] : options.channel === undefined ? [0.5, 0.5] : options.channel === 1 ? [1, 0] : [0, 1];
  const asFloats = ({ address, count, isCodes }: PieceAt): number => {
    if (!isCodes) return address;
    const floats = stored.forValues(channels * blockSamples);
    kernel.run.fromInt16(address, floats, count);
    return floats;
  };
  const pieces = new Pieces(kernel, channels * blockSamples, (piece) => {
    const count = piece.count / channels;
    if (channels === 1) {
      use(count === blockSamples ? piece : { address: asFloats(piece), count }, null);
      return;
    }
    const address = asFloats(piece);
    const out = mono.forValues(blockSamples);
    kernel.run.mixed(address, count, first, second, out);
    use({ address: out, count }, { address, count });
  });
  const reading = { blocks: source.interleaved, room: pieces.room };
  const nonFinite = await walk(source, reading, options, share, (block) => {
    pieces.push(block);
    return block.length / channels;
  });
  pieces.end();
  return nonFinite;
}
