/** Runs on a worker thread: reads a stored capture with a connection of its own and measures it. */
import { parentPort, workerData } from 'node:worker_threads';
import { FormatError } from '../core/formats/formatError.ts';
import { openWav } from '../core/formats/samples.ts';
import { measureVoice } from '../core/measure/voice.ts';
import { storedBytes } from './captureBytes.ts';
import { openDatabase } from './database.ts';
import type { MeasureJob, MeasureNews } from './measuringPool.ts';

const port = parentPort;
if (!port) throw new Error('This module runs on a worker thread only.');
const tell = (news: MeasureNews) => port.postMessage(news);

port.on('message', async ({ captureId, bytes }: MeasureJob) => {
  const { sequelize, models } = openDatabase((workerData as { databaseUrl: string }).databaseUrl, 1);
  try {
    const source = await openWav(storedBytes(models, captureId, bytes));
    let told = 0;
    const result = await measureVoice(source, {
      onProgress(share) {
        if (share - told < 0.01) return;
        told = share;
        tell({ kind: 'progress', share });
      },
    });
    tell({ kind: 'done', ...result });
  } catch (error) {
    const message = error instanceof FormatError ? error.message : `The measurement failed: ${(error as Error).message}.`;
    tell({ kind: 'failed', message });
  } finally {
    await sequelize.close();
  }
});
