/** What a measurement is held against: another recording, or curves that are taken off its result. */
import type { CurvePoint } from '@/core/curve/index.ts';
import { openWav, type SampleSource } from '@/core/files/index.ts';
import { CURVE_FREQUENCIES } from '@/core/measure/index.ts';
import { fittingUse, usualUse } from '@/core/rig/index.ts';
import { FormatError } from '@/core/schema/index.ts';
import { microphoneResponseDb } from '@/core/simulate/index.ts';
import type { CaptureSettings, Models } from '../db/models.ts';
import { storedBytes } from './captureBytes.ts';

/** The recording named as the reference; undefined when none is. @throws FormatError when it is gone */
export async function openReference(models: Models, { referenceCaptureId: id }: CaptureSettings): Promise<SampleSource | undefined> {
  if (id === undefined) return undefined;
  const capture = await models.captures.findByPk(id);
  if (!capture) throw new FormatError('The recording it should be compared with has been deleted. Choose another one.');
  return openWav(storedBytes(models, capture.id, capture.bytes));
}

/** Curves to take off a response. @throws FormatError when one that is asked for is not there */
export async function curvesToSubtract(
  models: Models,
  captureId: number,
  { subtractsMicrophone, subtractCaptureId }: CaptureSettings,
): Promise<(readonly CurvePoint[])[]> {
  return [
    ...(subtractsMicrophone ? [await microphoneCurve(models, captureId)] : []),
    ...(subtractCaptureId === undefined ? [] : [await measuredCurve(models, subtractCaptureId)]),
  ];
}

/** The microphone of the over's card, as it was used. */
async function microphoneCurve(models: Models, captureId: number): Promise<CurvePoint[]> {
  const { over } = await models.captures.findByPk(captureId, {
    include: [{ association: 'over', include: [{ association: 'revision', include: [{ association: 'card', include: ['microphone'] }] }] }],
    rejectOnEmpty: true,
  });
  const { revision } = over ?? {};
  const { microphone } = revision?.card ?? {};
  if (!revision || !microphone) throw new FormatError('The microphone of this recording is not known any more.');
  const { profile } = microphone;
  const use = fittingUse(profile, revision.microphoneUse ?? usualUse(profile));
  const levels = microphoneResponseDb(profile, use, CURVE_FREQUENCIES);
  return CURVE_FREQUENCIES.map((hz, k): CurvePoint => [hz, levels[k]]);
}

async function measuredCurve(models: Models, captureId: number): Promise<readonly CurvePoint[]> {
  const row = await models.measurements.findOne({ where: { captureId, status: 'done' }, order: [['id', 'DESC']] });
  if (row?.result?.kind !== 'response')
    throw new FormatError(`Recording ${captureId} is no measured response: there is no curve to take off.`);
  return row.result.curve;
}
