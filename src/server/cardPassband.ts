/** What the filter of the card that an over was made with lets through. */
import { effective } from '../core/station/effective.ts';
import { database } from './database.ts';

/** In audio frequencies; undefined where the mode's audio passes no such filter. */
export async function cardPassband(overId: number): Promise<readonly [number, number] | undefined> {
  const { models } = database();
  const over = await models.overs.findByPk(overId, { rejectOnEmpty: true });
  const revision = await models.cardRevisions.findByPk(over.cardRevisionId, { rejectOnEmpty: true });
  const { mode, purpose, rigId } = await models.cards.findByPk(revision.cardId, { rejectOnEmpty: true });
  const { profile } = await models.rigs.findByPk(rigId, { rejectOnEmpty: true });
  const card = { format: 'dialtune-card', version: 1, mode, purpose, values: revision.values } as const;
  return mode === 'fm' ? undefined : effective(profile, card).passbandHz;
}
