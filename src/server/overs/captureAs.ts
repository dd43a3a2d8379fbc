/** A stored capture in another open format: SigMF, or its measured curve as CSV. */
import { curveCsv, readWavInfo, sigmfMetaFor } from '@/core/files/index.ts';
import { database } from '../db/database.ts';
import type { Capture } from '../db/models.ts';
import { Refused } from '../requests/refused.ts';
import { storedBytes } from './captureBytes.ts';

export interface SavedFile {
  readonly name: string;
  readonly type: string;
  readonly body: string | ReadableStream<Uint8Array>;
}

const STEP_BYTES = 1 << 20;

/** @throws Refused for a format that is not known or that this capture does not have */
export async function captureAs(capture: Capture, as: string): Promise<SavedFile> {
  const { models } = database();
  const bare = capture.fileName.replace(/\.\w+$/, '');
  if (as === 'curve') {
    const row = await models.measurements.findOne({ where: { captureId: capture.id, status: 'done' }, order: [['id', 'DESC']] });
    if (row?.result?.kind !== 'response') throw new Refused('This recording was not measured as a response.', 404);
    return { name: `${bare}-response.csv`, type: 'text/csv; charset=utf-8', body: curveCsv(row.result.curve) };
  }
  if (as !== 'sigmf-meta' && as !== 'sigmf-data') throw new Refused('It can be saved as sigmf-meta, sigmf-data or curve.', 404);
  const bytes = storedBytes(models, capture.id, capture.bytes);
  const layout = await readWavInfo(bytes);
  const meta = sigmfMetaFor(layout, { description: `over ${capture.overId}, ${capture.fileName}` });
  if (as === 'sigmf-meta') return { name: `${bare}.sigmf-meta`, type: 'application/json', body: `${JSON.stringify(meta, null, 2)}\n` };
  const end = layout.dataOffset + (layout.frames * layout.channels * layout.bits) / 8;
  let at = layout.dataOffset;
  const body = new ReadableStream<Uint8Array>({
    async pull(controller) {
      if (at >= end) return controller.close();
      const part = await bytes.read(at, Math.min(STEP_BYTES, end - at));
      at += part.length;
      controller.enqueue(part.slice());
    },
  });
  return { name: `${bare}.sigmf-data`, type: 'application/octet-stream', body };
}
