/** Targets per purpose: the built-in curve until the station has edited its own. */
import { defaultTarget, targetProblem } from '@/core/advice/index.ts';
import type { CurvePoint } from '@/core/curve/index.ts';
import { PURPOSES, type Purpose } from '@/core/rig/index.ts';
import { database } from '../db/database.ts';
import { refuseOvertaken } from '../requests/overtaken.ts';
import { Refused } from '../requests/refused.ts';

export async function targetFor(purpose: Purpose): Promise<CurvePoint[]> {
  const row = await database().models.targets.findByPk(purpose);
  return row?.points ?? defaultTarget(purpose);
}

/** The targets of all purposes. */
export async function allTargets(): Promise<Record<Purpose, CurvePoint[]>> {
  const rows = await database().models.targets.findAll();
  const edited = new Map(rows.map(({ purpose, points }) => [purpose, points]));
  const targets = PURPOSES.map((purpose) => [purpose, edited.get(purpose) ?? defaultTarget(purpose)] as const);
  return Object.fromEntries(targets) as Record<Purpose, CurvePoint[]>;
}

/**
 * Keeps an edited target; null goes back to the built-in one.
 * @param base the points that the change was made from; unchecked when left out
 * @throws Refused when two points share a frequency, or somebody else was faster
 */
export async function setTarget(purpose: Purpose, points: CurvePoint[] | null, base?: readonly CurvePoint[]): Promise<void> {
  const { sequelize, models } = database();
  const problem = points && targetProblem(points);
  if (problem) throw new Refused(`${problem} Nothing was saved.`, 422);
  await sequelize.transaction(async (transaction) => {
    const row = await models.targets.findByPk(purpose, { transaction, lock: true });
    refuseOvertaken('target', { points: row?.points ?? defaultTarget(purpose) }, base && { points: base });
    if (points === null) await models.targets.destroy({ where: { purpose }, transaction });
    else await models.targets.upsert({ purpose, points }, { transaction });
  });
}
