/**
 * One stage of a signal path, over a stream. Every stage keeps time: sample n that comes out belongs to sample n
 * that went in, and as many come out as went in. The result is the same for any cut of the input.
 */
import type { Complex } from './complex.ts';
import { joined } from './joined.ts';

/** A step of a stream: blocks in, blocks out. */
export interface Stage<In, Out = In> {
  /** Takes a block and gives what is ready. Blocks of one length may be changed in place. */
  push(block: In): Out;
  /** What is left, once no more come. */
  end(): Out;
}

/** A stage over real samples. */
export type AudioStage = Stage<Float64Array>;
/** A stage over I and Q. */
export type RadioStage = Stage<Complex>;

const NO_AUDIO = new Float64Array(0);
const NO_RADIO: Complex = { i: NO_AUDIO, q: NO_AUDIO };

/** A stage that is done with each block at once. */
export const instantAudio = (push: (block: Float64Array) => Float64Array): AudioStage => ({ push, end: () => NO_AUDIO });
/** The same for I and Q. */
export const instantRadio = (push: (block: Complex) => Complex): RadioStage => ({ push, end: () => NO_RADIO });

/** Two pieces of I and Q, one behind the other. */
export const joinedRadio = (a: Complex, b: Complex): Complex => (b.i.length === 0 ? a : { i: joined([a.i, b.i]), q: joined([a.q, b.q]) });

/** Several stages in a row as one. */
export function inRow<T>(stages: readonly Stage<T>[], join: (a: T, b: T) => T): Stage<T> {
  return {
    push: (block) => stages.reduce((signal, stage) => stage.push(signal), block),
    end() {
      let left: T | null = null;
      for (const stage of stages) {
        const passed: T | null = left === null ? null : stage.push(left);
        const own = stage.end();
        left = passed === null ? own : join(passed, own);
      }
      if (left === null) throw new Error('A row of stages must not be empty.');
      return left;
    },
  };
}
