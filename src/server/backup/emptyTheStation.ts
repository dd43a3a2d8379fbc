/** Everything gone: operators, rigs, microphones, cards, overs and recordings. The page asks first. */
import { database } from '../db/database.ts';
import { emptyStation } from './tables.ts';

export async function emptyTheStation(): Promise<void> {
  const { sequelize, models } = database();
  await sequelize.transaction(async (transaction) => {
    await emptyStation(transaction);
    await models.demo.destroy({ where: {}, transaction });
  });
}
