/** Aims per purpose: the built-in curve until the station has edited its own. */
import { defaultTarget } from '../core/advice/targets.ts';
import type { CurvePoint } from '../core/formats/curve.ts';
import type { Purpose } from '../core/station/card.ts';
import { database } from './database.ts';

export async function aimFor(purpose: Purpose): Promise<CurvePoint[]> {
  const row = await database().models.targets.findByPk(purpose);
  return row?.points ?? defaultTarget(purpose);
}

/** Keeps an edited aim; null goes back to the built-in one. */
export async function setAim(purpose: Purpose, points: CurvePoint[] | null): Promise<void> {
  const { targets } = database().models;
  if (points === null) await targets.destroy({ where: { purpose } });
  else await targets.upsert({ purpose, points });
}
