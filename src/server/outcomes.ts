/** Expected against got: once a new over is measured, what its card's moves really did. */

import { defaultTarget } from '../core/advice/targets.ts';
import { toneBasis } from '../core/advice/toneError.ts';
import { mean } from '../core/signal/statistics.ts';
import { effective } from '../core/station/effective.ts';
import { database } from './database.ts';
import { loadOver, type MeasuredOver } from './overs.ts';

/**
 * Fills in the outcome of the moves that led to this over's card revision, by comparing it with the over they
 * were worked out from. Moves that have an outcome keep it.
 */
export async function settleMoves(overId: number): Promise<void> {
  const { models } = database();
  const over = await loadOver(overId);
  if (!over?.measured) return;
  const moves = await models.moves.findAll({ where: { cardRevisionId: over.revision.id } });
  for (const move of moves) {
    if (move.outcome || !move.expected || move.overId === null) continue;
    const before = await loadOver(move.overId);
    if (!before?.measured) continue;
    const changeDb = heardChange(before as MeasuredOver, over as MeasuredOver, move.expected.hz);
    if (changeDb !== null) await move.update({ outcome: { overId, changeDb } });
  }
}

/** Change of one third octave between two overs against the average of those that both can judge. */
function heardChange(before: MeasuredOver, after: MeasuredOver, hz: number): number | null {
  const bandsOf = ({ rig, revision, card, measured, receiver }: MeasuredOver) => {
    const { passbandHz } = effective(rig.profile, { mode: card.mode, values: revision.values });
    const heard: [number, number] = [Math.max(passbandHz[0], receiver.lowHz), Math.min(passbandHz[1], receiver.highHz)];
    return toneBasis(measured.detail, defaultTarget(card.purpose), heard).bands;
  };
  const old = new Map(bandsOf(before).map((band) => [band.centreHz, band.heardDb]));
  const changes = bandsOf(after).flatMap(({ centreHz, heardDb }) => {
    const was = old.get(centreHz);
    return was === undefined ? [] : [{ centreHz, changeDb: heardDb - was }];
  });
  const here = changes.find(({ centreHz }) => Math.abs(centreHz / hz - 1) < 0.01);
  return here ? here.changeDb - mean(changes.map(({ changeDb }) => changeDb)) : null;
}
