/** What other stations said of cards and overs: kept as it was said, with the remarks that core reads in it. */
import { QueryTypes, type Transaction } from 'sequelize';
import type { ReportPath } from '@/core/advice/index.ts';
import { type Remark, readReport, type SignalReport } from '@/core/language/index.ts';
import { database } from '../db/database.ts';
import { likePattern } from '../db/search.ts';
import { Refused } from '../requests/refused.ts';
import type { RequestOf } from '../requests/requests.ts';

export interface ReportView {
  readonly id: number;
  readonly madeAt: string;
  readonly card: { readonly id: number; readonly name: string };
  readonly revision: number;
  readonly revisionId: number;
  readonly operator: { readonly id: number; readonly name: string; readonly callsign: string };
  readonly mode: string;
  readonly overId: number | null;
  readonly station: string;
  readonly place: string;
  readonly receiver: string;
  readonly path: ReportPath;
  readonly signal: SignalReport;
  readonly text: string;
  readonly remarks: readonly Remark[];
}

export interface ReportQuery {
  readonly cardId?: number;
  readonly overId?: number;
  readonly operatorId?: number;
  /** Words of the text, the station, or the card's or operator's name. */
  readonly search?: string;
  /** Without those of practice radios. */
  readonly isReal?: boolean;
  readonly limit: number;
  readonly offset?: number;
}

interface ReportRow {
  id: number;
  madeAt: Date;
  cardId: number;
  card: string;
  revision: number;
  revisionId: number;
  operatorId: number;
  operator: string;
  callsign: string;
  mode: string;
  overId: number | null;
  station: string;
  place: string;
  receiver: string;
  path: ReportPath;
  readability: number | null;
  strength: number | null;
  overS9Db: number | null;
  text: string;
}

const FROM = `FROM reports s JOIN card_revisions r ON r.id = s.card_revision_id JOIN cards c ON c.id = r.card_id
  JOIN operators p ON p.id = c.operator_id`;

const where = ({ cardId, overId, operatorId, search, isReal }: Omit<ReportQuery, 'limit'>): string =>
  [
    cardId === undefined ? '' : 'c.id = :cardId',
    overId === undefined ? '' : 's.over_id = :overId',
    operatorId === undefined ? '' : 'p.id = :operatorId',
    isReal ? 'c.practice_radio IS NULL' : '',
    search ? '(s.text LIKE :like OR s.station LIKE :like OR c.name LIKE :like OR p.name LIKE :like)' : '',
  ]
    .filter((each) => each !== '')
    .join(' AND ') || 'TRUE';

const replacementsOf = ({ search, limit, offset = 0, ...ids }: ReportQuery) => ({ ...ids, like: likePattern(search ?? ''), limit, offset });

/** The newest reports first, each with its remarks. */
export async function listReports(query: ReportQuery, transaction?: Transaction): Promise<ReportView[]> {
  const { sequelize, models } = database();
  const rows = await sequelize.query<ReportRow>(
    `SELECT s.id, s.created_at AS madeAt, c.id AS cardId, c.name AS card, r.number AS revision, r.id AS revisionId, p.id AS operatorId, p.name AS operator,
       p.callsign, c.mode, s.over_id AS overId, s.station, s.place, s.receiver, s.path, s.readability, s.strength,
       s.over_s9_db AS overS9Db, s.text ${FROM} WHERE ${where(query)} ORDER BY s.created_at DESC, s.id DESC LIMIT :limit OFFSET :offset`,
    { type: QueryTypes.SELECT, replacements: replacementsOf(query), transaction },
  );
  if (rows.length === 0) return [];
  const remarks = await models.remarks.findAll({ where: { reportId: rows.map(({ id }) => id) }, order: [['id', 'ASC']], transaction });
  return rows.map((row) =>
    viewOf(
      row,
      remarks.filter(({ reportId }) => reportId === row.id),
    ),
  );
}

const viewOf = (row: ReportRow, remarks: readonly Remark[]): ReportView => ({
  id: row.id,
  madeAt: new Date(row.madeAt).toISOString(),
  card: { id: row.cardId, name: row.card },
  revision: row.revision,
  revisionId: row.revisionId,
  operator: { id: row.operatorId, name: row.operator, callsign: row.callsign },
  mode: row.mode,
  overId: row.overId,
  station: row.station,
  place: row.place,
  receiver: row.receiver,
  path: row.path,
  signal: { readability: row.readability, strength: row.strength, overS9Db: row.overS9Db },
  text: row.text,
  remarks: remarks.map(({ code, sense, degree, about, text }) => ({ code, sense, degree, about, text })),
});

export async function countReports(query: Omit<ReportQuery, 'limit'>): Promise<number> {
  const [row] = await database().sequelize.query<{ count: number }>(`SELECT COUNT(*) AS count ${FROM} WHERE ${where(query)}`, {
    type: QueryTypes.SELECT,
    replacements: replacementsOf({ ...query, limit: 0 }),
  });
  return Number(row.count);
}

/** A report that came from elsewhere has a time of its own. */
type NewReport = Omit<RequestOf<'report'>, 'madeAt'> & { readonly at?: Date };

/**
 * Keeps a report as it was said, and the remarks in it.
 * @returns its number
 * @throws Refused when the revision or the over is not there
 */
export async function addReport({ at, overId = null, ...report }: NewReport, within?: Transaction): Promise<number> {
  const { sequelize, models } = database();
  if (!(await models.cardRevisions.findByPk(report.cardRevisionId, { transaction: within })))
    throw new Refused('This card does not exist any more. Nothing was saved.', 404);
  const over = overId === null ? null : await models.overs.findByPk(overId, { transaction: within });
  if (overId !== null && over?.cardRevisionId !== report.cardRevisionId)
    throw new Refused('This over was not made with this card. Nothing was saved.', 422);
  const { signal, remarks } = readReport(report.text);
  const { readability = null, strength = null, overS9Db = null } = signal ?? {};
  const keep = async (transaction: Transaction): Promise<number> => {
    const { id } = await models.reports.create(
      { ...report, overId, readability, strength, overS9Db, ...(at && { createdAt: at }) },
      { transaction },
    );
    await models.remarks.bulkCreate(
      remarks.map((remark) => ({ reportId: id, ...remark, text: remark.text.slice(0, 300) })),
      { transaction },
    );
    return id;
  };
  return within ? keep(within) : sequelize.transaction(keep);
}

/** Takes a report back, with its remarks. @throws Refused when it is gone already */
export async function deleteReport(id: number): Promise<void> {
  const gone = await database().models.reports.destroy({ where: { id } });
  if (gone === 0) throw new Refused('This report is gone already.', 404);
}
