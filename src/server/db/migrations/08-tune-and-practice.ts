/**
 * Tune runs; cards of practice radios: what is simulated is marked on the card that it hangs on; and what was set aside by
 * "Not this".
 */
import type { Sequelize } from 'sequelize';

const CHANGES = [
  'ALTER TABLE cards ADD COLUMN IF NOT EXISTS practice_radio TINYINT UNSIGNED NULL',
  'ALTER TABLE cards ADD COLUMN IF NOT EXISTS set_aside TEXT NULL',
  'ALTER TABLE cards ADD COLUMN IF NOT EXISTS practice_of INT UNSIGNED NULL',
  'ALTER TABLE cards ADD CONSTRAINT cards_practice_of FOREIGN KEY IF NOT EXISTS (practice_of) REFERENCES cards (id) ON DELETE SET NULL',
  `CREATE TABLE IF NOT EXISTS tune_runs (id INT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY, card_revision_id INT UNSIGNED NOT NULL,
    state TEXT NOT NULL, ended_at DATETIME(3) NULL, changed_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
    created_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
    FOREIGN KEY (card_revision_id) REFERENCES card_revisions (id), INDEX newest (created_at, id))
    ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci`,
];

/** Every step may be run again: a server that dies half-way goes on from there. */
export async function up({ context }: { context: Sequelize }): Promise<void> {
  for (const change of CHANGES) await context.query(change);
}
