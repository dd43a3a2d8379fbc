/** Meter readings of a card revision, with or without a recording; what other stations said, and the remarks in it. */
import type { Sequelize } from 'sequelize';

const OF_REVISION = `card_revision_id INT UNSIGNED NOT NULL, over_id INT UNSIGNED NULL,
    created_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
    FOREIGN KEY (card_revision_id) REFERENCES card_revisions (id), FOREIGN KEY (over_id) REFERENCES overs (id) ON DELETE SET NULL`;

const TABLES = [
  `readings (id INT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY, ${OF_REVISION}, said VARCHAR(12) NOT NULL DEFAULT 'talk',
    alc DOUBLE NULL, compression_db DOUBLE NULL, power_w DOUBLE NULL, swr DOUBLE NULL,
    INDEX of_revision (card_revision_id, created_at, id))`,
  `reports (id INT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY, ${OF_REVISION}, station VARCHAR(60) NOT NULL,
    place VARCHAR(120) NOT NULL DEFAULT '', receiver VARCHAR(200) NOT NULL DEFAULT '', path VARCHAR(12) NOT NULL,
    readability INT UNSIGNED NULL, strength INT UNSIGNED NULL, over_s9_db DOUBLE NULL, text TEXT NOT NULL,
    INDEX newest (created_at, id), INDEX of_revision (card_revision_id, created_at, id), INDEX of_over (over_id, id))`,
  `remarks (id INT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY, report_id INT UNSIGNED NOT NULL, code VARCHAR(24) NOT NULL,
    sense VARCHAR(8) NOT NULL, degree VARCHAR(8) NOT NULL, about VARCHAR(8) NOT NULL, text VARCHAR(300) NOT NULL,
    created_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
    FOREIGN KEY (report_id) REFERENCES reports (id) ON DELETE CASCADE, INDEX of_report (report_id, id), INDEX of_code (code, sense))`,
];

/** Every step may be run again: a server that dies half-way goes on from there. */
export async function up({ context }: { context: Sequelize }): Promise<void> {
  for (const table of TABLES) {
    await context.query(`CREATE TABLE IF NOT EXISTS ${table} ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci`);
  }
}
