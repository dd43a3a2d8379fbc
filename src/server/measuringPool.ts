/** The measuring pool: captures wait here for a worker thread; progress is kept for whoever asks. */
import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import { Worker } from 'node:worker_threads';
import type { OwnLimits } from '../core/measure/limits.ts';
import { CORE_VERSION, type Measurement, type MeasurementDetail, type MeasurementKind } from '../core/measure/measurement.ts';
import { storedBytes } from './captureBytes.ts';
import { cardPassband } from './cardPassband.ts';
import { database, databaseUrl } from './database.ts';
import { ownLimits } from './limits.ts';
import type { CaptureSettings } from './models.ts';
import { settleMoves } from './outcomes.ts';
import { Refused } from './refused.ts';
import { refuseUnreadable } from './storeCapture.ts';

export interface MeasureJob {
  readonly measurementId: number;
  readonly captureId: number;
  readonly bytes: number;
  readonly kind: MeasurementKind;
  readonly settings: CaptureSettings;
  readonly limits: OwnLimits;
  /** What the card's filter lets through. */
  readonly passbandHz?: readonly [number, number];
}

/** What waits: how to measure is read when its turn comes. */
type WaitingJob = Pick<MeasureJob, 'measurementId' | 'captureId' | 'bytes'>;

export type MeasureNews =
  | { readonly kind: 'progress'; readonly share: number }
  | { readonly kind: 'done'; readonly measurement: Measurement; readonly detail: MeasurementDetail | null }
  | { readonly kind: 'failed'; readonly message: string };

type MeasureEnd = Exclude<MeasureNews, { kind: 'progress' }>;

class MeasuringPool {
  readonly #waiting: WaitingJob[] = [];
  readonly #progress = new Map<number, number>();
  readonly #idle: Worker[] = [];
  #workers = 0;
  readonly #most = Math.max(1, Math.min(4, availableParallelism() - 1));

  /** Puts a capture in line; twice is once. */
  add(job: WaitingJob): void {
    if (this.#progress.has(job.measurementId)) return;
    this.#progress.set(job.measurementId, 0);
    this.#waiting.push(job);
    this.#next();
  }

  /** Share done of a measurement that waits or runs; undefined otherwise. */
  progress(measurementId: number): number | undefined {
    return this.#progress.get(measurementId);
  }

  #next(): void {
    const job = this.#waiting[0];
    if (!job) return;
    const worker = this.#idle.pop() ?? this.#newWorker();
    if (!worker) return;
    this.#waiting.shift();
    this.#run(worker, job).catch((error) => {
      // The database went away: the job stays in its row and is taken up again when somebody asks for it, or at the next start.
      console.error(error);
      this.#progress.delete(job.measurementId);
      this.#next();
    });
  }

  #newWorker(): Worker | null {
    if (this.#workers >= this.#most) return null;
    this.#workers++;
    const worker = new Worker(join(process.cwd(), 'dist', 'measureWorker.mjs'), {
      workerData: { databaseUrl: databaseUrl() },
    });
    worker.unref();
    return worker;
  }

  async #run(worker: Worker, waiting: WaitingJob): Promise<void> {
    let job: MeasureJob;
    try {
      job = await begin(waiting);
    } catch (error) {
      this.#idle.push(worker);
      throw error;
    }
    const { news, isAlive } = await this.#measure(worker, job);
    if (isAlive) this.#idle.push(worker);
    else this.#workers--;
    await finish(job, news);
    this.#progress.delete(job.measurementId);
    this.#next();
  }

  #measure(worker: Worker, job: MeasureJob): Promise<{ news: MeasureEnd; isAlive: boolean }> {
    return new Promise((resolve) => {
      const end = (news: MeasureEnd, isAlive: boolean) => {
        // One by one: removing all listeners would cut the worker's own line.
        worker.off('message', hear);
        worker.off('error', broke);
        worker.off('exit', left);
        resolve({ news, isAlive });
      };
      const hear = (message: MeasureNews) => {
        if (message.kind === 'progress') this.#progress.set(job.measurementId, message.share);
        else end(message, true);
      };
      const broke = (error: Error) => end({ kind: 'failed', message: `The measurement failed: ${error.message}` }, false);
      const left = () => end({ kind: 'failed', message: 'The measurement was ended.' }, false);
      worker.on('message', hear);
      worker.on('error', broke);
      worker.on('exit', left);
      worker.postMessage(job);
    });
  }
}

async function begin(job: WaitingJob): Promise<MeasureJob> {
  const { measurements, captures } = database().models;
  await measurements.update({ status: 'running' }, { where: { id: job.measurementId } });
  const { kind, settings, overId } = await captures.findByPk(job.captureId, { rejectOnEmpty: true });
  return { ...job, kind, settings, limits: await ownLimits(), passbandHz: await cardPassband(overId) };
}

async function finish({ measurementId, captureId }: WaitingJob, news: MeasureEnd): Promise<void> {
  const { models } = database();
  const row = await models.measurements.findByPk(measurementId);
  if (news.kind === 'failed') {
    await row?.update({ status: 'failed', error: news.message });
    return;
  }
  await row?.update({ status: 'done', result: news.measurement, detail: news.detail, coreVersion: CORE_VERSION, error: null });
  const capture = await models.captures.findByPk(captureId);
  // One of our own test signals, sent as something else.
  if (capture && capture.kind !== news.measurement.kind) await capture.update({ kind: news.measurement.kind });
  if (capture) await settleMoves(capture.overId);
}

const shared = globalThis as { dialTunePool?: MeasuringPool };

export function measuringPool(): MeasuringPool {
  shared.dialTunePool ??= new MeasuringPool();
  return shared.dialTunePool;
}

/**
 * Measures an over's capture anew: after a failure, with other limits, or as told.
 * @throws Refused when it has none, or when it can't be of that kind
 */
export async function measureAgain(overId: number, as?: { kind: MeasurementKind; settings: CaptureSettings }): Promise<number> {
  const { models } = database();
  const capture = await models.captures.findOne({ where: { overId } });
  if (!capture) throw new Refused('This over has no recording to measure.', 404);
  if (as) {
    await refuseUnreadable(as.kind, storedBytes(models, capture.id, capture.bytes), as.settings.carrierHz);
    if (as.settings.referenceCaptureId === capture.id) throw new Refused('A recording can’t be its own reference.');
    await capture.update({ ...as, settings: { ...as.settings, isChosen: true } });
  }
  const row = await models.measurements.create({
    captureId: capture.id,
    status: 'queued',
    coreVersion: CORE_VERSION,
    result: null,
    detail: null,
    error: null,
  });
  measuringPool().add({ measurementId: row.id, captureId: capture.id, bytes: capture.bytes });
  return row.id;
}

/** Measures every over anew, for example with other limits. @returns how many */
export async function measureAllAgain(): Promise<number> {
  const captures = await database().models.captures.findAll({ attributes: ['overId'] });
  for (const { overId } of captures) await measureAgain(overId);
  return captures.length;
}

/** Puts everything in line that was waiting or running when the server went down. */
export async function resumeMeasuring(): Promise<void> {
  const { models } = database();
  const open = await models.measurements.findAll({ where: { status: ['queued', 'running'] } });
  for (const { id, captureId } of open) {
    const capture = await models.captures.findByPk(captureId);
    if (capture) measuringPool().add({ measurementId: id, captureId, bytes: capture.bytes });
  }
}
