/** What level and compression a card is to reach. */
import { QueryTypes } from 'sequelize';
import type { SchoolWish } from '@/core/advice/index.ts';
import { type TuneRun, usualSchool, wishOf } from '@/core/tune/index.ts';
import type { CardView } from '../cards/cards.ts';
import { database } from '../db/database.ts';

/** What is to be reached with a card. */
export interface CardSchool {
  readonly wish: SchoolWish;
  /** By its operator in a run; otherwise the ALC is to stand where the radio's scale is marked. */
  readonly isChosen: boolean;
}

/** As in the card's newest run. */
export async function schoolOfCard({ id, rig: { profile } }: Pick<CardView, 'id' | 'rig'>): Promise<CardSchool> {
  const [row] = await database().sequelize.query<{ state: string }>(
    `SELECT t.state FROM tune_runs t JOIN card_revisions r ON r.id = t.card_revision_id WHERE r.card_id = :cardId
     ORDER BY t.created_at DESC, t.id DESC LIMIT 1`,
    { type: QueryTypes.SELECT, replacements: { cardId: id } },
  );
  const school = row ? (JSON.parse(row.state) as TuneRun) : usualSchool(profile, 'practice');
  return { wish: wishOf(school, profile), isChosen: row !== undefined };
}
