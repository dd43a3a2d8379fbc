/** Overs with everything they hang on: revision, card, rig, operator, mic, receiver, capture, measurement. */
import { QueryTypes } from 'sequelize';
import { headline } from '../core/measure/headline.ts';
import type {
  Finding,
  Measurement,
  MeasurementDetail,
  MeasurementKind,
  VoiceDetail,
  VoiceMeasurement,
} from '../core/measure/measurement.ts';
import type { Card, DialValues, Purpose } from '../core/station/card.ts';
import type { MicrophoneUse } from '../core/station/microphone.ts';
import type { RigProfile } from '../core/station/rig.ts';
import { database } from './database.ts';
import type { CaptureSettings, Load, MeasurementStatus, Over, ReceiverKind } from './models.ts';
import { Refused } from './refused.ts';
import { likePattern } from './search.ts';

/** What was noted of an over when it was made. */
interface OverNotes {
  readonly id: number;
  readonly madeAt: string;
  readonly load: Load;
  readonly powerW: number | null;
  readonly alcReading: number | null;
  readonly note: string;
}

export interface OverView extends OverNotes {
  readonly revision: {
    readonly id: number;
    readonly number: number;
    readonly values: DialValues;
    readonly use: MicrophoneUse | null;
  };
  readonly card: { readonly id: number; readonly name: string; readonly mode: Card['mode']; readonly purpose: Purpose };
  readonly rig: { readonly id: number; readonly name: string; readonly profile: RigProfile };
  readonly operator: { readonly id: number; readonly name: string; readonly callsign: string };
  readonly receiver: {
    readonly id: number;
    readonly name: string;
    readonly kind: ReceiverKind;
    readonly lowHz: number;
    readonly highHz: number;
  };
  readonly capture: {
    readonly id: number;
    readonly fileName: string;
    readonly bytes: number;
    readonly sha256: string;
    readonly kind: MeasurementKind;
    readonly settings: CaptureSettings;
  } | null;
  readonly measurement: {
    readonly id: number;
    readonly status: MeasurementStatus;
    readonly coreVersion: string;
    readonly error: string | null;
  } | null;
  /** What was measured, of whatever kind. */
  readonly evidence: { readonly result: Measurement; readonly detail: MeasurementDetail | null } | null;
  /** The same where it is a voice, which advice is worked out from. */
  readonly measured: { readonly result: VoiceMeasurement; readonly detail: VoiceDetail } | null;
}

/** An over whose measurement is done. */
export type MeasuredOver = OverView & { readonly measured: NonNullable<OverView['measured']> };

async function viewOf(over: Over): Promise<OverView> {
  const { models } = database();
  const [revision, receiver, capture] = await Promise.all([
    models.cardRevisions.findByPk(over.cardRevisionId, { rejectOnEmpty: true }),
    models.receivers.findByPk(over.receiverId, { rejectOnEmpty: true }),
    models.captures.findOne({ where: { overId: over.id } }),
  ]);
  const card = await models.cards.findByPk(revision.cardId, { rejectOnEmpty: true });
  const [rig, operator, measurement] = await Promise.all([
    models.rigs.findByPk(card.rigId, { rejectOnEmpty: true }),
    models.operators.findByPk(card.operatorId, { rejectOnEmpty: true }),
    capture && models.measurements.findOne({ where: { captureId: capture.id }, order: [['id', 'DESC']] }),
  ]);
  const { result, detail } = measurement ?? { result: null, detail: null };
  return {
    id: over.id,
    madeAt: over.createdAt.toISOString(),
    load: over.load,
    powerW: over.powerW,
    alcReading: over.alcReading,
    note: over.note,
    revision: { id: revision.id, number: revision.number, values: revision.values, use: revision.microphoneUse },
    card: { id: card.id, name: card.name, mode: card.mode, purpose: card.purpose },
    rig: { id: rig.id, name: rig.name, profile: rig.profile },
    operator: { id: operator.id, name: operator.name, callsign: operator.callsign },
    receiver: { id: receiver.id, name: receiver.name, kind: receiver.kind, lowHz: receiver.lowHz, highHz: receiver.highHz },
    capture: capture && {
      id: capture.id,
      fileName: capture.fileName,
      bytes: capture.bytes,
      sha256: capture.sha256,
      kind: capture.kind,
      settings: capture.settings,
    },
    measurement: measurement && {
      id: measurement.id,
      status: measurement.status,
      coreVersion: measurement.coreVersion,
      error: measurement.error,
    },
    evidence: result && { result, detail },
    measured: result?.kind === 'voice' && detail ? { result, detail: detail as VoiceDetail } : null,
  };
}

/** One over; null when there is none of that number. */
export async function loadOver(id: number): Promise<OverView | null> {
  const over = await database().models.overs.findByPk(id);
  return over && viewOf(over);
}

/** One line of the log. */
export interface OverSummary extends OverNotes {
  readonly cardId: number;
  readonly card: string;
  readonly revision: number;
  readonly operator: string;
  readonly rig: string;
  readonly receiver: string;
  readonly status: MeasurementStatus | null;
  readonly kind: MeasurementKind | null;
  readonly durationS: number | null;
  /** The number that says most of its kind, in words. */
  readonly told: string | null;
  /** Worst finding first. */
  readonly findings: readonly Finding[];
}

/** As the query gives it: dates and JSON still to be read. */
interface OverRow extends Omit<OverSummary, 'madeAt' | 'durationS' | 'told' | 'findings'> {
  madeAt: Date;
  result: string | null;
}

