/** The measuring pool: captures wait here for a worker thread; progress is kept for whoever asks. */
import { type FileHandle, open } from 'node:fs/promises';
import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import { MessageChannel, type MessagePort, type Worker } from 'node:worker_threads';
import pLimit, { type LimitFunction } from 'p-limit';
import { Piscina } from 'piscina';
import { QueryTypes } from 'sequelize';
import type { OwnLimits } from '@/core/findings/index.ts';
import { CORE_VERSION, type Measurement, type MeasurementDetail, type MeasurementKind } from '@/core/measure/index.ts';
import { cardPassband, revisionOfOver } from '../cards/cardPassband.ts';
import { database, databaseUrl } from '../db/database.ts';
import { resultColumns } from '../db/listColumns.ts';
import { withLock } from '../db/lock.ts';
import type { CaptureSettings } from '../db/models.ts';
import { storedBytes } from '../overs/captureBytes.ts';
import { settleMoves } from '../overs/outcomes.ts';
import { refuseUnreadable } from '../overs/storeCapture.ts';
import { Refused } from '../requests/refused.ts';
import { HeadStart, LEAST_BYTES } from './headStart.ts';
import { ownLimits } from './limits.ts';

/** How a recording is measured. */
export interface Measuring {
  readonly kind: MeasurementKind;
  readonly settings: CaptureSettings;
  readonly limits: OwnLimits;
  /** What the card's filter lets through. */
  readonly passbandHz?: readonly [number, number];
}

/** What waits: how to measure is read when its turn comes. */
interface WaitingJob {
  readonly measurementId: number;
  readonly captureId: number;
  readonly bytes: number;
}

/** What a worker thread has to say in the end. */
export type MeasureEnd =
  | { readonly kind: 'done'; readonly measurement: Measurement; readonly detail: MeasurementDetail | null }
  | { readonly kind: 'failed'; readonly message: string }
  /** The database went away: it is measured again later. */
  | { readonly kind: 'interrupted' };

/** What a worker thread gets: it tells the share done on the port. */
export interface MeasureTask {
  readonly how: Measuring;
  readonly bytes: number;
  /** In the database, or on its way there in a file. */
  readonly source: { readonly captureId: number } | { readonly file: FileHandle };
  readonly port: MessagePort;
}

/** Work that was left open by an outage, an import or a dead process is looked for so often. */
const LOOK_EVERY_MS = 10_000;

class MeasuringPool {
  readonly #progress = new Map<number, number>();
  readonly #threads: Piscina<MeasureTask, MeasureEnd>;
  readonly #line: LimitFunction;

