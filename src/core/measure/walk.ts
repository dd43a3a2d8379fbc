/** The walk through a recording that every measurement makes: aborted, told how far it is, bad samples counted. */
import type { BlockOptions, SampleSource } from '../files/index.ts';
import type { Fraction } from '../units/index.ts';

/** Progress and a signal to stop. */
export interface WalkOptions {
  /** Told the share done, 0 to 1, now and then. */
  readonly onProgress?: (share: Fraction) => void;
  readonly signal?: AbortSignal;
}

/** How a recording is read. */
interface Reading<B> {
  /** Split or interleaved. */
  readonly blocks: (options?: BlockOptions) => AsyncIterable<B>;
  readonly room?: BlockOptions['room'];
}

/**
 * @param share  part of the whole work, for the progress
 * @param use    takes a block and the first sample's number; tells how many samples it was
 * @returns how many values were no numbers
 */
export async function walk<B>(
  source: SampleSource,
  { blocks, room }: Reading<B>,
  { onProgress, signal }: WalkOptions,
  [from, to]: readonly [Fraction, Fraction],
  use: (block: B, firstSample: number) => number,
): Promise<number> {
  let done = 0;
  let nonFinite = 0;
  const onNonFinite = (count: number) => {
    nonFinite += count;
  };
  for await (const block of blocks({ onNonFinite, room })) {
    signal?.throwIfAborted();
    done += use(block, done);
    onProgress?.(from + ((to - from) * done) / source.frames);
  }
  return nonFinite;
}
