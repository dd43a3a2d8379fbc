/** Rig profiles: keeping one, and what a changed one means for the cards that hold its numbers. */
import { type Card, valueOn } from '../../core/station/card.ts';
import { isOnScale, nearestOn } from '../../core/station/dialScale.ts';
import type { Dial, DialValue, RigProfile } from '../../core/station/rig.ts';
import { addRevision, newestRevisions } from '../cards/revisions.ts';
import { Refused } from '../refused.ts';
import { keepPart } from './station.ts';

export interface KeptRig {
  readonly id: number;
  /** Names of cards that held numbers the changed dials no longer have; each got a revision with the nearest ones. */
  readonly movedCards: readonly string[];
}

/** Keeps a checked profile. @throws Refused when the name is taken, or a mode with cards is taken away */
export async function keepRig(id: number | undefined, profile: RigProfile, by: string): Promise<KeptRig> {
  if (id === undefined) return { id: await keepPart('rig', undefined, { name: profile.name, profile }), movedCards: [] };
  const cards = await newestRevisions(id);
  const stranded = cards.find(({ mode }) => !profile.modes.includes(mode));
  if (stranded)
    throw new Refused(`The card ${stranded.name} is for ${stranded.mode}, which this profile no longer has; nothing was saved.`);
  await keepPart('rig', id, { name: profile.name, profile });
  const movedCards: string[] = [];
  for (const card of cards) {
    const values = nearestValues(profile, card);
    if (Object.keys(values).length === 0) continue;
    await addRevision({
      cardId: card.id,
      baseRevisionId: card.revisionId,
      values,
      reason: 'the rig profile changed: nearest positions',
      by,
    });
    movedCards.push(card.name);
  }
  return { id, movedCards };
}

/** Values that are not on their scales any more, as the nearest that are. */
function nearestValues(profile: RigProfile, card: Card): Record<string, DialValue> {
  const moved = profile.dials.filter((dial: Dial) => !isOnScale(dial.scale, valueOn(card, dial)));
  return Object.fromEntries(moved.map((dial) => [dial.id, nearestOn(dial, valueOn(card, dial))]));
}
