/** Runs on a worker thread: reads a stored capture with a connection of its own and measures it. */
import { parentPort, workerData } from 'node:worker_threads';
import { FormatError } from '../core/formats/formatError.ts';
import { NotMeasurable } from '../core/measure/iq.ts';
import { measureFile } from '../core/measure/measureRecording.ts';
import { storedBytes } from './captureBytes.ts';
import { openDatabase } from './database.ts';
import type { MeasureJob, MeasureNews } from './measuringPool.ts';
import { curvesToSubtract, openReference } from './references.ts';

const port = parentPort;
if (!port) throw new Error('This module runs on a worker thread only.');
const tell = (news: MeasureNews) => port.postMessage(news);

port.on('message', async ({ captureId, bytes, kind, settings, limits, passbandHz }: MeasureJob) => {
  const { sequelize, models } = openDatabase((workerData as { databaseUrl: string }).databaseUrl, 1);
  try {
    let told = 0;
    const { carrierHz, sideband, isSwapped, channel, loadOhms } = settings;
    const result = await measureFile(kind, storedBytes(models, captureId, bytes), {
      carrierHz,
      sideband,
      isSwapped,
      channel,
      loadOhms,
      limits,
      passbandHz,
      proposesCarrier: true,
      recognises: !settings.isChosen,
      reference: await openReference(models, settings),
      subtract: await curvesToSubtract(models, captureId, settings),
      onProgress(share) {
        if (share - told < 0.01) return;
        told = share;
        tell({ kind: 'progress', share });
      },
    });
    tell({ kind: 'done', ...result });
  } catch (error) {
    const message =
      error instanceof FormatError || error instanceof NotMeasurable
        ? error.message
        : `The measurement failed: ${(error as Error).message}.`;
    tell({ kind: 'failed', message });
  } finally {
    await sequelize.close();
  }
});
