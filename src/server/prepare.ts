/** Run before the server starts: migrates, and loads the demo when asked to and nothing is there yet. */
import { join } from 'node:path';
import { database } from './database.ts';
import { loadDemo } from './demo.ts';
import { alone, migrate } from './migrate.ts';

const { sequelize } = database();
await alone(sequelize, async () => {
  await migrate(sequelize);
  if (process.argv.includes('--demo')) await loadDemo(join(process.cwd(), 'demo'), new Date());
});
await sequelize.close();
