/** Several captures of one over, each on its receiver; what the operator heard of himself; which end of an air check this is. */
import type { Sequelize } from 'sequelize';

const CHANGES = [
  // Null: heard on the over's own receiver, as every capture of before.
  'ALTER TABLE captures ADD COLUMN IF NOT EXISTS receiver_id INT UNSIGNED NULL',
  'ALTER TABLE captures ADD CONSTRAINT captures_receiver FOREIGN KEY IF NOT EXISTS (receiver_id) REFERENCES receivers (id)',
  'ALTER TABLE overs ADD COLUMN IF NOT EXISTS has_monitor TINYINT(1) NULL',
  "ALTER TABLE air_checks ADD COLUMN IF NOT EXISTS side VARCHAR(10) NOT NULL DEFAULT 'checked'",
];

/** Every step may be run again: a server that dies half-way goes on from there. */
export async function up({ context }: { context: Sequelize }): Promise<void> {
  for (const change of CHANGES) await context.query(change);
}
