/** Brings the tables up to date, in order, once each. */
import { QueryTypes, type Sequelize } from 'sequelize';
import { SequelizeStorage, Umzug } from 'umzug';
import * as firstSlice from './migrations/01-first-slice.ts';
import * as stationAndCards from './migrations/02-station-and-cards.ts';
import * as evidence from './migrations/03-evidence.ts';
import * as columnsForLists from './migrations/04-columns-for-lists.ts';

const MIGRATIONS = [
  { name: '01-first-slice', ...firstSlice },
  { name: '02-station-and-cards', ...stationAndCards },
  { name: '03-evidence', ...evidence },
  { name: '04-columns-for-lists', ...columnsForLists },
];

export async function migrate(sequelize: Sequelize): Promise<void> {
  const umzug = new Umzug({
    migrations: MIGRATIONS,
    context: sequelize,
    storage: new SequelizeStorage({ sequelize, tableName: 'migrations' }),
    logger: undefined,
  });
  await umzug.up();
}

const LONGEST_WAIT_S = 600;

/** Does the work alone: another copy that starts on the same database at the same moment waits. The lock goes with its connection. */
export async function alone<T>(sequelize: Sequelize, work: () => Promise<T>): Promise<T> {
  return sequelize.transaction(async (transaction) => {
    const ask = (sql: string) => sequelize.query<{ got: number | null }>(sql, { type: QueryTypes.SELECT, transaction });
    const [{ got }] = await ask(`SELECT GET_LOCK(CONCAT('dialtune ', DATABASE()), ${LONGEST_WAIT_S}) AS got`);
    if (Number(got) !== 1) throw new Error('Another copy of Dial Tune has been making this database ready for ten minutes.');
    try {
      return await work();
    } finally {
      await ask("SELECT RELEASE_LOCK(CONCAT('dialtune ', DATABASE())) AS got");
    }
  });
}