  constructor() {
    const threads = Math.max(1, Math.min(4, availableParallelism() - 1));
    this.#line = pLimit(threads);
    this.#threads = new Piscina({
      filename: join(process.cwd(), 'dist', 'measureWorker.mjs'),
      minThreads: 0,
      maxThreads: threads,
      idleTimeout: 60_000,
      workerData: { databaseUrl: databaseUrl() },
    });
    setInterval(() => resumeMeasuring().catch(() => {}), LOOK_EVERY_MS).unref();
  }

  /**
   * Measures a recording while it arrives; null for one that is small or has to wait for others.
   * @param how to measure it, asked for when it begins
   */
  headStart(bytes: number, how: () => Promise<Measuring>): HeadStart | null {
    if (bytes < LEAST_BYTES) return null;
    return new HeadStart(bytes, async (path) => {
      if (this.#line.activeCount + this.#line.pendingCount > 0) return null;
      const job = await how();
      // Opened here: its name may be gone before a thread is there.
      const file = await open(path);
      const { port1: port, port2 } = new MessageChannel();
      const end = this.#line(() => this.#thread({ how: job, bytes, source: { file }, port: port2 }));
      void end.finally(() => port.close());
      return { end, port, how: job };
    });
  }

  #thread(task: MeasureTask): Promise<MeasureEnd> {
    const { port, source } = task;
    return this.#threads.run(task, { transferList: 'file' in source ? [port, source.file] : [port] }).catch(asFailed);
  }

  /** Puts a capture in line; twice is once. @param start what was begun of it while it came */
  add(job: WaitingJob, start: HeadStart | null = null): void {
    if (this.#progress.has(job.measurementId)) return;
    this.#progress.set(job.measurementId, 0);
    // Another copy of the app on the same database may be at it: it is left to that one.
    void this.#whole(job, start)
      // The database went away: the job stays in its row and is taken up again.
      .catch((error) => console.error(error))
      .finally(() => this.#progress.delete(job.measurementId));
  }

  /** Share done of a measurement that waits or runs; undefined otherwise. */
  progress(measurementId: number): number | undefined {
    return this.#progress.get(measurementId);
  }

  /** The threads, for tests that end one. */
  get threads(): readonly Worker[] {
    return this.#threads.threads;
  }

  async #whole(job: WaitingJob, start: HeadStart | null): Promise<void> {
    const measured = async () => {
      const how = await begin(job);
      if (how) await finish(job, (await start?.found(job.bytes, how)) ?? (await this.#run(job, how)));
    };
    const locked = () => withLock(database().sequelize, `measurement ${job.measurementId}`, 0, measured);
    // What was begun while it came has its place in line already.
    await ((await start?.isRunning()) ? locked() : this.#line(locked));
  }

  async #run(job: WaitingJob, how: Measuring): Promise<MeasureEnd> {
    const { port1, port2 } = new MessageChannel();
    port1.on('message', (share: number) => this.#progress.set(job.measurementId, share));
    try {
      return await this.#thread({ how, bytes: job.bytes, source: { captureId: job.captureId }, port: port2 });
    } finally {
      port1.close();
    }
  }
}

/** A thread that died, whatever of. */
const asFailed = (error: Error): MeasureEnd => ({ kind: 'failed', message: `The measurement failed: ${error.message}.` });

/** @returns null when the measurement is gone or done by now */
async function begin(job: WaitingJob): Promise<Measuring | null> {
  const { measurements, captures } = database().models;
  const row = await measurements.findOne({ where: { id: job.measurementId, captureId: job.captureId }, attributes: ['id', 'status'] });
  if (row?.status !== 'queued' && row?.status !== 'running') return null;
  await row.update({ status: 'running' });
  const { kind, settings, overId } = await captures.findByPk(job.captureId, { rejectOnEmpty: true });
  return howToMeasure(kind, settings, await revisionOfOver(overId));
}

/** @param cardRevisionId of the card that the over is made with */
export const howToMeasure = async (kind: MeasurementKind, settings: CaptureSettings, cardRevisionId: number): Promise<Measuring> => ({
  kind,
  settings,
  limits: await ownLimits(),
  passbandHz: await cardPassband(cardRevisionId),
});

async function finish({ measurementId, captureId }: WaitingJob, news: MeasureEnd): Promise<void> {
  const { models } = database();
  const row = await models.measurements.findOne({ where: { id: measurementId, captureId } });
  if (!row || news.kind === 'interrupted') return;
  if (news.kind === 'failed') {
    await row.update({ status: 'failed', error: news.message.slice(0, 1000) });
    return;
  }
  const { measurement, detail } = news;
  await row.update({ status: 'done', ...resultColumns(measurement), detail, coreVersion: CORE_VERSION, error: null });
  const capture = await models.captures.findByPk(captureId);
  // One of our own test signals, sent as something else.
  if (capture && capture.kind !== measurement.kind) await capture.update({ kind: measurement.kind });
  if (capture) await settleMoves(capture.overId);
}

const shared = globalThis as { dialTunePool?: MeasuringPool };

export function measuringPool(): MeasuringPool {
  shared.dialTunePool ??= new MeasuringPool();
  return shared.dialTunePool;
}

/**
 * Measures a capture anew: after a failure, with other limits, or as told.
 * @throws Refused when there is none of that number, or when it can't be of that kind
 */
export async function measureAgain(captureId: number, as?: { kind: MeasurementKind; settings: CaptureSettings }): Promise<number> {
  const { models } = database();
  const capture = await models.captures.findByPk(captureId);
  if (!capture) throw new Refused('There is no recording to measure.', 404);
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

/** Measures every recording anew, for example with other limits. @returns how many */
export async function measureAllAgain(): Promise<number> {
  const captures = await database().models.captures.findAll({ attributes: ['id'] });
  for (const { id } of captures) await measureAgain(id);
  return captures.length;
}

/** Puts everything in line that is open and that nobody works on here. */
export async function resumeMeasuring(): Promise<void> {
  const open = await database().sequelize.query<WaitingJob>(
    `SELECT m.id AS measurementId, m.capture_id AS captureId, CAST(k.bytes AS DOUBLE) AS bytes
     FROM measurements m JOIN captures k ON k.id = m.capture_id WHERE m.status IN ('queued', 'running') ORDER BY m.id`,
    { type: QueryTypes.SELECT },
  );
  for (const { measurementId, captureId, bytes } of open) measuringPool().add({ measurementId, captureId, bytes: Number(bytes) });
}
