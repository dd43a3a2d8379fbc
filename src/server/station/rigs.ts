/** Rig profiles: keeping one, and what a changed one means for the cards that hold its numbers. */
import {
  type Card,
  type Dial,
  type DialValue,
  isOnScale,
  nearestOn,
  type RigProfile,
  valueOn,
  withMeasuredEdges,
} from '@/core/rig/index.ts';
import { addRevision, newestRevisions } from '../cards/revisions.ts';
import { database } from '../db/database.ts';
import { loadOver } from '../overs/overView.ts';
import { Refused } from '../requests/refused.ts';
import { keepPart, profileBase } from './station.ts';

export interface KeptRig {
  readonly id: number;
  /** Names of cards that held numbers the changed dials no longer have; each got a revision with the nearest ones. */
  readonly movedCards: readonly string[];
}

/** What is to be kept of a rig. */
export interface RigChange {
  /** A new rig when left out. */
  readonly id?: number;
  readonly profile: RigProfile;
  /** The profile's JSON that the change was made from; unchecked when left out. */
  readonly base?: string;
  readonly by: string;
}

/**
 * Keeps a checked profile, and moves the cards that hold numbers it no longer has: all of it or nothing.
 * @throws Refused when the name is taken, somebody else was faster, or a mode with cards is taken away
 */
export async function keepRig({ id, profile, base, by }: RigChange): Promise<KeptRig> {
  return database().sequelize.transaction(async (transaction) => {
    const kept = await keepPart('rig', { id, values: { name: profile.name, profile }, base: profileBase(base) }, transaction);
    if (id === undefined) return { id: kept, movedCards: [] };
    const movedCards: string[] = [];
    for (const card of await newestRevisions(id, transaction)) {
      if (!profile.modes.includes(card.mode))
        throw new Refused(`The card ${card.name} is for ${card.mode}, which this profile no longer has; nothing was saved.`);
      const values = nearestValues(profile, card);
      if (Object.keys(values).length === 0) continue;
      const change = { cardId: card.id, baseRevisionId: card.revisionId, values, reason: 'the rig profile changed: nearest positions', by };
      await addRevision(change, transaction);
      movedCards.push(card.name);
    }
    return { id: kept, movedCards };
  });
}

/** Values that are not on their scales any more, as the nearest that are. */
function nearestValues(profile: RigProfile, card: Card): Record<string, DialValue> {
  const moved = profile.dials.filter((dial: Dial) => !isOnScale(dial.scale, valueOn(card, dial)));
  return Object.fromEntries(moved.map((dial) => [dial.id, nearestOn(dial, valueOn(card, dial))]));
}

/**
 * Puts the edges that an over's test sweep measured into the profile of its rig, for the filter that its card used.
 * @throws Refused when it measured none, or the profile has no place for them
 */
export async function takeMeasuredEdges(overId: number, by: string): Promise<KeptRig> {
  const over = await loadOver(overId);
  const result = over?.evidence?.result;
  const [low, high] = (result?.kind === 'response' && result.passbandHz) || [null, null];
  if (!over || low === null || high === null) throw new Refused('This over has no measured edges on both sides.', 404);
  const changed = withMeasuredEdges(over.rig.profile, { mode: over.card.mode, values: over.revision.values }, [low, high]);
  if (!changed) throw new Refused('On this radio the dials themselves are the edges: there is nothing in the profile to change.', 422);
  return keepRig({ id: over.rig.id, profile: changed, base: JSON.stringify(over.rig.profile), by });
}
