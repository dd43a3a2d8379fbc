/** Air checks: begun with a card, lines appended as they are typed, ended by one revision with its readings and reports. */
import { QueryTypes, type Transaction } from 'sequelize';
import { airCheck, type CheckSide, type CheckStep, linesOf, type ReportPath, saidIn } from '@/core/advice/index.ts';
import { type CardView, loadCard } from '../cards/cards.ts';
import { addRevision } from '../cards/revisions.ts';
import { database } from '../db/database.ts';
import { judgedOver } from '../overs/overs.ts';
import { addReading } from '../readings/readings.ts';
import { addReport } from '../reports/reports.ts';
import { Refused } from '../requests/refused.ts';
import type { RequestOf } from '../requests/requests.ts';

export interface AirCheckSummary {
  readonly id: number;
  readonly startedAt: string;
  readonly endedAt: string | null;
  readonly side: CheckSide;
  readonly station: string;
  readonly path: ReportPath;
  readonly card: { readonly id: number; readonly name: string };
  readonly operator: string;
  /** The revision it began with, and the one that came of it. */
  readonly revision: number;
  readonly endedRevision: number | null;
  readonly lines: number;
}

export interface CheckLineView {
  readonly id: number;
  readonly saidAt: string;
  readonly text: string;
  readonly isUndone: boolean;
  readonly clientKey: string;
}

export interface AirCheckView extends Omit<AirCheckSummary, 'lines' | 'card' | 'operator'> {
  readonly card: CardView;
  /** The card as the check began. */
  readonly base: CardView['revisions'][number];
  readonly lines: readonly CheckLineView[];
}

interface SummaryRow {
  id: number;
  startedAt: Date;
  endedAt: Date | null;
  side: CheckSide;
  station: string;
  path: ReportPath;
  cardId: number;
  card: string;
  operator: string;
  revision: number;
  endedRevision: number | null;
  revisionId: number;
  lineCount: number;
}

const SQL = `SELECT a.id, a.created_at AS startedAt, a.ended_at AS endedAt, a.side, a.station, a.path, c.id AS cardId, c.name AS card, p.name AS operator,
    r.number AS revision, r.id AS revisionId, e.number AS endedRevision,
    (SELECT COUNT(*) FROM air_check_lines l WHERE l.air_check_id = a.id) AS lineCount
  FROM air_checks a JOIN card_revisions r ON r.id = a.card_revision_id JOIN cards c ON c.id = r.card_id JOIN operators p ON p.id = c.operator_id
    LEFT JOIN card_revisions e ON e.id = a.ended_revision_id`;

const summaryOf = ({
  id,
  startedAt,
  endedAt,
  side,
  station,
  path,
  cardId,
  card,
  operator,
  revision,
  endedRevision,
  lineCount,
}: SummaryRow): AirCheckSummary => ({
  id,
  startedAt: new Date(startedAt).toISOString(),
  endedAt: endedAt && new Date(endedAt).toISOString(),
  side,
  station,
  path,
  card: { id: cardId, name: card },
  operator,
  revision,
  endedRevision,
  lines: Number(lineCount),
});

/** The newest air checks first. */
export async function listAirChecks(limit: number): Promise<AirCheckSummary[]> {
  const rows = await database().sequelize.query<SummaryRow>(`${SQL} ORDER BY a.created_at DESC, a.id DESC LIMIT :limit`, {
    type: QueryTypes.SELECT,
    replacements: { limit },
  });
  return rows.map(summaryOf);
}

/** A check with its lines and the card it began with; null when there is none. */
export async function loadAirCheck(id: number, transaction?: Transaction): Promise<AirCheckView | null> {
  const { sequelize, models } = database();
  const [row] = await sequelize.query<SummaryRow>(`${SQL} WHERE a.id = :id`, {
    type: QueryTypes.SELECT,
    replacements: { id },
    transaction,
  });
  if (!row) return null;
  const lines = await models.airCheckLines.findAll({ where: { airCheckId: id }, order: [['id', 'ASC']], transaction });
  const card = await loadCard(row.cardId, { transaction, revisions: 1_000 });
  const base = card?.revisions.find((revision) => revision.id === row.revisionId);
  if (!card || !base) return null;
  const { operator: _, ...summary } = summaryOf(row);
  return {
    ...summary,
    card,
    base,
    lines: lines.map((line) => ({
      id: line.id,
      saidAt: line.createdAt.toISOString(),
      text: line.text,
      isUndone: Boolean(line.isUndone),
      clientKey: line.clientKey,
    })),
  };
}

/** Begins a check with the card as it stands. @returns its number */
export async function startAirCheck({ cardId, station, path }: RequestOf<'airCheck'>): Promise<number> {
  const card = await loadCard(cardId);
  if (!card) throw new Refused('This card does not exist.', 404);
  const { id } = await database().models.airChecks.create({ cardRevisionId: card.revisions[0].id, station: station.trim(), path });
  return id;
}

