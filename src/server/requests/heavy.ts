/** The line for heavy work: exports, imports, recordings on their way into the database. Few at once; the others wait. */
import pLimit, { type LimitFunction } from 'p-limit';
import { Refused } from './refused.ts';

/** Each holds one of the pool's connections and keeps a disk busy. */
const AT_ONCE = 2;
const LONGEST_LINE = 40;

// Kept on globalThis: the framework may load this module more than once in a process.
const shared = globalThis as { dialTuneHeavy?: LimitFunction };

/**
 * Does the work when its turn comes.
 * @param signal whoever waits may go away meanwhile: the work is not begun then
 * @throws Refused when the line is too long
 */
export function heavy<T>(work: () => Promise<T>, signal?: AbortSignal): Promise<T> {
  shared.dialTuneHeavy ??= pLimit(AT_ONCE);
  const line = shared.dialTuneHeavy;
  if (line.pendingCount >= LONGEST_LINE) throw new Refused('The server is busy with other files. Please try again in a minute.', 503);
  return line(() => {
    signal?.throwIfAborted();
    return work();
  });
}
