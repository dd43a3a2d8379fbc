/** Tune runs: begun with a card, one act after another, gone on with another day. */
import { QueryTypes } from 'sequelize';
import type { Mode } from '@/core/rig/index.ts';
import { afterAct, beginRun, isOver, type TuneAct, type TuneRun, type TuneSchool, type TuneStepKey } from '@/core/tune/index.ts';
import { loadCard } from '../cards/cards.ts';
import { database } from '../db/database.ts';
import { practiceCard } from '../practice/practiceCards.ts';
import { Refused } from '../requests/refused.ts';
import type { RequestOf } from '../requests/requests.ts';

export interface TuneRunSummary {
  readonly id: number;
  readonly startedAt: string;
  readonly changedAt: string;
  readonly endedAt: string | null;
  readonly run: TuneRun;
  readonly card: { readonly id: number; readonly name: string; readonly practiceRadio: number | null };
  readonly mode: Mode;
  readonly operator: string;
  readonly rig: string;
  /** The revision that it began with. */
  readonly revision: number;
  /** Overs made with the card since then. */
  readonly overs: number;
}

interface RunRow {
  id: number;
  startedAt: Date;
  changedAt: Date;
  endedAt: Date | null;
  state: string;
  cardId: number;
  card: string;
  practiceRadio: number | null;
  mode: Mode;
  operator: string;
  rig: string;
  revision: number;
  overs: number;
}

const SQL = `SELECT t.id, t.created_at AS startedAt, t.changed_at AS changedAt, t.ended_at AS endedAt, t.state, c.id AS cardId, c.name AS card,
    c.practice_radio AS practiceRadio, c.mode, p.name AS operator, g.name AS rig, r.number AS revision,
    (SELECT COUNT(*) FROM card_revisions x FORCE INDEX (card_id) JOIN overs o ON o.card_revision_id = x.id
       WHERE x.card_id = c.id AND o.created_at >= t.created_at) AS overs
  FROM tune_runs t JOIN card_revisions r ON r.id = t.card_revision_id JOIN cards c ON c.id = r.card_id
    JOIN operators p ON p.id = c.operator_id JOIN rigs g ON g.id = c.rig_id`;

const summaryOf = ({ id, startedAt, changedAt, endedAt, state, cardId, card, practiceRadio, overs, ...row }: RunRow): TuneRunSummary => ({
  ...row,
  id,
  startedAt: new Date(startedAt).toISOString(),
  changedAt: new Date(changedAt).toISOString(),
  endedAt: endedAt && new Date(endedAt).toISOString(),
  run: JSON.parse(state),
  card: { id: cardId, name: card, practiceRadio },
  overs: Number(overs),
});

/** The newest runs first. */
export async function listTuneRuns(limit: number): Promise<TuneRunSummary[]> {
  const rows = await database().sequelize.query<RunRow>(`${SQL} ORDER BY t.created_at DESC, t.id DESC LIMIT :limit`, {
    type: QueryTypes.SELECT,
    replacements: { limit },
  });
  return rows.map(summaryOf);
}

/** One run; null when there is none of that number. */
export async function loadTuneRun(id: number): Promise<TuneRunSummary | null> {
  const [row] = await database().sequelize.query<RunRow>(`${SQL} WHERE t.id = :id`, { type: QueryTypes.SELECT, replacements: { id } });
  return row ? summaryOf(row) : null;
}

/** How an operator tuned last; null where there was no run yet. */
export async function lastSchool(operatorId: number): Promise<TuneSchool | null> {
  const [row] = await database().sequelize.query<{ state: string }>(
    `SELECT t.state FROM tune_runs t JOIN card_revisions r ON r.id = t.card_revision_id JOIN cards c ON c.id = r.card_id
     WHERE c.operator_id = :operatorId ORDER BY t.created_at DESC, t.id DESC LIMIT 1`,
    { type: QueryTypes.SELECT, replacements: { operatorId } },
  );
  if (!row) return null;
  const { alc, compression, order, ears } = JSON.parse(row.state) as TuneRun;
  return { alc, compression, order, ears };
}

/** Begins a run. With a practice radio it runs over that radio's own card. @returns its number */
export async function startTuneRun({ cardId, radio, ...school }: RequestOf<'tuneStart'>): Promise<number> {
  if ((school.ears === 'practice') !== (radio !== null)) throw new Refused('A practice run needs the number of a practice radio.');
  const card = await loadCard(radio === null ? cardId : await practiceCard(cardId, radio));
  if (!card) throw new Refused('There is no such card.', 404);
  if (radio === null && card.practiceRadio !== null) throw new Refused('This card is of a practice radio: choose the practice radio.');
  const { id } = await database().models.tuneRuns.create({ cardRevisionId: card.revisions[0].id, state: beginRun(school) });
  return id;
}

/** Does something with a run, as the newest of it has it: a second tab loses nothing. */
export async function actInTuneRun({ tuneRunId, ...asked }: RequestOf<'tuneAct'>): Promise<void> {
  const { sequelize, models } = database();
  const act = actOf(asked);
  await sequelize.transaction(async (transaction) => {
    const row = await models.tuneRuns.findByPk(tuneRunId, { transaction, lock: true });
    if (!row) throw new Refused('There is no such run.', 404);
    const state = afterAct(row.state, act);
    await row.update({ state, changedAt: new Date(), endedAt: isOver(state) ? (row.endedAt ?? new Date()) : null }, { transaction });
  });
}

function actOf({ kind, step, task }: Omit<RequestOf<'tuneAct'>, 'tuneRunId'>): TuneAct {
  if (kind === 'tick' || kind === 'untick') {
    if (task === undefined) throw new Refused('Which one to tick off?');
    return { kind, id: task };
  }
  if (step === undefined) throw new Refused('Which step?');
  return { kind, step: step as TuneStepKey };
}
