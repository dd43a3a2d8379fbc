/** Tables of the first slice: station, cards, overs, captures, measurements, moves, targets. */
import type { Sequelize } from 'sequelize';

const ID = 'id INT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY';
const MADE = 'created_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3)';
const NAME = 'VARCHAR(80) NOT NULL';
const NOTE = "note VARCHAR(1000) NOT NULL DEFAULT ''";

const TABLES = [
  `operators (${ID}, name ${NAME}, callsign VARCHAR(20) NOT NULL, ${NOTE}, ${MADE}, UNIQUE (callsign))`,
  `microphones (${ID}, name ${NAME}, kind VARCHAR(60) NOT NULL, distance_cm DOUBLE NULL, ${NOTE}, ${MADE}, UNIQUE (name))`,
  `rigs (${ID}, name ${NAME}, profile LONGTEXT NOT NULL CHECK (JSON_VALID(profile)), ${MADE}, UNIQUE (name))`,
  `receivers (${ID}, name ${NAME}, kind VARCHAR(20) NOT NULL, low_hz DOUBLE NOT NULL, high_hz DOUBLE NOT NULL, ${NOTE}, ${MADE}, UNIQUE (name))`,
  `cards (${ID}, name ${NAME}, operator_id INT UNSIGNED NOT NULL, rig_id INT UNSIGNED NOT NULL,
    microphone_id INT UNSIGNED NOT NULL, mode VARCHAR(8) NOT NULL, purpose VARCHAR(20) NOT NULL, ${MADE},
    FOREIGN KEY (operator_id) REFERENCES operators (id), FOREIGN KEY (rig_id) REFERENCES rigs (id),
    FOREIGN KEY (microphone_id) REFERENCES microphones (id), INDEX (name), INDEX (created_at))`,
  `card_revisions (${ID}, card_id INT UNSIGNED NOT NULL, number INT UNSIGNED NOT NULL,
    dial_values LONGTEXT NOT NULL CHECK (JSON_VALID(dial_values)), reason VARCHAR(300) NOT NULL DEFAULT '', ${MADE},
    FOREIGN KEY (card_id) REFERENCES cards (id), UNIQUE (card_id, number))`,
  `overs (${ID}, card_revision_id INT UNSIGNED NOT NULL, receiver_id INT UNSIGNED NOT NULL,
    \`load\` VARCHAR(20) NOT NULL DEFAULT 'dummy load', power_w DOUBLE NULL, alc_reading DOUBLE NULL, ${NOTE}, ${MADE},
    FOREIGN KEY (card_revision_id) REFERENCES card_revisions (id), FOREIGN KEY (receiver_id) REFERENCES receivers (id),
    INDEX (created_at))`,
  `captures (${ID}, over_id INT UNSIGNED NOT NULL, file_name VARCHAR(255) NOT NULL, bytes BIGINT UNSIGNED NOT NULL,
    sha256 CHAR(64) NOT NULL, ${MADE}, FOREIGN KEY (over_id) REFERENCES overs (id), UNIQUE (sha256))`,
  `capture_chunks (capture_id INT UNSIGNED NOT NULL, position INT UNSIGNED NOT NULL, bytes MEDIUMBLOB NOT NULL,
    PRIMARY KEY (capture_id, position), FOREIGN KEY (capture_id) REFERENCES captures (id))`,
  `measurements (${ID}, capture_id INT UNSIGNED NOT NULL, status VARCHAR(10) NOT NULL, core_version VARCHAR(20) NOT NULL,
    result LONGTEXT NULL, detail LONGTEXT NULL, error TEXT NULL, ${MADE},
    FOREIGN KEY (capture_id) REFERENCES captures (id), INDEX (status))`,
  `moves (${ID}, card_revision_id INT UNSIGNED NOT NULL, from_revision_id INT UNSIGNED NOT NULL, over_id INT UNSIGNED NULL,
    dial_id VARCHAR(40) NOT NULL, from_value VARCHAR(60) NOT NULL, to_value VARCHAR(60) NOT NULL,
    reason VARCHAR(300) NOT NULL DEFAULT '', expected TEXT NULL, outcome TEXT NULL, ${MADE},
    FOREIGN KEY (card_revision_id) REFERENCES card_revisions (id), FOREIGN KEY (from_revision_id) REFERENCES card_revisions (id),
    FOREIGN KEY (over_id) REFERENCES overs (id))`,
  'demo (state VARCHAR(10) NOT NULL PRIMARY KEY)',
  'targets (purpose VARCHAR(20) NOT NULL PRIMARY KEY, points TEXT NOT NULL CHECK (JSON_VALID(points)))',
];

/** Every step may be run again: a server that dies half-way goes on from there. */
export async function up({ context }: { context: Sequelize }): Promise<void> {
  for (const table of TABLES) {
    await context.query(`CREATE TABLE IF NOT EXISTS ${table} ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci`);
  }
}
