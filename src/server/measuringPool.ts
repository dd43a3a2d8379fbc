/** The measuring pool: captures wait here for a worker thread; progress is kept for whoever asks. */
import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import { Worker } from 'node:worker_threads';
import type { VoiceDetail, VoiceMeasurement } from '../core/measure/measurement.ts';
import { CORE_VERSION } from '../core/measure/measurement.ts';
import { database, databaseUrl } from './database.ts';
import { settleMoves } from './outcomes.ts';

export interface MeasureJob {
  readonly measurementId: number;
  readonly captureId: number;
  readonly bytes: number;
}

export type MeasureNews =
  | { readonly kind: 'progress'; readonly share: number }
  | { readonly kind: 'done'; readonly measurement: VoiceMeasurement; readonly detail: VoiceDetail }
  | { readonly kind: 'failed'; readonly message: string };

class MeasuringPool {
  readonly #waiting: MeasureJob[] = [];
  readonly #progress = new Map<number, number>();
  readonly #idle: Worker[] = [];
  #workers = 0;
  readonly #most = Math.max(1, Math.min(4, availableParallelism() - 1));

  /** Puts a capture in line; twice is once. */
  add(job: MeasureJob): void {
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
    void this.#run(worker, job);
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

  async #run(worker: Worker, job: MeasureJob): Promise<void> {
    await mark(job, { status: 'running' });
    const news = await new Promise<Exclude<MeasureNews, { kind: 'progress' }>>((resolve) => {
      const failed = (message: string) => resolve({ kind: 'failed', message });
      worker.on('message', (message: MeasureNews) => {
        if (message.kind === 'progress') this.#progress.set(job.measurementId, message.share);
        else resolve(message);
      });
      worker.on('error', (error) => failed(`The measurement failed: ${error.message}`));
      worker.on('exit', () => failed('The measurement was ended.'));
      worker.postMessage(job);
    });
    const isAlive = news.kind === 'done' || worker.threadId > 0;
    worker.removeAllListeners();
    if (isAlive) this.#idle.push(worker);
    else this.#workers--;
    await finish(job, news);
    this.#progress.delete(job.measurementId);
    this.#next();
  }
}

async function mark({ measurementId }: MeasureJob, values: { status: 'running' }): Promise<void> {
  await database().models.measurements.update(values, { where: { id: measurementId } });
}

async function finish({ measurementId, captureId }: MeasureJob, news: Exclude<MeasureNews, { kind: 'progress' }>): Promise<void> {
  const { models } = database();
  const row = await models.measurements.findByPk(measurementId);
  if (news.kind === 'failed') {
    await row?.update({ status: 'failed', error: news.message });
    return;
  }
  await row?.update({ status: 'done', result: news.measurement, detail: news.detail, coreVersion: CORE_VERSION, error: null });
  const capture = await models.captures.findByPk(captureId);
  if (capture) await settleMoves(capture.overId);
}

const shared = globalThis as { dialTunePool?: MeasuringPool };

export function measuringPool(): MeasuringPool {
  shared.dialTunePool ??= new MeasuringPool();
  return shared.dialTunePool;
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
