/** Air checks: what was said, line by line, and the revision that came of it. */
import type { Sequelize } from 'sequelize';

const TABLES = [
  `air_checks (id INT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY, card_revision_id INT UNSIGNED NOT NULL,
    ended_revision_id INT UNSIGNED NULL, station VARCHAR(60) NOT NULL, path VARCHAR(12) NOT NULL, ended_at DATETIME(3) NULL,
    created_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
    FOREIGN KEY (card_revision_id) REFERENCES card_revisions (id), FOREIGN KEY (ended_revision_id) REFERENCES card_revisions (id),
    INDEX newest (created_at, id))`,
  `air_check_lines (id INT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY, air_check_id INT UNSIGNED NOT NULL, text TEXT NOT NULL,
    is_undone TINYINT(1) NOT NULL DEFAULT 0, client_key VARCHAR(40) NOT NULL DEFAULT '', created_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
    FOREIGN KEY (air_check_id) REFERENCES air_checks (id), INDEX of_check (air_check_id, id), INDEX of_key (air_check_id, client_key))`,
];

/** Every step may be run again: a server that dies half-way goes on from there. */
export async function up({ context }: { context: Sequelize }): Promise<void> {
  for (const table of TABLES) {
    await context.query(`CREATE TABLE IF NOT EXISTS ${table} ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci`);
  }
}
