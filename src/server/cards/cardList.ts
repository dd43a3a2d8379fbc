/** Lists of cards: a page at a time, searched and sorted by the database. */
import { QueryTypes } from 'sequelize';
import {
  type Card,
  effective,
  fullScale,
  type Mistake,
  type Mode,
  mistakesOn,
  nameOf,
  type Purpose,
  type RigProfile,
  valueText,
} from '@/core/rig/index.ts';
import { database } from '../db/database.ts';
import { likePattern } from '../db/search.ts';

/** What lists and pickers need to know of a card. */
export interface CardSummary {
  readonly id: number;
  readonly name: string;
  readonly mode: Mode;
  readonly purpose: Purpose;
  readonly operator: string;
  readonly rig: string;
  readonly rigId: number;
  readonly revision: number;
  readonly revisionId: number;
  readonly changedAt: string;
  readonly isRetired: boolean;
  /** Number of the practice radio that it is for; null on cards of real radios. */
  readonly practiceRadio: number | null;
  /** What is possibly overlooked on it, a few words each. */
  readonly mistakes: readonly Mistake['code'][];
  /** What the end of the rig's ALC meter is marked. */
  readonly alcFull: number;
  /** Switches of equalizer and processor as it has them, for checklists. */
  readonly switches: readonly { readonly label: string; readonly value: string }[];
}

export interface CardQuery {
  /** Words in the card's, operator's or rig's name. */
  readonly search?: string;
  readonly id?: number;
  readonly operatorId?: number;
  readonly rigId?: number;
  readonly withRetired?: boolean;
  readonly limit: number;
  readonly offset?: number;
}

interface CardRow extends Omit<CardSummary, 'changedAt' | 'isRetired' | 'mistakes' | 'switches' | 'alcFull'> {
  changedAt: Date;
  retiredAt: Date | null;
  dialValues: string;
}

const conditions = ({ id, search, operatorId, rigId, withRetired }: CardQuery): string =>
  [
    withRetired ? 'TRUE' : 'c.retired_at IS NULL',
    id === undefined ? '' : 'c.id = :id',
    operatorId === undefined ? '' : 'c.operator_id = :operatorId',
    rigId === undefined ? '' : 'c.rig_id = :rigId',
    search ? '(c.name LIKE :like OR p.name LIKE :like OR p.callsign LIKE :like OR g.name LIKE :like)' : '',
  ]
    .filter((each) => each !== '')
    .join(' AND ');

const replacements = ({ id, search, operatorId, rigId, limit, offset = 0 }: CardQuery) => ({
  id,
  like: likePattern(search ?? ''),
  operatorId,
  rigId,
  limit,
  offset,
});

/** The page's rows are picked by the index first; values are fetched for those only. */
export const cardListSql = (query: CardQuery): string =>
  `SELECT c.id, c.name, c.mode, c.purpose, c.changed_at AS changedAt, c.retired_at AS retiredAt, c.rig_id AS rigId, c.practice_radio AS practiceRadio,
     p.name AS operator, g.name AS rig, r.number AS revision, r.id AS revisionId, r.dial_values AS dialValues
   FROM (SELECT c.id FROM cards c FORCE INDEX (changed) STRAIGHT_JOIN operators p ON p.id = c.operator_id STRAIGHT_JOIN rigs g ON g.id = c.rig_id
         WHERE ${conditions(query)} ORDER BY c.changed_at DESC, c.id DESC LIMIT :limit OFFSET :offset) page
   STRAIGHT_JOIN cards c ON c.id = page.id JOIN operators p ON p.id = c.operator_id JOIN rigs g ON g.id = c.rig_id
   JOIN card_revisions r ON r.card_id = c.id AND r.number = (SELECT MAX(x.number) FROM card_revisions x FORCE INDEX (card_id) WHERE x.card_id = c.id)
   ORDER BY c.changed_at DESC, c.id DESC`;

/** Cards that a picker offers. */
export const CARDS_FOUND = 12;

