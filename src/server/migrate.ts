/** Brings the tables up to date, in order, once each. */
import type { Sequelize } from 'sequelize';
import { SequelizeStorage, Umzug } from 'umzug';
import * as firstSlice from './migrations/01-first-slice.ts';

const MIGRATIONS = [{ name: '01-first-slice', ...firstSlice }];

export async function migrate(sequelize: Sequelize): Promise<void> {
  const umzug = new Umzug({
    migrations: MIGRATIONS,
    context: sequelize,
    storage: new SequelizeStorage({ sequelize, tableName: 'migrations' }),
    logger: undefined,
  });
  await umzug.up();
}
