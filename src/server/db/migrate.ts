/** Brings the tables up to date, in order, once each. */
import type { Sequelize } from 'sequelize';
import { SequelizeStorage, Umzug } from 'umzug';
import * as firstSlice from './migrations/01-first-slice.ts';
import * as stationAndCards from './migrations/02-station-and-cards.ts';
import * as evidence from './migrations/03-evidence.ts';
import * as columnsForLists from './migrations/04-columns-for-lists.ts';
import * as readingsAndReports from './migrations/05-readings-and-reports.ts';
import * as airChecks from './migrations/06-air-checks.ts';
import * as receiversOfAnOver from './migrations/07-receivers-of-an-over.ts';
import * as tuneAndPractice from './migrations/08-tune-and-practice.ts';
import * as analyserReadings from './migrations/09-analyser-readings.ts';

const MIGRATIONS = [
  { name: '01-first-slice', ...firstSlice },
  { name: '02-station-and-cards', ...stationAndCards },
  { name: '03-evidence', ...evidence },
  { name: '04-columns-for-lists', ...columnsForLists },
  { name: '05-readings-and-reports', ...readingsAndReports },
  { name: '06-air-checks', ...airChecks },
  { name: '07-receivers-of-an-over', ...receiversOfAnOver },
  { name: '08-tune-and-practice', ...tuneAndPractice },
  { name: '09-analyser-readings', ...analyserReadings },
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
