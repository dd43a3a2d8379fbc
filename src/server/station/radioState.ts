/** What each radio holds: the dials as they were last ticked off a sheet. */
import { QueryTypes, type Transaction } from 'sequelize';
import { type DialValue, type DialValues, isOnScale, rangeText } from '@/core/rig/index.ts';
import { database } from '../db/database.ts';
import { Refused } from '../requests/refused.ts';

export interface RadioState {
  /** Only dials that were ticked; nothing is known of the others. */
  readonly values: DialValues;
  /** When the last of them was ticked; null when none was. */
  readonly tickedAt: string | null;
}

export const RADIO_STATE_SQL = `SELECT t.dial_id AS dialId, t.dial_value AS dialValue, t.created_at AS madeAt
  FROM (SELECT MAX(id) AS id FROM rig_ticks WHERE rig_id = :rigId GROUP BY dial_id) newest JOIN rig_ticks t ON t.id = newest.id`;

export async function radioState(rigId: number): Promise<RadioState> {
  const rows = await database().sequelize.query<{ dialId: string; dialValue: string; madeAt: Date }>(RADIO_STATE_SQL, {
    type: QueryTypes.SELECT,
    replacements: { rigId },
  });
  const times = rows.map(({ madeAt }) => new Date(madeAt).toISOString()).sort();
  return {
    values: Object.fromEntries(rows.map(({ dialId, dialValue }) => [dialId, JSON.parse(dialValue)])),
    tickedAt: times.at(-1) ?? null,
  };
}

export interface Tick {
  readonly rigId: number;
  readonly dialId: string;
  readonly value: DialValue;
  /** The card whose sheet it was ticked on. */
  readonly cardRevisionId?: number;
}

/** Notes what dials of a radio stand at now. @throws Refused when the radio has no such dial or position */
export async function tickDials(ticks: readonly Tick[]): Promise<void> {
  const { models, sequelize } = database();
  await sequelize.transaction(async (transaction) => {
    for (const { rigId, dialId, value, cardRevisionId } of ticks) {
      const rig = await models.rigs.findByPk(rigId, { transaction });
      const dial = rig?.profile.dials.find(({ id }) => id === dialId);
      if (!rig || !dial) throw new Refused('This radio has no such dial.', 404);
      if (!isOnScale(dial.scale, value)) throw new Refused(`${dial.label} can't be ${value}; it goes ${rangeText(dial)}.`, 422);
      if (cardRevisionId !== undefined) await refuseOtherRig(cardRevisionId, rigId, transaction);
      await models.rigTicks.create({ rigId, dialId, dialValue: value, cardRevisionId: cardRevisionId ?? null }, { transaction });
    }
  });
}

/** @throws Refused when the sheet is not there, or one of another radio */
async function refuseOtherRig(cardRevisionId: number, rigId: number, transaction: Transaction): Promise<void> {
  const revision = await database().models.cardRevisions.findByPk(cardRevisionId, { include: ['card'], transaction });
  if (!revision?.card) throw new Refused('The card of this sheet does not exist.', 404);
  if (revision.card.rigId !== rigId) throw new Refused('This sheet is for another radio; nothing was ticked off.', 422);
}
