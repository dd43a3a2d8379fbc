/** Overs that tell of the same voice by the same way: operator, microphone and its use, receiver. A practice radio's are its card's own. */
import { QueryTypes } from 'sequelize';
import type { HeardOver } from '@/core/advice/index.ts';
import { spoiltBy } from '@/core/findings/index.ts';
import { isSameUse, type MicrophoneUse, responseOf } from '@/core/rig/index.ts';
import { database } from '../db/database.ts';
import { loadCaptures, type OverView } from './overView.ts';

/** More overs than this say nothing new of a voice. */
const MOST = 6;
/** So many of the newest are looked through for those. */
const LOOKED_AT = 100;

interface LikeRow {
  readonly captureId: number;
  readonly findings: string;
  readonly microphoneUse: string | null;
}

/** The operator's cards with the same microphone come first: a log of others' overs costs nothing. */
const LIKE_SQL = `SELECT k.id AS captureId, page.microphoneUse, m.findings
  FROM (SELECT o.id, o.receiver_id, o.created_at, r.microphone_use AS microphoneUse
    FROM cards c FORCE INDEX (of_operator) STRAIGHT_JOIN card_revisions r ON r.card_id = c.id
      STRAIGHT_JOIN overs o FORCE INDEX (of_revision) ON o.card_revision_id = r.id
    WHERE c.operator_id = :operatorId AND c.mode = :mode AND o.id <> :overId
      AND (c.practice_radio IS NULL OR c.id = :cardId) AND (:practiceRadio IS NULL OR c.id = :cardId)
      AND c.microphone_id = (SELECT own.microphone_id FROM cards own WHERE own.id = :cardId)
    ORDER BY o.created_at DESC, o.id DESC LIMIT ${LOOKED_AT}) page
  STRAIGHT_JOIN captures k ON k.over_id = page.id AND k.kind = 'voice' AND COALESCE(k.receiver_id, page.receiver_id) = :receiverId
  STRAIGHT_JOIN measurements m ON m.id = (SELECT MAX(x.id) FROM measurements x FORCE INDEX (of_capture) WHERE x.capture_id = k.id) AND m.status = 'done'
  ORDER BY page.created_at DESC, page.id DESC`;

/** The newest ones beside an over, each with the equalizer it went through. */
export async function oversLike(over: OverView): Promise<HeardOver[]> {
  const rows = await database().sequelize.query<LikeRow>(LIKE_SQL, {
    type: QueryTypes.SELECT,
    replacements: {
      cardId: over.card.id,
      practiceRadio: over.card.practiceRadio,
      operatorId: over.operator.id,
      receiverId: over.receiver.id,
      mode: over.card.mode,
      overId: over.id,
    },
  });
  const clean = rows.filter(
    ({ findings, microphoneUse }) => isUsedAlike(JSON.parse(microphoneUse ?? 'null'), over.revision.use) && !spoiltBy(JSON.parse(findings)),
  );
  const others = await loadCaptures(clean.slice(0, MOST).map(({ captureId }) => captureId));
  return others.flatMap(({ measured, rig, card, revision }) =>
    measured ? [{ voice: measured.detail, responseDb: responseOf(rig.profile, { mode: card.mode, values: revision.values }) }] : [],
  );
}

const isUsedAlike = (a: MicrophoneUse | null, b: MicrophoneUse | null): boolean => (!a || !b ? a === b : isSameUse(a, b));
