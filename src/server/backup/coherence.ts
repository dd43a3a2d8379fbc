/** What rows of a station must be to each other, beyond what the database's keys can say; screens rely on it. */
import { QueryTypes, type Transaction } from 'sequelize';
import { isOnScale, type RigProfile } from '@/core/rig/index.ts';
import { database } from '../db/database.ts';

/** Questions that must find nothing, each with what it means when it does. */
const QUESTIONS: readonly (readonly [sql: string, meaning: (name: string) => string])[] = [
  [
    `SELECT c.name FROM cards c LEFT JOIN card_revisions r ON r.card_id = c.id
     GROUP BY c.id, c.name HAVING COUNT(r.id) = 0 OR MIN(r.number) <> 1 OR MAX(r.number) <> COUNT(r.id)`,
    (name) => `the card "${name}" lacks revisions`,
  ],
  [
    `SELECT g.name FROM rig_ticks t JOIN rigs g ON g.id = t.rig_id JOIN card_revisions r ON r.id = t.card_revision_id
     JOIN cards c ON c.id = r.card_id WHERE c.rig_id <> t.rig_id`,
    (name) => `${name} was set by the sheet of another radio`,
  ],
  [
    `SELECT g.name FROM voice_memories v JOIN rigs g ON g.id = v.rig_id JOIN card_revisions r ON r.id = v.card_revision_id
     JOIN cards c ON c.id = r.card_id WHERE c.rig_id <> v.rig_id`,
    (name) => `a voice memory of ${name} was recorded with the card of another radio`,
  ],
];

interface NewestOnRig {
  readonly name: string;
  readonly mode: string;
  readonly dialValues: string;
  readonly rigId: number;
  readonly profile: string;
}

/** What does not hold together in the station as the transaction sees it; null when everything does. */
export async function incoherence(transaction: Transaction): Promise<string | null> {
  const { sequelize } = database();
  for (const [sql, meaning] of QUESTIONS) {
    const [found] = await sequelize.query<{ name: string }>(`${sql} LIMIT 1`, { type: QueryTypes.SELECT, transaction });
    if (found) return meaning(String(found.name));
  }
  const rows = await sequelize.query<NewestOnRig>(
    `SELECT c.name, c.mode, r.dial_values AS dialValues, g.id AS rigId, g.profile FROM cards c JOIN rigs g ON g.id = c.rig_id
     JOIN card_revisions r ON r.card_id = c.id AND r.number = (SELECT MAX(x.number) FROM card_revisions x FORCE INDEX (card_id) WHERE x.card_id = c.id)`,
    { type: QueryTypes.SELECT, transaction },
  );
  const rigs = new Map<number, RigProfile>();
  for (const { name, mode, dialValues, rigId, profile } of rows) {
    const rig = rigs.get(rigId) ?? (JSON.parse(profile) as RigProfile);
    rigs.set(rigId, rig);
    if (!(rig.modes as readonly string[]).includes(mode)) return `the card "${name}" is for ${mode}, which ${rig.name} does not have`;
    const values = JSON.parse(dialValues);
    const off = rig.dials.find((dial) => Object.hasOwn(values, dial.id) && !isOnScale(dial.scale, values[dial.id]));
    if (off) return `the card "${name}" has ${off.label} at ${String(values[off.id]).slice(0, 40)}, which is not on its dial`;
  }
  return null;
}
