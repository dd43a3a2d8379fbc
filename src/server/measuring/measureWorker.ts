/** Runs on a thread of the measuring pool: reads a stored capture with a connection of its own and measures it. */
import { workerData } from 'node:worker_threads';
import { measureFile, NotMeasurable } from '@/core/measure/index.ts';
import { FormatError } from '@/core/schema/index.ts';
import { openDatabase } from '../db/database.ts';
import { storedBytes } from '../overs/captureBytes.ts';
import { curvesToSubtract, openReference } from '../overs/references.ts';
import { isPassing } from '../requests/failure.ts';
import { growingFile } from './growingFile.ts';
import type { MeasureEnd, MeasureTask } from './measuringPool.ts';

export default async function measure({ how, bytes, source, port }: MeasureTask): Promise<MeasureEnd> {
  const { kind, settings, limits, passbandHz } = how;
  const { sequelize, models } = openDatabase((workerData as { databaseUrl: string }).databaseUrl, 1);
  try {
    let told = 0;
    const { carrierHz, sideband, isSwapped, channel, loadOhms } = settings;
    const isStored = 'captureId' in source;
    const file = isStored ? storedBytes(models, source.captureId, bytes) : growingFile(source.file, bytes, port);
    const result = await measureFile(kind, file, {
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
      subtract: isStored ? await curvesToSubtract(models, source.captureId, settings) : [],
      onProgress(share) {
        if (share - told < 0.01) return;
        told = share;
        port.postMessage(share);
      },
    });
    return { kind: 'done', ...result };
  } catch (error) {
    if (isPassing(error)) return { kind: 'interrupted' };
    const isKnown = error instanceof FormatError || error instanceof NotMeasurable;
    return { kind: 'failed', message: isKnown ? error.message : `The measurement failed: ${(error as Error).message}.` };
  } finally {
    port.close();
    await sequelize.close().catch(() => {});
  }
}
