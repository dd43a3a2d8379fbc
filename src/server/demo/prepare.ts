/** Run before the server starts: migrates, and loads the demo when asked to and nothing is there yet. */
import { join } from 'node:path';
import { database } from '../db/database.ts';
import { withLock } from '../db/lock.ts';
import { migrate } from '../db/migrate.ts';
import { loadDemo } from './demo.ts';

const LONGEST_WAIT_S = 600;

const { sequelize } = database();
// Another copy that starts on the same database at the same moment waits.
const { got } = await withLock(sequelize, 'prepare', LONGEST_WAIT_S, async () => {
  await migrate(sequelize);
  if (process.argv.includes('--demo')) await loadDemo(join(process.cwd(), 'demo'), new Date());
});
await sequelize.close();
if (!got) throw new Error('Another copy of Dial Tune has been making this database ready for ten minutes.');
