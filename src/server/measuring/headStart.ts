/**
 * Measuring a recording while it arrives: a thread reads the file on disk as it grows, so that the numbers are there
 * soon after the last byte. What it finds counts only once the recording is stored, and is else forgotten.
 */
import type { MessagePort } from 'node:worker_threads';
import type { MeasureEnd, Measuring } from './measuringPool.ts';

/** Smaller recordings are measured before anybody notices. */
export const LEAST_BYTES = 4 << 20;
/** A thread is not kept waiting for longer than this: a slow sender's recording is begun towards its end. */
const MOST_WAIT_S = 3;

/** What the thread is told of the file. */
export type Arrival = 'whole' | 'gone';

/** A thread at work on it. */
export interface Running {
  readonly end: Promise<MeasureEnd>;
  readonly port: MessagePort;
  readonly how: Measuring;
}

/** One recording on its way. */
export class HeadStart {
  readonly #began = performance.now();
  #running: Promise<Running | null> | null = null;

  /**
   * @param bytes that the sender announced
   * @param begin starts a thread on the file; null where none is free
   */
  constructor(
    readonly bytes: number,
    readonly begin: (path: string) => Promise<Running | null>,
  ) {}

  /** So many bytes lie at this path. */
  arrived(path: string, bytes: number): void {
    const perSecond = (1000 * bytes) / Math.max(1, performance.now() - this.#began);
    if (this.#running || (this.bytes - bytes) / perSecond > MOST_WAIT_S) return;
    this.#running = this.begin(path).catch(() => null);
  }

  /** Whether a thread is at it, and so has its place in line. */
  async isRunning(): Promise<boolean> {
    return Boolean(await this.#running);
  }

  /** The recording is stored, so long. @returns what was found of it, measured like this; null where nothing was */
  async found(bytes: number, how: Measuring): Promise<MeasureEnd | null> {
    const running = await this.#running;
    if (!running) return null;
    const isSame = bytes === this.bytes && JSON.stringify(running.how) === JSON.stringify(how);
    running.port.postMessage((isSame ? 'whole' : 'gone') satisfies Arrival);
    const end = await running.end;
    return isSame && end.kind === 'done' ? end : null;
  }

  /** It was not stored. */
  async abandon(): Promise<void> {
    (await this.#running)?.port.postMessage('gone' satisfies Arrival);
  }
}
