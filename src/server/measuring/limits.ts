/** The station's own limits for findings. */
import { LIMIT_NAMES, LIMITS, type LimitName, type OwnLimits } from '@/core/findings/index.ts';
import { database } from '../db/database.ts';
import { refuseOvertaken } from '../requests/overtaken.ts';
import { Refused } from '../requests/refused.ts';

export async function ownLimits(): Promise<OwnLimits> {
  const rows = await database().models.limits.findAll();
  return Object.fromEntries(
    rows.filter(({ name }) => LIMIT_NAMES.includes(name)).map(({ name, watch, fault }) => [name, { watch, fault }]),
  );
}

type Limit = { readonly watch: number | null; readonly fault: number | null } | null;

/**
 * Keeps a limit of the station's own; null goes back to the built-in one.
 * @param base what the change was made from; unchecked when left out
 * @throws Refused when the two contradict each other, or somebody else was faster
 */
export async function setLimit(name: LimitName, limit: Limit, base?: Limit): Promise<void> {
  const { sequelize, models } = database();
  const { watch = null, fault = null } = limit ?? {};
  const isAbove = LIMITS[name].bad === 'above';
  if (watch !== null && fault !== null && (isAbove ? fault < watch : fault > watch)) {
    throw new Refused(`A fault must be worse than a watch: ${isAbove ? 'higher' : 'lower'}.`);
  }
  await sequelize.transaction(async (transaction) => {
    const row = await models.limits.findByPk(name, { transaction, lock: true });
    const now = row && { watch: row.watch, fault: row.fault };
    refuseOvertaken('limit', { limit: now }, base === undefined ? undefined : { limit: base });
    if (limit === null) await models.limits.destroy({ where: { name }, transaction });
    else await models.limits.upsert({ name, watch, fault }, { transaction });
  });
}
