/** Captures of every kind, told what they are and how to measure them; a station's own limits. */
import type { Sequelize } from 'sequelize';

/** Every step may be run again: a server that dies half-way goes on from there. */
export async function up({ context }: { context: Sequelize }): Promise<void> {
  await context.query(
    `ALTER TABLE captures ADD COLUMN IF NOT EXISTS kind VARCHAR(12) NOT NULL DEFAULT 'voice',
       ADD COLUMN IF NOT EXISTS settings TEXT NOT NULL DEFAULT '{}' CHECK (JSON_VALID(settings)), ADD INDEX IF NOT EXISTS of_kind (over_id, kind)`,
  );
  await context.query(
    `CREATE TABLE IF NOT EXISTS limits (name VARCHAR(40) NOT NULL PRIMARY KEY, watch DOUBLE NULL, fault DOUBLE NULL)
       ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci`,
  );
}
