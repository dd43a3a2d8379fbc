/** Overs that tell of the same voice by the same way: operator, microphone and its use, receiver. */
import { QueryTypes } from 'sequelize';
import type { HeardOver } from '../core/advice/toneEstimate.ts';
import { spoiltBy } from '../core/measure/spoilt.ts';
import { isSameUse } from '../core/station/microphone.ts';
import { responseOf } from '../core/station/response.ts';
import { database } from './database.ts';
import { loadOvers, type OverView } from './overs.ts';

/** More overs than this say nothing new of a voice. */
const MOST = 6;

/** The newest ones beside an over, each with the equalizer it went through. */
export async function oversLike(over: OverView): Promise<HeardOver[]> {
  const rows = await database().sequelize.query<{ id: number }>(
    `SELECT o.id FROM overs o FORCE INDEX (newest) STRAIGHT_JOIN card_revisions r ON r.id = o.card_revision_id
       STRAIGHT_JOIN cards c ON c.id = r.card_id
     WHERE o.receiver_id = :receiverId AND c.operator_id = :operatorId AND c.mode = :mode AND o.id <> :overId
       AND c.microphone_id = (SELECT own.microphone_id FROM cards own WHERE own.id = :cardId)
       AND EXISTS (SELECT 1 FROM captures k JOIN measurements m ON m.capture_id = k.id AND m.status = 'done'
         WHERE k.over_id = o.id AND k.kind = 'voice')
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
  return (await loadOvers(rows.map(({ id }) => id)))
    .flatMap((other) => {
      if (!other.measured || !isUsedAlike(other, over) || spoiltBy(other.measured.result.findings)) return [];
      const card = { mode: other.card.mode, values: other.revision.values };
      return [{ voice: other.measured.detail, responseDb: responseOf(other.rig.profile, card) }];
    })
    .slice(0, MOST);
}

const isUsedAlike = (a: OverView, b: OverView): boolean =>
  !a.revision.use || !b.revision.use ? a.revision.use === b.revision.use : isSameUse(a.revision.use, b.revision.use);
