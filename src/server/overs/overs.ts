/** Overs with everything they hang on: revision, card, rig, operator, mic, receiver, capture, measurement. */
import { QueryTypes, type Transaction } from 'sequelize';
import type { Finding } from '@/core/findings/index.ts';
import {
  isOffTheAir,
  type Measurement,
  type MeasurementDetail,
  type MeasurementKind,
  RECEIVER_KINDS,
  type VoiceDetail,
  type VoiceMeasurement,
} from '@/core/measure/index.ts';
import type { Card, DialValues, MicrophoneUse, Purpose, RigProfile } from '@/core/rig/index.ts';
import { database } from '../db/database.ts';
import type { CaptureSettings, Load, MeasurementStatus, ReceiverKind, Trust } from '../db/models.ts';
import { likePattern } from '../db/search.ts';
import { refuseOvertaken } from '../requests/overtaken.ts';
import { Refused } from '../requests/refused.ts';

/** What was noted of an over when it was made. */
interface OverNotes {
  readonly id: number;
  readonly madeAt: string;
  readonly load: Load;
  readonly powerW: number | null;
  readonly alcReading: number | null;
  readonly note: string;
  /** Whether the operator heard himself on headphones; null where it was not noted. */
  readonly hasMonitor: boolean | null;
}

/** An over with one of its captures: the best one for judging, unless another was asked for. */
export interface OverView extends OverNotes {
  readonly revision: {
    readonly id: number;
    readonly number: number;
    readonly values: DialValues;
    readonly use: MicrophoneUse | null;
  };
  readonly card: {
    readonly id: number;
    readonly name: string;
    readonly mode: Card['mode'];
    readonly purpose: Purpose;
    /** Number of the practice radio that it is for; null on cards of real radios. */
    readonly practiceRadio: number | null;
  };
  readonly rig: { readonly id: number; readonly name: string; readonly profile: RigProfile };
  readonly operator: { readonly id: number; readonly name: string; readonly callsign: string };
  readonly receiver: {
    readonly id: number;
    readonly name: string;
    readonly kind: ReceiverKind;
    readonly lowHz: number;
    readonly highHz: number;
    readonly trust: Trust;
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

/** As the query gives it: dates and JSON still to be read. */
interface OverViewRow {
  id: number;
  madeAt: Date;
  load: Load;
  powerW: number | null;
  alcReading: number | null;
  note: string;
  hasMonitor: number | null;
  revisionId: number;
  revision: number;
  dialValues: string;
  microphoneUse: string | null;
  cardId: number;
  card: string;
  mode: Card['mode'];
  purpose: Purpose;
  practiceRadio: number | null;
  rigId: number;
  rig: string;
  profile: string;
  operatorId: number;
  operator: string;
  callsign: string;
  receiverId: number;
  receiver: string;
  receiverKind: ReceiverKind;
  lowHz: number;
  highHz: number;
  trust: Trust;
  captureId: number | null;
  fileName: string;
  bytes: number;
  sha256: string;
  kind: MeasurementKind;
  settings: string;
  measurementId: number | null;
  status: MeasurementStatus;
  coreVersion: string;
  error: string | null;
  result: string | null;
  detail: string | null;
}

/** An over is judged by its audio as it left the antenna: the order of RECEIVER_KINDS, then how far a receiver is trusted. */
const BEST_CAPTURE = `(SELECT x.id FROM captures x FORCE INDEX (of_over) JOIN receivers w ON w.id = COALESCE(x.receiver_id, o.receiver_id)
    WHERE x.over_id = o.id ORDER BY x.kind <> 'voice', FIELD(w.kind, ${RECEIVER_KINDS.map(({ id }) => `'${id}'`).join(', ')}),
      FIELD(w.trust, 'high', 'medium', 'low'), x.id LIMIT 1)`;
const NEWEST_MEASUREMENT = '(SELECT MAX(x.id) FROM measurements x FORCE INDEX (of_capture) WHERE x.capture_id = k.id)';

/** @param from overs `o`, with captures `k` as the caller joins them */
const viewSql = (
  from: string,
): string => `SELECT o.id, o.created_at AS madeAt, o.\`load\`, o.power_w AS powerW, o.alc_reading AS alcReading, o.note,
    o.has_monitor AS hasMonitor,
    r.id AS revisionId, r.number AS revision, r.dial_values AS dialValues, r.microphone_use AS microphoneUse,
    c.id AS cardId, c.name AS card, c.mode, c.purpose, c.practice_radio AS practiceRadio, g.id AS rigId, g.name AS rig, g.profile,
    p.id AS operatorId, p.name AS operator, p.callsign,
    v.id AS receiverId, v.name AS receiver, v.kind AS receiverKind, v.low_hz AS lowHz, v.high_hz AS highHz, v.trust,
    k.id AS captureId, k.file_name AS fileName, CAST(k.bytes AS DOUBLE) AS bytes, k.sha256, k.kind, k.settings,
    m.id AS measurementId, m.status, m.core_version AS coreVersion, m.error, m.result, m.detail
  FROM ${from} STRAIGHT_JOIN card_revisions r ON r.id = o.card_revision_id STRAIGHT_JOIN cards c ON c.id = r.card_id
    STRAIGHT_JOIN rigs g ON g.id = c.rig_id STRAIGHT_JOIN operators p ON p.id = c.operator_id
    STRAIGHT_JOIN receivers v ON v.id = COALESCE(k.receiver_id, o.receiver_id)
    LEFT JOIN measurements m ON m.id = ${NEWEST_MEASUREMENT}`;
const OVERS_SQL = `${viewSql(`overs o LEFT JOIN captures k ON k.id = ${BEST_CAPTURE}`)} WHERE o.id IN (:ids)`;
const CAPTURES_SQL = `${viewSql('captures k STRAIGHT_JOIN overs o ON o.id = k.over_id')} WHERE`;

/** Overs of these numbers, in this order, in one question to the database; those that are not there are left out. */
export async function loadOvers(ids: readonly number[]): Promise<OverView[]> {
  if (ids.length === 0) return [];
  const rows = await database().sequelize.query<OverViewRow>(OVERS_SQL, { type: QueryTypes.SELECT, replacements: { ids: [...ids] } });
  const views = new Map(rows.map((row) => [row.id, viewOf(row)]));
  return ids.flatMap((id) => views.get(id) ?? []);
}

/** Captures of these numbers, in this order, each with its over; those that are not there are left out. */
export async function loadCaptures(ids: readonly number[]): Promise<OverView[]> {
  if (ids.length === 0) return [];
  const rows = await database().sequelize.query<OverViewRow>(`${CAPTURES_SQL} k.id IN (:ids)`, {
    type: QueryTypes.SELECT,
    replacements: { ids: [...ids] },
  });
  const views = new Map(rows.map((row) => [row.captureId, viewOf(row)]));
  return ids.flatMap((id) => views.get(id) ?? []);
}

/** All captures of overs, as they came in. */
export async function capturesOfOvers(overIds: readonly number[]): Promise<OverView[]> {
  if (overIds.length === 0) return [];
  const rows = await database().sequelize.query<OverViewRow>(`${CAPTURES_SQL} k.over_id IN (:overIds) ORDER BY k.id`, {
    type: QueryTypes.SELECT,
    replacements: { overIds: [...overIds] },
  });
  return rows.map(viewOf);
}

const booleanOf = (value: number | boolean | null): boolean | null => (value === null ? null : Boolean(value));
const parsed = <T>(text: string | null): T | null => (text === null ? null : JSON.parse(text));

function viewOf(row: OverViewRow): OverView {
  const result = parsed<Measurement>(row.result);
  const detail = parsed<MeasurementDetail>(row.detail);
  return {
    id: row.id,
    madeAt: new Date(row.madeAt).toISOString(),
    load: row.load,
    powerW: row.powerW,
    alcReading: row.alcReading,
    note: row.note,
    hasMonitor: booleanOf(row.hasMonitor),
    revision: { id: row.revisionId, number: row.revision, values: JSON.parse(row.dialValues), use: parsed(row.microphoneUse) },
    card: { id: row.cardId, name: row.card, mode: row.mode, purpose: row.purpose, practiceRadio: row.practiceRadio },
    rig: { id: row.rigId, name: row.rig, profile: JSON.parse(row.profile) },
    operator: { id: row.operatorId, name: row.operator, callsign: row.callsign },
    receiver: {
      id: row.receiverId,
      name: row.receiver,
      kind: row.receiverKind,
      lowHz: row.lowHz,
      highHz: row.highHz,
      trust: row.trust,
    },
    capture:
      row.captureId === null
        ? null
        : {
            id: row.captureId,
            fileName: row.fileName,
            bytes: Number(row.bytes),
            sha256: row.sha256,
            kind: row.kind,
            settings: JSON.parse(row.settings),
          },
    measurement:
      row.measurementId === null ? null : { id: row.measurementId, status: row.status, coreVersion: row.coreVersion, error: row.error },
    evidence: result && { result, detail },
    measured: result?.kind === 'voice' && detail ? { result, detail: detail as VoiceDetail } : null,
  };
}

/** One over; null when there is none of that number. */
export const loadOver = async (id: number): Promise<OverView | null> => (await loadOvers([id]))[0] ?? null;

/** The newest over that a card has from a time on, as each receiver heard it; empty where there is none. */
export async function newestHeard(cardId: number, from: string, to: string | null): Promise<OverView[]> {
  const [newest] = await listOvers({ cardId, limit: 1 });
  return newest && newest.madeAt >= from && (to === null || newest.madeAt <= to) ? capturesOfOvers([newest.id]) : [];
}

/** One line of the log. */
export interface OverSummary extends OverNotes {
  readonly cardId: number;
  readonly card: string;
  readonly revision: number;
  readonly operator: string;
  readonly rig: string;
  /** The one of its best capture. */
  readonly receiver: string;
  /** Number of its captures, and the best of them. */
  readonly captures: number;
  readonly captureId: number | null;
  readonly bytes: number | null;
  readonly status: MeasurementStatus | null;
  readonly kind: MeasurementKind | null;
  readonly durationS: number | null;
  /** The number that says most of its kind, in words. */
  readonly headline: string | null;
  /** Worst finding first. */
  readonly findings: readonly Finding[];
  /** Number of the practice radio that transmitted it; null for real ones. */
  readonly practiceRadio: number | null;
}

/** As the query gives it: dates and JSON still to be read. */
interface OverRow extends Omit<OverSummary, 'madeAt' | 'findings' | 'hasMonitor'> {
  madeAt: Date;
  hasMonitor: number | null;
  findings: string | null;
}

export interface OverQuery {
  readonly cardId?: number;
  readonly operatorId?: number;
  /** Words in the note, or in the card's, operator's, rig's or receiver's name. */
  readonly search?: string;
  readonly kind?: MeasurementKind;
  /** Without what a practice radio transmitted. */
  readonly isReal?: boolean;
  readonly limit: number;
  readonly offset?: number;
}

/** Words in the names of what an over hangs on are looked for there, once, not beside every over. */
const SEARCHED = `(o.note LIKE :like OR o.receiver_id IN (SELECT v.id FROM receivers v WHERE v.name LIKE :like)
  OR o.id IN (SELECT k.over_id FROM receivers v JOIN captures k ON k.receiver_id = v.id WHERE v.name LIKE :like)
  OR o.card_revision_id IN (SELECT r.id FROM card_revisions r JOIN cards c ON c.id = r.card_id JOIN operators p ON p.id = c.operator_id
    JOIN rigs g ON g.id = c.rig_id WHERE c.name LIKE :like OR p.name LIKE :like OR g.name LIKE :like))`;

const conditions = ({ cardId, operatorId, search, kind, isReal }: Omit<OverQuery, 'limit'>): string =>
  [
    cardId === undefined ? '' : 'r.card_id = :cardId',
    operatorId === undefined
      ? ''
      : '(SELECT c.operator_id FROM card_revisions x JOIN cards c ON c.id = x.card_id WHERE x.id = o.card_revision_id) = :operatorId',
    kind === undefined ? '' : 'EXISTS (SELECT 1 FROM captures q WHERE q.over_id = o.id AND q.kind = :kind)',
    search ? SEARCHED : '',
    isReal
      ? '(SELECT c.practice_radio FROM card_revisions x JOIN cards c ON c.id = x.card_id WHERE x.id = o.card_revision_id) IS NULL'
      : '',
  ]
    .filter((each) => each !== '')
    .join(' AND ') || 'TRUE';

/** Where the rows come from, in this order: the database's own choice would hang on how fresh its statistics are. */
const overs = ({ cardId }: Omit<OverQuery, 'limit'>, index: string): string =>
  cardId === undefined
    ? `overs o ${index}`
    : 'card_revisions r FORCE INDEX (card_id) STRAIGHT_JOIN overs o FORCE INDEX (of_revision) ON o.card_revision_id = r.id';

const pageSql = (query: OverQuery): string =>
  `SELECT o.id FROM ${overs(query, 'FORCE INDEX (newest)')} WHERE ${conditions(query)}
   ORDER BY o.created_at DESC, o.id DESC LIMIT :limit OFFSET :offset`;

/** The page's rows are picked first, by index; what they hang on is fetched for those only. */
export const overListSql = (query: OverQuery): string => lineSql(pageSql(query));

const lineSql = (page: string): string =>
  `SELECT o.id, o.created_at AS madeAt, o.\`load\`, o.power_w AS powerW, o.alc_reading AS alcReading, o.note,
       o.has_monitor AS hasMonitor, k.id AS captureId, CAST(k.bytes AS DOUBLE) AS bytes, (SELECT COUNT(*) FROM captures x FORCE INDEX (of_over) WHERE x.over_id = o.id) AS captures,
       c.id AS cardId, c.name AS card, c.practice_radio AS practiceRadio, r.number AS revision, p.name AS operator, g.name AS rig, v.name AS receiver,
       m.status, m.headline AS headline, m.duration_s AS durationS, m.findings, k.kind
     FROM (${page}) page STRAIGHT_JOIN overs o ON o.id = page.id
     STRAIGHT_JOIN card_revisions r ON r.id = o.card_revision_id STRAIGHT_JOIN cards c ON c.id = r.card_id
     STRAIGHT_JOIN operators p ON p.id = c.operator_id STRAIGHT_JOIN rigs g ON g.id = c.rig_id
     LEFT JOIN captures k ON k.id = ${BEST_CAPTURE} STRAIGHT_JOIN receivers v ON v.id = COALESCE(k.receiver_id, o.receiver_id)
     LEFT JOIN measurements m ON m.id = ${NEWEST_MEASUREMENT}
     ORDER BY o.created_at DESC, o.id DESC`;

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
  return rows.map(summaryOf);
}

const summaryOf = ({ findings, madeAt, hasMonitor, captures, bytes, ...row }: OverRow): OverSummary => ({
  ...row,
  hasMonitor: booleanOf(hasMonitor),
  captures: Number(captures),
  bytes: bytes === null ? null : Number(bytes),
  madeAt: new Date(madeAt).toISOString(),
  findings: parsed<Finding[]>(findings) ?? [],
});

const PAGE = 500;

/** The whole log, newest first, a page at a time: each goes on where the last one ended, so that the end costs what the beginning does. */
export async function* allOvers(transaction?: Transaction): AsyncGenerator<OverSummary> {
  let last = { madeAt: '9999-12-31 00:00:00.000', id: 0 };
  const sql = lineSql(
    `SELECT o.id FROM overs o FORCE INDEX (newest) WHERE (o.created_at, o.id) < (:madeAt, :id)
       AND o.created_at <= :madeAt ORDER BY o.created_at DESC, o.id DESC LIMIT ${PAGE}`,
  );
  for (;;) {
    const rows = await database().sequelize.query<OverRow>(sql, { type: QueryTypes.SELECT, replacements: last, transaction });
    for (const row of rows) yield summaryOf(row);
    const end = rows.at(-1);
    if (!end || rows.length < PAGE) return;
    last = { madeAt: new Date(end.madeAt).toISOString().replace('T', ' ').replace('Z', ''), id: end.id };
  }
}

/** A page of a log, and how many lines it has in all. */
export interface OverPage {
  readonly overs: readonly OverSummary[];
  readonly total: number;
}

/**
 * A page of the log, and its length.
 * @param pageAt where the page that is asked for begins in a log of that length: the last one stands for those beyond
 */
export async function pageOfOvers(search: string | undefined, limit: number, pageAt: (total: number) => number): Promise<OverPage> {
  if (search === undefined) {
    const total = await countOvers();
    return { total, overs: await listOvers({ limit, offset: pageAt(total) }) };
  }
  const asked = await searchOvers(search, limit, pageAt(Number.MAX_SAFE_INTEGER));
  if (asked.total !== null) return { overs: asked.overs, total: asked.total };
  // Beyond the end, where nothing tells how many there are.
  const total = await countOvers({ search });
  return { total, overs: (await searchOvers(search, limit, pageAt(total))).overs };
}

/** Words may stand anywhere: the log is looked through once, for the page and for the number. */
async function searchOvers(search: string, limit: number, offset: number): Promise<{ overs: OverSummary[]; total: number | null }> {
  const { sequelize } = database();
  const options = { type: QueryTypes.SELECT as const, replacements: { like: likePattern(search), limit, offset } };
  const found = await sequelize.query<{ id: number; total: number }>(
    `SELECT o.id, COUNT(*) OVER () AS total FROM overs o FORCE INDEX (PRIMARY) WHERE ${SEARCHED}
     ORDER BY o.created_at DESC, o.id DESC LIMIT :limit OFFSET :offset`,
    options,
  );
  if (found.length === 0) return { overs: [], total: offset === 0 ? 0 : null };
  const rows = await sequelize.query<OverRow>(lineSql('SELECT id FROM overs WHERE id IN (:ids)'), {
    type: QueryTypes.SELECT,
    replacements: { ids: found.map(({ id }) => id) },
  });
  return { overs: rows.map(summaryOf), total: Number(found[0].total) };
}

/** How many overs a query finds in all. */
export async function countOvers(query: Omit<OverQuery, 'limit' | 'offset'> = {}): Promise<number> {
  const [{ total }] = await database().sequelize.query<{ total: number }>(
    `SELECT COUNT(*) AS total FROM ${overs(query, '')} WHERE ${conditions(query)}`,
    { type: QueryTypes.SELECT, replacements: replacements({ ...query, limit: 0 }) },
  );
  return Number(total);
}

/**
 * The over a card is judged by: the one asked for, else its newest measured one; rather the newest heard off the air
 * than one that was only heard on a tap or the monitor, where the same revision has such.
 */
export async function judgedOver(cardId: number, overId?: number): Promise<OverView | null> {
  if (overId !== undefined) {
    const over = await loadOver(overId);
    if (over?.card.id === cardId) return over;
  }
  const id = (await newestMeasured(cardId, ['voice'])) ?? (await listOvers({ cardId, kind: 'voice', limit: 1 }))[0]?.id;
  const newest = id === undefined ? null : await loadOver(id);
  if (!newest || isOffTheAir(newest.receiver.kind)) return newest;
  const others = await listOvers({ cardId, kind: 'voice', limit: LOOKED_AT });
  const alike = others.filter((each) => each.revision === newest.revision.number && each.status === 'done' && each.id !== newest.id);
  return (await loadOvers(alike.map((each) => each.id))).find(({ receiver }) => isOffTheAir(receiver.kind)) ?? newest;
}

/** So many of a card's newest overs are looked through for one that was heard off the air. */
const LOOKED_AT = 12;

/** The number of a card's newest over that was measured as one of these kinds. */
export async function newestMeasured(cardId: number, kinds: readonly MeasurementKind[]): Promise<number | undefined> {
  const [newest] = await database().sequelize.query<{ id: number }>(
    `SELECT o.id FROM ${overs({ cardId }, '')} JOIN captures k ON k.over_id = o.id AND k.kind IN (:kinds)
     WHERE r.card_id = :cardId AND (SELECT m.status FROM measurements m FORCE INDEX (of_capture) WHERE m.capture_id = k.id ORDER BY m.id DESC LIMIT 1) = 'done'
     ORDER BY o.created_at DESC, o.id DESC LIMIT 1`,
    { type: QueryTypes.SELECT, replacements: { cardId, kinds: [...kinds] } },
  );
  return newest?.id;
}

/** What people note of an over. */
interface OverNote {
  readonly alcReading: number | null;
  readonly note: string;
  readonly hasMonitor?: boolean | null;
}

/**
 * Keeps what was noted of an over.
 * @param base what the change was made from; unchecked when left out
 * @throws Refused when there is no such over, or somebody else was faster
 */
export async function noteOver(id: number, { base, ...values }: OverNote & { readonly base?: Partial<OverNote> }): Promise<void> {
  const { sequelize, models } = database();
  await sequelize.transaction(async (transaction) => {
    const over = await models.overs.findByPk(id, { transaction, lock: true });
    if (!over) throw new Refused('This over does not exist.', 404);
    refuseOvertaken('note', { alcReading: over.alcReading, note: over.note, hasMonitor: booleanOf(over.hasMonitor) }, base);
    await over.update(values, { transaction });
  });
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