/** Cards, the one changed last first. */
export async function listCards(query: CardQuery): Promise<CardSummary[]> {
  const rows = await database().sequelize.query<CardRow>(cardListSql(query), {
    type: QueryTypes.SELECT,
    replacements: replacements(query),
  });
  // Rows of one rig share its profile.
  const rigs = await database().models.rigs.findAll({ where: { id: [...new Set(rows.map(({ rigId }) => rigId))] } });
  const profiles = new Map(rigs.map(({ id, profile }) => [id, profile]));
  return rows.flatMap(({ dialValues, changedAt, retiredAt, ...row }) => {
    const rig = profiles.get(row.rigId);
    if (!rig) return [];
    const card = { mode: row.mode, values: JSON.parse(dialValues) };
    const summary: CardSummary = {
      ...row,
      changedAt: new Date(changedAt).toISOString(),
      isRetired: retiredAt !== null,
      mistakes: mistakesOn(rig, card).map(({ code }) => code),
      alcFull: fullScale(rig.alc),
      switches: switchesOf(rig, card),
    };
    return [summary];
  });
}

function switchesOf(rig: RigProfile, card: Card): CardSummary['switches'] {
  const { dials } = effective(rig, card);
  return dials
    .filter(({ dial, dead }) => !dead && ['equalizer', 'compressor'].includes(dial.stage) && dial.scale.kind === 'options')
    .map(({ dial, value }) => ({ label: nameOf(dial), value: valueText(dial, value) }));
}

/** How many cards a query finds in all. */
export async function countCards(query: Omit<CardQuery, 'limit' | 'offset'>): Promise<number> {
  const [{ total }] = await database().sequelize.query<{ total: number }>(
    `SELECT COUNT(*) AS total FROM cards c JOIN operators p ON p.id = c.operator_id JOIN rigs g ON g.id = c.rig_id
     WHERE ${conditions({ ...query, limit: 0 })}`,
    { type: QueryTypes.SELECT, replacements: replacements({ ...query, limit: 0 }) },
  );
  return Number(total);
}

/** An operator's card that was changed last on each rig: rig id to card id. */
export async function lastCards(operatorId: number): Promise<Map<number, number>> {
  const rows = await database().sequelize.query<{ rigId: number; cardId: number }>(
    `SELECT g.id AS rigId, (SELECT c.id FROM cards c WHERE c.operator_id = :operatorId AND c.rig_id = g.id AND c.retired_at IS NULL
       ORDER BY c.changed_at DESC, c.id DESC LIMIT 1) AS cardId FROM rigs g`,
    { type: QueryTypes.SELECT, replacements: { operatorId } },
  );
  return new Map(rows.filter(({ cardId }) => cardId !== null).map(({ rigId, cardId }) => [rigId, cardId]));
}

/** A way from one card to another: to the card changed last of those that share everything before it. */
export interface Neighbour {
  readonly text: string;
  readonly cardId: number;
}

/** What the Bench's sentence leads to: other operators, this operator's rigs, the modes on this rig. */
export async function neighboursOf(card: {
  operatorId: number;
  rigId: number;
}): Promise<Record<'operators' | 'rigs' | 'modes', Neighbour[]>> {
  const newest = (by: string, name: string, where: string) =>
    database().sequelize.query<Neighbour>(
      `SELECT ${name} AS text, CAST(SUBSTRING_INDEX(GROUP_CONCAT(c.id ORDER BY c.changed_at DESC, c.id DESC), ',', 1) AS UNSIGNED) AS cardId
       FROM cards c JOIN operators p ON p.id = c.operator_id JOIN rigs g ON g.id = c.rig_id
       WHERE c.retired_at IS NULL AND ${where} GROUP BY ${by} ORDER BY MIN(c.id)`,
      { type: QueryTypes.SELECT, replacements: card },
    );
  const [operators, rigs, modes] = await Promise.all([
    newest('p.id, p.name', 'p.name', 'TRUE'),
    newest('g.id, g.name', 'g.name', 'c.operator_id = :operatorId'),
    newest('c.mode', 'c.mode', 'c.operator_id = :operatorId AND c.rig_id = :rigId'),
  ]);
  const plain = (rows: Neighbour[]) => rows.map(({ text, cardId }) => ({ text, cardId: Number(cardId) }));
  return { operators: plain(operators), rigs: plain(rigs), modes: plain(modes) };
}
