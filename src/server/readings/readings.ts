/** Meter readings of a card: those typed alone, and those noted with an over, in one list. */
import { QueryTypes, type Transaction } from 'sequelize';
import type { Said } from '@/core/advice/index.ts';
import type { DialValues, MicrophoneUse } from '@/core/rig/index.ts';
import { database } from '../db/database.ts';
import { Refused } from '../requests/refused.ts';
import type { RequestOf } from '../requests/requests.ts';

export interface ReadingView {
  /** Unique in a list; an over's own reading has no row. */
  readonly key: string;
  readonly takenAt: string;
  readonly revision: { readonly id: number; readonly number: number; readonly values: DialValues; readonly use: MicrophoneUse | null };
  readonly overId: number | null;
  /** Null on readings noted with an over, which do not tell. */
  readonly said: Said | null;
  readonly alc: number | null;
  readonly compressionDb: number | null;
  readonly powerW: number | null;
  readonly swr: number | null;
  /** Next channel re the voice, by an analyser. */
  readonly adjacentDb: number | null;
}

interface ReadingRow extends Omit<ReadingView, 'takenAt' | 'revision'> {
  readonly takenAt: Date;
  readonly revisionId: number;
  readonly number: number;
  readonly dialValues: string;
  readonly microphoneUse: string | null;
}

const SQL = `SELECT t.*, r.id AS revisionId, r.number, r.dial_values AS dialValues, r.microphone_use AS microphoneUse FROM (
    SELECT CONCAT('reading ', d.id) AS \`key\`, d.created_at AS takenAt, d.card_revision_id AS ofRevision, d.over_id AS overId, d.said, d.alc,
      d.compression_db AS compressionDb, d.power_w AS powerW, d.swr, d.adjacent_db AS adjacentDb
    FROM readings d JOIN card_revisions x ON x.id = d.card_revision_id WHERE x.card_id = :cardId
    UNION ALL
    SELECT CONCAT('over ', o.id), o.created_at, o.card_revision_id, o.id, NULL, o.alc_reading, NULL, o.power_w, NULL, NULL
    FROM overs o JOIN card_revisions x ON x.id = o.card_revision_id
    WHERE x.card_id = :cardId AND (o.alc_reading IS NOT NULL OR o.power_w IS NOT NULL)
  ) t JOIN card_revisions r ON r.id = t.ofRevision ORDER BY t.takenAt DESC, t.\`key\` DESC LIMIT :limit`;

/** The newest readings of a card, newest first. */
export async function listReadings(cardId: number, limit: number): Promise<ReadingView[]> {
  const rows = await database().sequelize.query<ReadingRow>(SQL, { type: QueryTypes.SELECT, replacements: { cardId, limit } });
  return rows.map(
    ({ key, takenAt, revisionId, number, dialValues, microphoneUse, overId, said, alc, compressionDb, powerW, swr, adjacentDb }) => ({
      key,
      takenAt: new Date(takenAt).toISOString(),
      revision: { id: revisionId, number, values: JSON.parse(dialValues), use: microphoneUse === null ? null : JSON.parse(microphoneUse) },
      overId,
      said,
      alc,
      compressionDb,
      powerW,
      swr,
      adjacentDb,
    }),
  );
}

/** Keeps a reading. @throws Refused when nothing was read, or the revision or over is not there */
export async function addReading(
  { cardRevisionId, overId = null, ...reading }: RequestOf<'reading'>,
  transaction?: Transaction,
): Promise<void> {
  const { models } = database();
  const { alc, compressionDb, powerW, swr, adjacentDb = null } = reading;
  if ([alc, compressionDb, powerW, swr, adjacentDb].every((each) => each === null))
    throw new Refused('A reading is at least one number.', 422);
  if (!(await models.cardRevisions.findByPk(cardRevisionId, { transaction })))
    throw new Refused('This card does not exist any more. Nothing was saved.', 404);
  const over = overId === null ? null : await models.overs.findByPk(overId, { transaction });
  if (overId !== null && over?.cardRevisionId !== cardRevisionId)
    throw new Refused('This over was not made with this card. Nothing was saved.', 422);
  await models.readings.create({ cardRevisionId, overId, ...reading }, { transaction });
}