export interface OverQuery {
  readonly cardId?: number;
  readonly operatorId?: number;
  /** Words in the note, or in the card's, operator's, rig's or receiver's name. */
  readonly search?: string;
  readonly kind?: MeasurementKind;
  readonly limit: number;
  readonly offset?: number;
}

const TABLES = `overs o
     JOIN card_revisions r ON r.id = o.card_revision_id JOIN cards c ON c.id = r.card_id
     JOIN operators p ON p.id = c.operator_id JOIN rigs g ON g.id = c.rig_id JOIN receivers v ON v.id = o.receiver_id`;

const conditions = ({ cardId, operatorId, search, kind }: Omit<OverQuery, 'limit'>): string =>
  [
    operatorId === undefined ? '' : 'c.operator_id = :operatorId',
    cardId === undefined ? '' : 'r.card_id = :cardId',
    kind === undefined ? '' : 'EXISTS (SELECT 1 FROM captures q WHERE q.over_id = o.id AND q.kind = :kind)',
    search ? '(o.note LIKE :like OR c.name LIKE :like OR p.name LIKE :like OR g.name LIKE :like OR v.name LIKE :like)' : '',
  ]
    .filter((each) => each !== '')
    .join(' AND ') || 'TRUE';

/** Nothing is asked of other tables. */
const isPlain = ({ cardId, operatorId, search }: Omit<OverQuery, 'limit'>): boolean =>
  cardId === undefined && operatorId === undefined && !search;

/** The page's rows are picked first, by index; measurements are fetched for those only. */
export const overListSql = (query: OverQuery): string =>
  `SELECT o.id, o.created_at AS madeAt, o.\`load\`, o.power_w AS powerW, o.alc_reading AS alcReading, o.note,
       c.id AS cardId, c.name AS card, r.number AS revision, p.name AS operator, g.name AS rig, v.name AS receiver,
       m.status, m.result, (SELECT k.kind FROM captures k WHERE k.over_id = o.id ORDER BY k.id LIMIT 1) AS kind
     FROM (${pageSql(query)}) page JOIN ${TABLES.replace('overs o', 'overs o ON o.id = page.id')}
     LEFT JOIN measurements m ON m.id = (SELECT MAX(x.id) FROM measurements x JOIN captures k ON k.id = x.capture_id WHERE k.over_id = o.id)
     ORDER BY o.created_at DESC, o.id DESC`;

const pageSql = (query: OverQuery): string => {
  const from = isPlain(query) ? 'overs o' : TABLES;
  return `SELECT o.id FROM ${from} WHERE ${conditions(query)} ORDER BY o.created_at DESC, o.id DESC LIMIT :limit OFFSET :offset`;
};

const replacements = ({ cardId, operatorId, search, kind, limit, offset = 0 }: OverQuery) => ({
  cardId,
  operatorId,
  kind,
  like: likePattern(search ?? ''),
  limit,
  offset,
});

/** The newest overs first. */
export async function listOvers(query: OverQuery): Promise<OverSummary[]> {
  const rows = await database().sequelize.query<OverRow>(overListSql(query), {
    type: QueryTypes.SELECT,
    replacements: replacements(query),
  });
  return rows.map(({ result, madeAt, ...row }) => {
    const measured: Measurement | null = result === null ? null : JSON.parse(result);
    return {
      ...row,
      madeAt: new Date(madeAt).toISOString(),
      durationS: measured?.durationS ?? null,
      told: measured && headline(measured),
      findings: measured?.findings ?? [],
    };
  });
}

/** How many overs a query finds in all. */
export async function countOvers(query: Omit<OverQuery, 'limit' | 'offset'> = {}): Promise<number> {
  const [{ total }] = await database().sequelize.query<{ total: number }>(
    `SELECT COUNT(*) AS total FROM ${isPlain(query) ? 'overs o' : TABLES} WHERE ${conditions(query)}`,
    { type: QueryTypes.SELECT, replacements: replacements({ ...query, limit: 0 }) },
  );
  return Number(total);
}

/** The over a card is judged by: the one asked for, else its newest measured one. */
export async function judgedOver(cardId: number, overId?: number): Promise<OverView | null> {
  if (overId !== undefined) {
    const over = await loadOver(overId);
    if (over?.card.id === cardId) return over;
  }
  const overs = await listOvers({ cardId, kind: 'voice', limit: 20 });
  const newest = overs.find(({ status }) => status === 'done') ?? overs[0];
  return newest ? loadOver(newest.id) : null;
}

/** Keeps what was noted of an over. @throws Refused when there is no such over */
export async function noteOver(id: number, values: { alcReading: number | null; note: string }): Promise<void> {
  const over = await database().models.overs.findByPk(id);
  if (!over) throw new Refused('This over does not exist.', 404);
  await over.update(values);
}

/** Deletes an over with its evidence; moves keep standing but lose what they were compared with. */
export async function deleteOver(id: number): Promise<void> {
  const { sequelize, models } = database();
  await sequelize.transaction(async (transaction) => {
    const over = await models.overs.findByPk(id, { transaction });
    if (!over) throw new Refused('This over does not exist.', 404);
    const captures = await models.captures.findAll({ where: { overId: id }, transaction });
    const captureId = captures.map((capture) => capture.id);
    await models.measurements.destroy({ where: { captureId }, transaction });
    await models.captureChunks.destroy({ where: { captureId }, transaction });
    await models.captures.destroy({ where: { id: captureId }, transaction });
    await models.moves.update({ overId: null }, { where: { overId: id }, transaction });
    await over.destroy({ transaction });
  });
}
