/** The station's own limits for findings. */
import { LIMIT_NAMES, LIMITS, type LimitName, type OwnLimits } from '../core/measure/limits.ts';
import { database } from './database.ts';
import { Refused } from './refused.ts';

export async function ownLimits(): Promise<OwnLimits> {
  const rows = await database().models.limits.findAll();
  return Object.fromEntries(
    rows.filter(({ name }) => LIMIT_NAMES.includes(name)).map(({ name, watch, fault }) => [name, { watch, fault }]),
  );
}

/** Keeps a limit of the station's own; null goes back to the built-in one. @throws Refused when the two contradict each other */
export async function setLimit(name: LimitName, limit: { watch: number | null; fault: number | null } | null): Promise<void> {
  const { limits } = database().models;
  if (limit === null) {
    await limits.destroy({ where: { name } });
    return;
  }
  const { watch, fault } = limit;
  const isAbove = LIMITS[name].bad === 'above';
  if (watch !== null && fault !== null && (isAbove ? fault < watch : fault > watch)) {
    throw new Refused(`A fault must be worse than a watch: ${isAbove ? 'higher' : 'lower'}.`);
  }
  await limits.upsert({ name, watch, fault });
}
