/** Microphones as whole profiles, retiring, who changed a card, what each radio holds, voice memories. */
import { QueryTypes, type Sequelize } from 'sequelize';

const CHANGES = [
  'ALTER TABLE operators ADD COLUMN IF NOT EXISTS retired_at DATETIME(3) NULL',
  'ALTER TABLE rigs ADD COLUMN IF NOT EXISTS retired_at DATETIME(3) NULL',
  "ALTER TABLE receivers ADD COLUMN IF NOT EXISTS retired_at DATETIME(3) NULL, ADD COLUMN IF NOT EXISTS agc VARCHAR(60) NOT NULL DEFAULT '', ADD COLUMN IF NOT EXISTS path VARCHAR(200) NOT NULL DEFAULT '', ADD COLUMN IF NOT EXISTS trust VARCHAR(10) NOT NULL DEFAULT 'medium'",
  'ALTER TABLE microphones ADD COLUMN IF NOT EXISTS profile LONGTEXT NULL CHECK (JSON_VALID(profile)), ADD COLUMN IF NOT EXISTS retired_at DATETIME(3) NULL',
  'ALTER TABLE cards ADD COLUMN IF NOT EXISTS retired_at DATETIME(3) NULL, ADD COLUMN IF NOT EXISTS changed_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3)',
  'UPDATE cards c SET changed_at = COALESCE((SELECT MAX(r.created_at) FROM card_revisions r WHERE r.card_id = c.id), c.created_at)',
  'ALTER TABLE cards ADD INDEX IF NOT EXISTS changed (retired_at, changed_at, id)',
  "ALTER TABLE card_revisions ADD COLUMN IF NOT EXISTS microphone_use TEXT NULL CHECK (JSON_VALID(microphone_use)), ADD COLUMN IF NOT EXISTS made_by VARCHAR(80) NOT NULL DEFAULT ''",
  'ALTER TABLE overs DROP INDEX IF EXISTS created_at, ADD INDEX IF NOT EXISTS newest (created_at, id)',
];

const TABLES = [
  `rig_ticks (id INT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY, rig_id INT UNSIGNED NOT NULL, dial_id VARCHAR(40) NOT NULL,
    dial_value VARCHAR(60) NOT NULL CHECK (JSON_VALID(dial_value)), card_revision_id INT UNSIGNED NULL,
    created_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
    FOREIGN KEY (rig_id) REFERENCES rigs (id), FOREIGN KEY (card_revision_id) REFERENCES card_revisions (id),
    INDEX (rig_id, dial_id, id))`,
  `voice_memories (id INT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY, rig_id INT UNSIGNED NOT NULL, slot INT UNSIGNED NOT NULL,
    words VARCHAR(300) NOT NULL, card_revision_id INT UNSIGNED NOT NULL,
    created_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
    FOREIGN KEY (rig_id) REFERENCES rigs (id), FOREIGN KEY (card_revision_id) REFERENCES card_revisions (id), UNIQUE (rig_id, slot))`,
];

/** Every step may be run again: a server that dies half-way goes on from there. */
export async function up({ context }: { context: Sequelize }): Promise<void> {
  for (const change of CHANGES) await context.query(change);
  await fillMicrophones(context);
  await context.query(
    'ALTER TABLE microphones MODIFY profile LONGTEXT NOT NULL CHECK (JSON_VALID(profile)), DROP COLUMN IF EXISTS kind, DROP COLUMN IF EXISTS distance_cm, DROP COLUMN IF EXISTS note',
  );
  for (const table of TABLES) {
    await context.query(`CREATE TABLE IF NOT EXISTS ${table} ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci`);
  }
}

/** Microphones known by kind and distance only become profiles without curves. */
async function fillMicrophones(context: Sequelize): Promise<void> {
  const old = await context.query("SHOW COLUMNS FROM microphones LIKE 'kind'", { type: QueryTypes.SELECT });
  if (old.length === 0) return;
  const rows = await context.query<{ id: number; name: string; kind: string; distance: number | null; note: string }>(
    'SELECT id, name, kind, distance_cm AS distance, note FROM microphones',
    { type: QueryTypes.SELECT },
  );
  for (const { id, name, kind, distance, note } of rows) {
    const profile = {
      format: 'dialtune-microphone',
      version: 1,
      name: name.slice(0, 60),
      kind,
      pattern: 'omni',
      level: 'medium',
      distanceCm: Math.max(0.5, distance ?? 5),
      positions: [],
      accessories: [],
      ...(note ? { note } : {}),
    };
    await context.query('UPDATE microphones SET profile = :profile WHERE id = :id', {
      replacements: { id, profile: JSON.stringify(profile) },
    });
  }
}
