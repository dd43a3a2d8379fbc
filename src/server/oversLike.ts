/** Overs that tell of the same voice by the same way: operator, microphone and its use, receiver. */
import { QueryTypes } from 'sequelize';
import type { HeardOver } from '../core/advice/toneEstimate.ts';
import { spoiltBy } from '../core/measure/spoilt.ts';
import { isSameUse } from '../core/station/microphone.ts';
import { responseOf } from '../core/station/response.ts';
import { database } from './database.ts';
import { loadOver, type OverView } from './overs.ts';

/** More overs than this say nothing new of a voice. */
const MOST = 6;

/** The newest ones beside an over, each with the equalizer it went through. */
export async function oversLike(over: OverView): Promise<HeardOver[]> {
  const rows = await database().sequelize.query<{ id: number }>(
    `SELECT DISTINCT o.id, o.created_at FROM overs o
       JOIN card_revisions r ON r.id = o.card_revision_id JOIN cards c ON c.id = r.card_id
       JOIN cards own ON own.id = :cardId AND own.microphone_id = c.microphone_id
       JOIN captures k ON k.over_id = o.id AND k.kind = 'voice'
       JOIN measurements m ON m.capture_id = k.id AND m.status = 'done'
     WHERE c.operator_id = :operatorId AND o.receiver_id = :receiverId AND c.mode = :mode AND o.id <> :overId
     ORDER BY o.created_at DESC, o.id DESC LIMIT ${2 * MOST}`,
    {
      type: QueryTypes.SELECT,
      replacements: {
        cardId: over.card.id,
        operatorId: over.operator.id,
        receiverId: over.receiver.id,
        mode: over.card.mode,
        overId: over.id,
      },
    },
  );
  const found = await Promise.all(rows.map(({ id }) => loadOver(id)));
  return found
    .flatMap((other) => {
      if (!other?.measured || !isUsedAlike(other, over) || spoiltBy(other.measured.result.findings)) return [];
      const card = { mode: other.card.mode, values: other.revision.values };
      return [{ voice: other.measured.detail, responseDb: responseOf(other.rig.profile, card) }];
    })
    .slice(0, MOST);
}

const isUsedAlike = (a: OverView, b: OverView): boolean =>
  !a.revision.use || !b.revision.use ? a.revision.use === b.revision.use : isSameUse(a.revision.use, b.revision.use);
