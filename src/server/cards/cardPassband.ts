/** What the filter of the card that an over was made with lets through. */
import { effective } from '@/core/rig/index.ts';
import { database } from '../db/database.ts';

/** The card revision that an over was made with. */
export const revisionOfOver = async (overId: number): Promise<number> =>
  (await database().models.overs.findByPk(overId, { attributes: ['cardRevisionId'], rejectOnEmpty: true })).cardRevisionId;

/** In audio frequencies; undefined where the mode's audio passes no such filter. */
export async function cardPassband(cardRevisionId: number): Promise<readonly [number, number] | undefined> {
  const revision = await database().models.cardRevisions.findByPk(cardRevisionId, {
    include: [{ association: 'card', include: ['rig'] }],
  });
  const { card } = revision ?? {};
  if (!revision || !card?.rig || card.mode === 'fm') return undefined;
  return effective(card.rig.profile, { mode: card.mode, values: revision.values }).passbandHz;
}
