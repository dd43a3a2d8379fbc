/** What lists show of a measurement stands in columns of its own; indexes for what lists sort and join by. */
import { QueryTypes, type Sequelize } from 'sequelize';
import type { Measurement } from '@/core/measure/index.ts';
import { listColumns } from '../listColumns.ts';

const AT_ONCE = 200;

/** Every step may be run again: a server that dies half-way goes on from there. */
export async function up({ context }: { context: Sequelize }): Promise<void> {
  await context.query(
    `ALTER TABLE measurements ADD COLUMN IF NOT EXISTS headline VARCHAR(200) NULL, ADD COLUMN IF NOT EXISTS duration_s DOUBLE NULL,
       ADD COLUMN IF NOT EXISTS findings LONGTEXT NULL CHECK (JSON_VALID(findings)), ADD INDEX IF NOT EXISTS of_capture (capture_id, id)`,
  );
  await context.query('ALTER TABLE captures ADD INDEX IF NOT EXISTS of_over (over_id, id, kind)');
  await context.query('ALTER TABLE cards ADD INDEX IF NOT EXISTS of_operator (operator_id, changed_at, id)');
  await context.query('ALTER TABLE overs ADD INDEX IF NOT EXISTS of_revision (card_revision_id, created_at, id)');
  for (;;) {
    const rows = await context.query<{ id: number; result: string }>(
      `SELECT id, result FROM measurements WHERE result IS NOT NULL AND findings IS NULL ORDER BY id LIMIT ${AT_ONCE}`,
      { type: QueryTypes.SELECT },
    );
    for (const { id, result } of rows) {
      const { headline, durationS, findings } = listColumns(JSON.parse(result) as Measurement);
      await context.query('UPDATE measurements SET headline = :headline, duration_s = :durationS, findings = :findings WHERE id = :id', {
        replacements: { id, headline, durationS, findings: JSON.stringify(findings) },
      });
    }
    if (rows.length < AT_ONCE) return;
  }
}
