/** Takes in a capture: streamed into the database, checked, and kept whole or not at all. */
import { createHash } from 'node:crypto';
import { DatabaseError, type Transaction, UniqueConstraintError } from 'sequelize';
import type { ByteSource } from '../core/formats/byteSource.ts';
import { FormatError } from '../core/formats/formatError.ts';
import { readWavInfo } from '../core/formats/wav.ts';
import { CORE_VERSION, type MeasurementKind, RADIO_KINDS } from '../core/measure/measurement.ts';
import { measureFile } from '../core/measure/measureRecording.ts';
import { CHUNK_BYTES, storedBytes } from './captureBytes.ts';
import { type Database, database } from './database.ts';
import type { CaptureSettings, Load } from './models.ts';
import { Refused } from './refused.ts';

export const MOST_BYTES = 1 << 30;
/** Shorter recordings hold no speech to measure. */
const SHORTEST_SECONDS = 0.5;

export interface IncomingCapture {
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
 * Stores one over with its recording in one transaction: a broken-off upload leaves nothing behind.
 * @throws Refused when the file is not wanted, with the reason
 */
export async function storeCapture(incoming: IncomingCapture, body: AsyncIterable<Uint8Array>): Promise<StoredCapture> {
  const db = database();
  await refuseKnown(db, incoming.sha256);
  try {
    return await db.sequelize.transaction((transaction) => storeIn(db, incoming, body, transaction));
  } catch (error) {
    if (error instanceof UniqueConstraintError) await refuseKnown(db, incoming.sha256);
    if (error instanceof DatabaseError && /Lock wait timeout|Deadlock/.test(error.message)) {
      throw new Refused('The same file is being uploaded by another page. Nothing was stored twice.', 409);
    }
    if (error instanceof FormatError) throw new Refused(`${error.message} Nothing was stored.`, 415);
    throw error;
  }
}

async function refuseKnown({ models }: Database, sha256: string): Promise<void> {
  const known = await models.captures.findOne({ where: { sha256 } });
  if (!known) return;
  throw new Refused(`This file is already here: it belongs to over ${known.overId}.`, 409, `/overs/${known.overId}`);
}

async function storeIn(
  { models }: Database,
  { cardRevisionId, receiverId, load, powerW, alcReading, fileName, sha256, kind = 'voice', settings = {} }: IncomingCapture,
  body: AsyncIterable<Uint8Array>,
  transaction: Transaction,
): Promise<StoredCapture> {
  const [revision, receiver] = await Promise.all([
    models.cardRevisions.findByPk(cardRevisionId, { transaction }),
    models.receivers.findByPk(receiverId, { transaction }),
  ]);
  if (!revision) throw new Refused('The card revision of this over does not exist.', 404);
  if (!receiver) throw new Refused('The receiver of this over does not exist.', 404);
  const over = await models.overs.create({ cardRevisionId, receiverId, load, powerW, alcReading, note: '' }, { transaction });
  const capture = await models.captures.create({ overId: over.id, fileName, bytes: 0, sha256, kind, settings }, { transaction });
  const hash = createHash('sha256');
  let bytes = 0;
  let position = 0;
  for await (const chunk of inChunks(body)) {
    bytes += chunk.length;
    if (bytes > MOST_BYTES) throw new Refused('The file is larger than 1 GiB. Nothing was stored.', 413);
    hash.update(chunk);
    await models.captureChunks.create({ captureId: capture.id, position: position++, bytes: chunk }, { transaction });
  }
  if (hash.digest('hex') !== sha256) {
    throw new Refused('The file did not arrive as it was sent (its checksum differs). Nothing was stored; please send it again.', 422);
  }
  await refuseUnreadable(kind, storedBytes(models, capture.id, bytes, transaction), settings.carrierHz);
  await capture.update({ bytes }, { transaction });
  const measurement = await models.measurements.create(
    { captureId: capture.id, status: 'queued', coreVersion: CORE_VERSION, result: null, detail: null, error: null },
    { transaction },
  );
  return { overId: over.id, captureId: capture.id, measurementId: measurement.id, bytes };
}

/** A file that can never be measured as its kind is not kept, nor a carrier that it can't hold. */
export async function refuseUnreadable(kind: MeasurementKind, bytes: ByteSource, carrierHz?: number): Promise<void> {
  const isWav = /^(?:RIFF|RF64|BW64)$/.test(String.fromCharCode(...(await bytes.read(0, 4))));
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

/** Regroups a stream into chunks of exactly CHUNK_BYTES, the last one shorter. */
async function* inChunks(body: AsyncIterable<Uint8Array>): AsyncGenerator<Buffer> {
  let parts: Uint8Array[] = [];
  let held = 0;
  for await (const piece of body) {
    for (let at = 0; at < piece.length; ) {
      const part = piece.subarray(at, at + CHUNK_BYTES - held);
      parts.push(part);
      held += part.length;
      at += part.length;
      if (held < CHUNK_BYTES) continue;
      yield Buffer.concat(parts);
      parts = [];
      held = 0;
    }
  }
  if (held > 0) yield Buffer.concat(parts);
}
