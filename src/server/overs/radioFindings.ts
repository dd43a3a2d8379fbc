/** What I/Q recordings beside an over's best capture show of the transmitter: the log names it too. */
import { QueryTypes } from 'sequelize';
import { type Finding, worstFirst } from '@/core/findings/index.ts';
import { database } from '../db/database.ts';
import { NEWEST_MEASUREMENT, parsed } from './overView.ts';

interface Judged {
  readonly id: number;
  readonly captureId: number | null;
  readonly captures: number;
  readonly findings: readonly Finding[];
}

/** The same overs, each with the findings of its other I/Q recordings among its own, the worst first. */
export async function withRadioFindings<T extends Judged>(overs: readonly T[]): Promise<T[]> {
  const several = overs.filter(({ captures }) => captures > 1);
  if (several.length === 0) return [...overs];
  const rows = await database().sequelize.query<{ overId: number; findings: string | null }>(
    `SELECT k.over_id AS overId, m.findings FROM captures k STRAIGHT_JOIN measurements m ON m.id = ${NEWEST_MEASUREMENT}
       WHERE k.over_id IN (:ids) AND k.id NOT IN (:best) AND k.kind IN ('ssb', 'am', 'fm', 'two-tone') AND m.status = 'done'`,
    {
      type: QueryTypes.SELECT,
      replacements: { ids: several.map(({ id }) => id), best: several.map(({ captureId }) => captureId ?? 0) },
    },
  );
  return overs.map((over) => {
    const others = rows.filter(({ overId }) => overId === over.id).flatMap(({ findings }) => parsed<Finding[]>(findings) ?? []);
    return others.length === 0 ? over : { ...over, findings: worstFirst([...over.findings, ...others]) };
  });
}