async function openCheck(id: number, transaction?: Transaction) {
  const check = await database().models.airChecks.findByPk(id, { transaction, ...(transaction && { lock: transaction.LOCK.UPDATE }) });
  if (!check) throw new Refused('This air check does not exist.', 404);
  if (check.endedAt) throw new Refused('This air check has ended. The line was not added.', 409);
  return check;
}

/** Appends a line; the same line sent again, after a broken connection, is kept once. */
export async function addCheckLine({ airCheckId, text, clientKey }: RequestOf<'checkLine'>): Promise<void> {
  const { sequelize, models } = database();
  await sequelize.transaction(async (transaction) => {
    await openCheck(airCheckId, transaction);
    const known = clientKey === '' ? null : await models.airCheckLines.findOne({ where: { airCheckId, clientKey }, transaction });
    if (known) return;
    await models.airCheckLines.create({ airCheckId, text, clientKey }, { transaction });
    await followGuest(airCheckId, transaction);
  });
}

/**
 * Where the other's dials stand is a revision of the guest's card at once, so that a recording made now hangs on what
 * it was made with. The own card waits for the end of its check.
 */
async function followGuest(airCheckId: number, transaction: Transaction): Promise<void> {
  const view = await loadAirCheck(airCheckId, transaction);
  if (view?.side !== 'checking') return;
  const { card, base, lines, station } = view;
  const [newest] = card.revisions;
  const { card: told } = airCheck(card.rig.profile, { mode: card.mode, values: base.values, use: base.use }, lines);
  const values = Object.fromEntries(Object.entries(told.values).filter(([id, value]) => newest.values[id] !== value));
  if (Object.keys(values).length === 0) return;
  const over = await judgedOver(card.id);
  const change = { cardId: card.id, baseRevisionId: newest.id, values, reason: 'as told on the air', by: station };
  await addRevision({ ...change, ...(over?.measured && { overId: over.id }) }, transaction);
}

/** Takes a line back, or puts it in again. */
export async function undoCheckLine({ airCheckId, lineId, isUndone }: RequestOf<'checkUndo'>): Promise<void> {
  const { sequelize, models } = database();
  await sequelize.transaction(async (transaction) => {
    await openCheck(airCheckId, transaction);
    const line = await models.airCheckLines.findOne({ where: { id: lineId, airCheckId }, transaction });
    if (!line) throw new Refused('This line does not exist.', 404);
    await line.update({ isUndone }, { transaction });
    await followGuest(airCheckId, transaction);
  });
}

/**
 * Ends a check: the moved dials as one revision; readings and remarks of before the first move with the card as it
 * was, those after the last with the card as it is now.
 * @returns the revision's number; null where no dial moved
 * @throws Refused when the card was changed elsewhere meanwhile: the check goes on
 */
export async function endAirCheck(airCheckId: number, by: string | undefined): Promise<number | null> {
  return database().sequelize.transaction(async (transaction) => {
    const row = await openCheck(airCheckId, transaction);
    const view = await loadAirCheck(airCheckId, transaction);
    if (!view) throw new Refused('This air check does not exist.', 404);
    const { card, base, lines, path } = view;
    const isGuest = view.side === 'checking';
    // What is said of a guest is said by this station.
    const station = isGuest ? by || 'this station' : view.station;
    const check = airCheck(card.rig.profile, { mode: card.mode, values: base.values, use: base.use }, lines);
    const isMoved = check.changed.length > 0;
    if (isMoved && !isGuest) await addRevision(revisionOf(view, check.changed, by), transaction);
    const now = await loadCard(card.id, { transaction });
    const number = isMoved && now ? now.revisions[0].number : null;
    const { before, after } = linesOf(check);
    await keepSteps(before, { cardRevisionId: base.id, station, path }, transaction);
    if (now) await keepSteps(after, { cardRevisionId: now.revisions[0].id, station, path }, transaction);
    await row.update({ endedAt: new Date(), endedRevisionId: number === null ? null : (now?.revisions[0].id ?? null) }, { transaction });
    return number;
  });
}

function revisionOf({ card, base, station }: AirCheckView, changed: ReturnType<typeof airCheck>['changed'], by: string | undefined) {
  const reason = `air check with ${station}`;
  return {
    cardId: card.id,
    baseRevisionId: base.id,
    values: Object.fromEntries(changed.map(({ dial, to }) => [dial.id, to])),
    reason,
    why: Object.fromEntries(changed.map(({ dial }) => [dial.id, reason])),
    ...(by === undefined ? {} : { by }),
  };
}

interface KeptAs {
  readonly cardRevisionId: number;
  readonly station: string;
  readonly path: ReportPath;
}

async function keepSteps(steps: readonly CheckStep[], { cardRevisionId, station, path }: KeptAs, transaction: Transaction): Promise<void> {
  for (const { line, kind, reading } of steps) {
    if (reading) {
      const { alc = null, compressionDb = null, powerW = null, swr = null, adjacentDb = null } = reading;
      await addReading({ cardRevisionId, said: saidIn(line.text), alc, compressionDb, powerW, swr, adjacentDb }, transaction);
    }
    if (kind === 'remark') await addReport({ cardRevisionId, station, place: '', receiver: '', path, text: line.text }, transaction);
  }
}
