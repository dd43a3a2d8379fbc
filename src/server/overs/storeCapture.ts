/** Takes in a capture: streamed into the database, checked, and kept whole or not at all. */
import { ForeignKeyConstraintError, type Transaction, UniqueConstraintError } from 'sequelize';
import { type ByteSource, readWavInfo, startsLikeWav } from '@/core/files/index.ts';
import { CORE_VERSION, type MeasurementKind, measureFile, RADIO_KINDS } from '@/core/measure/index.ts';
import { FormatError } from '@/core/schema/index.ts';
import { database } from '../db/database.ts';
import type { CaptureSettings, Load } from '../db/models.ts';
import { heavy } from '../requests/heavy.ts';
import { Refused } from '../requests/refused.ts';
import { type Spooled, spooled } from '../requests/spool.ts';
import { CHUNK_BYTES, keepChunk } from './captureBytes.ts';

export const MOST_BYTES = 1 << 30;
/** Receivers that one over can be heard on. */
export const MOST_CAPTURES = 16;
/** Shorter recordings hold no speech to measure. */
const SHORTEST_SECONDS = 0.5;

export interface IncomingCapture {
  /** The over that this is another capture of; a new one when left out. */
  readonly overId?: number;
  readonly cardRevisionId: number;
  readonly receiverId: number;
  readonly load: Load;
  readonly powerW: number | null;
  /** Reading on speech peaks, as a fraction of the meter's scale. */
  readonly alcReading: number | null;
  readonly fileName: string;
  /** What the sender says the bytes hash to, lower-case hex. */
  readonly sha256: string;
  readonly kind?: MeasurementKind;
  readonly settings?: CaptureSettings;
}

export interface StoredCapture {
  readonly overId: number;
  readonly captureId: number;
  readonly measurementId: number;
  readonly bytes: number;
}

/**
 * Stores one over with its recording: on disk while it comes, then whole or not at all into the database.
 * @param onPart told where it lies, and how much of it, while it comes
 * @throws Refused when the file is not wanted, with the reason
 */
export async function storeCapture(
  incoming: IncomingCapture,
  body: AsyncIterable<Uint8Array>,
  onPart?: (path: string, bytes: number) => void,
): Promise<StoredCapture> {
  const { kind = 'voice', settings = {}, sha256 } = incoming;
  await refuseKnown(sha256);
  await refuseStrangers(incoming);
  return spooled(body, { most: MOST_BYTES, tooLarge: 'The file is larger than 1 GiB. Nothing was stored.', onPart }, async (file) => {
    if (file.sha256 !== sha256) {
      throw new Refused('The file did not arrive as it was sent (its checksum differs). Nothing was stored; please send it again.', 422);
    }
    try {
      await refuseUnreadable(kind, file, settings.carrierHz);
      return await heavy(() => database().sequelize.transaction((transaction) => storeIn(incoming, file, transaction)));
    } catch (error) {
      if (error instanceof UniqueConstraintError) await refuseKnown(sha256);
      if (error instanceof ForeignKeyConstraintError) await refuseStrangers(incoming);
      if (error instanceof FormatError) throw new Refused(`${error.message} Nothing was stored.`, 415);
      throw error;
    }
  });
}

/** The over of a recording that is here; null when it is not. @param sha256 of its bytes, lower-case hex */
export async function overOfRecording(sha256: string): Promise<number | null> {
  const known = await database().models.captures.findOne({ where: { sha256 }, attributes: ['overId'] });
  return known?.overId ?? null;
}

async function refuseKnown(sha256: string): Promise<void> {
  const overId = await overOfRecording(sha256);
  if (overId !== null) throw new Refused(`This file is already here: it belongs to over ${overId}.`, 409, `/overs/${overId}`);
}

async function refuseStrangers({ cardRevisionId, receiverId, overId }: IncomingCapture): Promise<void> {
  const { models } = database();
  const [revision, receiver] = await Promise.all([models.cardRevisions.findByPk(cardRevisionId), models.receivers.findByPk(receiverId)]);
  if (!revision) throw new Refused('The card revision of this over does not exist.', 404);
  if (!receiver) throw new Refused('The receiver of this over does not exist. Nothing was stored.', 404);
  if (overId !== undefined) await refuseFull(overId);
}

/** @throws Refused when there is no such over, or it has as many captures as one can have */
async function refuseFull(overId: number, transaction?: Transaction): Promise<void> {
  const { overs, captures } = database().models;
  if (!(await overs.findByPk(overId, { transaction, ...(transaction && { lock: transaction.LOCK.UPDATE }) })))
    throw new Refused('The over of this recording does not exist. Nothing was stored.', 404);
  if ((await captures.count({ where: { overId }, transaction })) >= MOST_CAPTURES)
    throw new Refused(`Over ${overId} has ${MOST_CAPTURES} recordings, as many as one over can have. This one was not stored.`, 409);
}

async function storeIn(incoming: IncomingCapture, file: Spooled, transaction: Transaction): Promise<StoredCapture> {
  const { models } = database();
  const { cardRevisionId, receiverId, load, powerW, alcReading, fileName, sha256, kind = 'voice', settings = {} } = incoming;
  if (incoming.overId !== undefined) await refuseFull(incoming.overId, transaction);
  const overId =
    incoming.overId ?? (await models.overs.create({ cardRevisionId, receiverId, load, powerW, alcReading, note: '' }, { transaction })).id;
  const facts = { overId, receiverId, fileName, bytes: file.size, sha256, kind, settings };
  const capture = await models.captures.create(facts, { transaction });
  for (let position = 0; position * CHUNK_BYTES < file.size; position++) {
    const bytes = Buffer.from(await file.read(position * CHUNK_BYTES, CHUNK_BYTES));
    await keepChunk(capture.id, position, bytes, transaction);
  }
  const measurement = await models.measurements.create(
    { captureId: capture.id, status: 'queued', coreVersion: CORE_VERSION, result: null, detail: null, error: null },
    { transaction },
  );
  return { overId, captureId: capture.id, measurementId: measurement.id, bytes: file.size };
}

/** A file that can never be measured as its kind is not kept, nor a carrier that it can't hold. */
export async function refuseUnreadable(kind: MeasurementKind, bytes: ByteSource, carrierHz?: number): Promise<void> {
  const isWav = startsLikeWav(await bytes.read(0, 4));
  if (kind === 'power' || (kind === 'response' && bytes.size > 0 && !isWav)) {
    await measureFile(kind, bytes);
    return;
  }
  const { frames, sampleRateHz, channels } = await readWavInfo(bytes);
  if (frames / sampleRateHz < SHORTEST_SECONDS) {
    throw new Refused(
      `The recording is too short to measure (${frames} samples, ${Number(((1000 * frames) / sampleRateHz).toPrecision(2))} ms): half a second is the least. Nothing was stored.`,
      422,
    );
  }
  if (RADIO_KINDS.includes(kind) && channels !== 2) {
    throw new Refused(`This recording has one channel; as ${kind} it needs I and Q in two. Nothing was stored.`, 422);
  }
  if (RADIO_KINDS.includes(kind) && carrierHz !== undefined && Math.abs(carrierHz) >= sampleRateHz / 2) {
    throw new Refused(
      `A carrier at ${carrierHz} Hz lies outside this recording, which reaches ${sampleRateHz / 2} Hz to each side. Nothing was changed.`,
      422,
    );
  }
}
