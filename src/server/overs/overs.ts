/** The log: lists of overs, which one a card is judged by, and what is noted of one. */
import { QueryTypes, type Transaction } from 'sequelize';
import type { Finding } from '@/core/findings/index.ts';
import { isOffTheAir, type MeasurementKind } from '@/core/measure/index.ts';
import { database } from '../db/database.ts';
import type { MeasurementStatus } from '../db/models.ts';
import { likePattern } from '../db/search.ts';
import { refuseOvertaken } from '../requests/overtaken.ts';
import { Refused } from '../requests/refused.ts';
import {
  BEST_CAPTURE,
  booleanOf,
  capturesOfOvers,
  loadOver,
  loadOvers,
  NEWEST_MEASUREMENT,
  type OverNotes,
  type OverView,
  parsed,
} from './overView.ts';
import { withRadioFindings } from './radioFindings.ts';

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
  const { overs: page, total } = await pageOf(search, limit, pageAt);
  return { overs: await withRadioFindings(page), total };
}

async function pageOf(search: string | undefined, limit: number, pageAt: (total: number) => number): Promise<OverPage> {
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
