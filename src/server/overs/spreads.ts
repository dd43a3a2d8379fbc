/** How steadily an operator talks, with and without hearing himself. */
import { QueryTypes } from 'sequelize';
import type { SpreadOver } from '@/core/advice/index.ts';
import { database } from '../db/database.ts';

/** The newest that are looked at. */
const MOST = 40;

const SQL = `SELECT o.has_monitor AS hasMonitor, (SELECT JSON_VALUE(m.result, '$.levelSpreadDb') FROM captures k JOIN measurements m ON m.capture_id = k.id
    WHERE k.over_id = o.id AND k.kind = 'voice' AND m.status = 'done' ORDER BY k.id, m.id DESC LIMIT 1) AS levelSpreadDb
  FROM overs o JOIN card_revisions r ON r.id = o.card_revision_id JOIN cards c ON c.id = r.card_id
  WHERE c.operator_id = :operatorId AND c.practice_radio IS NULL AND o.has_monitor IS NOT NULL ORDER BY o.created_at DESC LIMIT ${MOST}`;

/** An operator's overs of which it was noted whether he heard himself. */
export async function spreadsOf(operatorId: number): Promise<SpreadOver[]> {
  const rows = await database().sequelize.query<{ hasMonitor: number; levelSpreadDb: string | null }>(SQL, {
    type: QueryTypes.SELECT,
    replacements: { operatorId },
  });
  return rows.map(({ hasMonitor, levelSpreadDb }) => ({
    hasMonitor: Boolean(hasMonitor),
    levelSpreadDb: levelSpreadDb === null ? null : Number(levelSpreadDb),
  }));
}
