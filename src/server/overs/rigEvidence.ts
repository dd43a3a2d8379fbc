/** What was recorded of one radio by wide receivers, newest first: what its signal is judged by. */
import { QueryTypes } from 'sequelize';
import { RADIO_KINDS } from '@/core/measure/index.ts';
import { database } from '../db/database.ts';
import { loadCaptures, NEWEST_MEASUREMENT, type OverView } from './overView.ts';

/** So many of each kind: one that cannot be trusted is made up for by the one before. */
const OF_EACH = 2;

/** The newest measured I/Q recordings of a radio, of each kind; of the radio itself, or of one of its practice radios. */
export async function newestRadios(rigId: number, practiceRadio: number | null): Promise<OverView[]> {
  const rows = await database().sequelize.query<{ id: number }>(
    `SELECT id FROM (SELECT k.id, o.created_at, ROW_NUMBER() OVER (PARTITION BY k.kind ORDER BY o.created_at DESC, k.id DESC) AS place
       FROM cards c STRAIGHT_JOIN card_revisions r ON r.card_id = c.id STRAIGHT_JOIN overs o ON o.card_revision_id = r.id
       STRAIGHT_JOIN captures k ON k.over_id = o.id STRAIGHT_JOIN measurements m ON m.id = ${NEWEST_MEASUREMENT}
       WHERE c.rig_id = :rigId AND c.practice_radio <=> :practiceRadio AND k.kind IN (:kinds) AND m.status = 'done') each_kind
     WHERE place <= ${OF_EACH} ORDER BY created_at DESC, id DESC`,
    { type: QueryTypes.SELECT, replacements: { rigId, practiceRadio, kinds: [...RADIO_KINDS] } },
  );
  return loadCaptures(rows.map(({ id }) => id));
}
