/** What the filter of the card that an over was made with lets through. */
import { effective } from '@/core/rig/index.ts';
import { database } from '../db/database.ts';

/** In audio frequencies; undefined where the mode's audio passes no such filter. */
export async function cardPassband(overId: number): Promise<readonly [number, number] | undefined> {
  const over = await database().models.overs.findByPk(overId, {
    include: [{ association: 'revision', include: [{ association: 'card', include: ['rig'] }] }],
    rejectOnEmpty: true,
  });
  const { revision } = over;
  const { card } = revision ?? {};
  if (!revision || !card?.rig || card.mode === 'fm') return undefined;
  return effective(card.rig.profile, { mode: card.mode, values: revision.values }).passbandHz;
}
