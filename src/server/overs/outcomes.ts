/** Expected against got: once a new over is measured, what its card's moves really did. */
import { Op } from 'sequelize';
import { bandEffects, defaultTarget, toneBasis } from '@/core/advice/index.ts';
import { mean } from '@/core/dsp/index.ts';
import { RECEIVER_KINDS } from '@/core/measure/index.ts';
import { effective, isSameUse, responseOf } from '@/core/rig/index.ts';
import { database } from '../db/database.ts';
import type { ReceiverKind } from '../db/models.ts';
import { capturesOfOvers, type MeasuredOver, type OverView } from './overView.ts';

/**
 * Fills in the outcomes that this over tells: of every move up to its card revision that was worked out from an
 * earlier over on the same receiver. Both numbers span all that changed between the two overs. Moves that have an
 * outcome keep it.
 */
export async function settleMoves(overId: number): Promise<void> {
  const { models } = database();
  const heard = (await capturesOfOvers([overId])).filter(isMeasured);
  const [over] = heard;
  if (!over) return;
  const revisions = await models.cardRevisions.findAll({
    where: { cardId: over.card.id, number: { [Op.lte]: over.revision.number } },
    attributes: ['id'],
  });
  const moves = await models.moves.findAll({ where: { cardRevisionId: revisions.map(({ id }) => id), outcome: null } });
  const told = moves.flatMap(({ expected, overId: from }) => (expected && from !== null ? [from] : []));
  const earlier = (await capturesOfOvers([...new Set(told)])).filter(isMeasured);
  for (const move of moves) {
    const { expected } = move;
    if (!expected) continue;
    const before = bestFirst(earlier.filter(({ id }) => id === move.overId));
    // Heard on the same receiver both times: the best one that was there.
    const pairs = before.flatMap((was) => heard.filter((now) => isComparable(was, now)).map((now) => ({ was, now })));
    const [found] = pairs.flatMap(({ was, now }) => changeBetween(was, now, expected.hz) ?? []);
    if (found) await move.update({ outcome: { overId, ...found } });
  }
}

/** The same receiver, the same use of the microphone, and an earlier revision: only the dials differ. */
const isComparable = (before: MeasuredOver, after: MeasuredOver): boolean =>
  before.receiver.id === after.receiver.id &&
  before.revision.number < after.revision.number &&
  (!before.revision.use || !after.revision.use || isSameUse(before.revision.use, after.revision.use));

const isMeasured = (over: OverView): over is MeasuredOver => over.measured !== null;

const bestFirst = (captures: readonly MeasuredOver[]): MeasuredOver[] =>
  captures.toSorted((a, b) => rankOf(a.receiver.kind) - rankOf(b.receiver.kind));
const rankOf = (kind: ReceiverKind): number => RECEIVER_KINDS.findIndex(({ id }) => id === kind);

/**
 * Change of one third octave between two overs, as the model has it and as heard, each against the average of the
 * bands that both overs can judge; null where this one can't be.
 */
function changeBetween(before: MeasuredOver, after: MeasuredOver, hz: number): { changeDb: number; expectedDb: number } | null {
  const basisOf = ({ rig, revision, card, measured, receiver }: MeasuredOver) => {
    const { passbandHz } = effective(rig.profile, { mode: card.mode, values: revision.values });
    const heard: [number, number] = [Math.max(passbandHz[0], receiver.lowHz), Math.min(passbandHz[1], receiver.highHz)];
    return toneBasis(measured.detail, defaultTarget(card.purpose), heard);
  };
  const responseOn = ({ rig, revision, card }: MeasuredOver) => responseOf(rig.profile, { mode: card.mode, values: revision.values });
  const basis = basisOf(before);
  const was = responseOn(before);
  const effects = bandEffects(
    basis,
    responseOn(after).map((db, i) => db - was[i]),
  );
  const now = new Map(basisOf(after).bands.map((band) => [band.centreHz, band.heardDb]));
  const both = basis.bands.flatMap(({ centreHz, heardDb }, b) => {
    const heardNow = now.get(centreHz);
    return heardNow === undefined ? [] : [{ centreHz, heard: heardNow - heardDb, expected: effects[b] }];
  });
  const here = both.find(({ centreHz }) => Math.abs(centreHz / hz - 1) < 0.01);
  if (!here) return null;
  return {
    changeDb: here.heard - mean(both.map(({ heard }) => heard)),
    expectedDb: here.expected - mean(both.map(({ expected }) => expected)),
  };
}
