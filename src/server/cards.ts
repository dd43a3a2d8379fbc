/** Cards and their append-only revisions; putting moves on a card. */

import type { Expectation } from '../core/advice/nextMove.ts';
import { expectTogether } from '../core/advice/nextMove.ts';
import { toneBasis } from '../core/advice/toneError.ts';
import { type Card, type DialValues, type Purpose, valueOn } from '../core/station/card.ts';
import { effective } from '../core/station/effective.ts';
import { type DialValue, dialOf, type RigProfile } from '../core/station/rig.ts';
import { parseCard } from '../core/station/validate.ts';
import { database } from './database.ts';
import type { Outcome } from './models.ts';
import { loadOver } from './overs.ts';
import { Refused } from './refused.ts';
import { aimFor } from './targets.ts';

export interface RevisionView {
  readonly id: number;
  readonly number: number;
  readonly values: DialValues;
  readonly reason: string;
  readonly madeAt: string;
}

export interface CardView {
  readonly id: number;
  readonly name: string;
  readonly mode: Card['mode'];
  readonly purpose: Purpose;
  readonly operator: { readonly id: number; readonly name: string; readonly callsign: string };
  readonly rig: { readonly id: number; readonly name: string; readonly profile: RigProfile };
  readonly microphone: { readonly id: number; readonly name: string; readonly kind: string; readonly distanceCm: number | null };
  /** Newest first. */
  readonly revisions: readonly RevisionView[];
}

/** What pickers need to know of a card. */
export interface CardSummary {
  readonly id: number;
  readonly name: string;
  readonly mode: Card['mode'];
  readonly purpose: Purpose;
  readonly operator: string;
  readonly rig: string;
  readonly revision: number;
  readonly revisionId: number;
  readonly changedAt: string;
}

/** A stored move, for the trail. */
export interface TrailEntry {
  readonly id: number;
  readonly madeAt: string;
  readonly revision: number;
  readonly overId: number | null;
  readonly dialId: string;
  readonly from: DialValue;
  readonly to: DialValue;
  readonly reason: string;
  readonly expected: Expectation | null;
  readonly outcome: Outcome | null;
}

export async function loadCard(id: number): Promise<CardView | null> {
  const { models } = database();
  const card = await models.cards.findByPk(id);
  if (!card) return null;
  const [operator, rig, microphone, revisions] = await Promise.all([
    models.operators.findByPk(card.operatorId, { rejectOnEmpty: true }),
    models.rigs.findByPk(card.rigId, { rejectOnEmpty: true }),
    models.microphones.findByPk(card.microphoneId, { rejectOnEmpty: true }),
    models.cardRevisions.findAll({ where: { cardId: id }, order: [['number', 'DESC']] }),
  ]);
  return {
    id,
    name: card.name,
    mode: card.mode,
    purpose: card.purpose,
    operator: { id: operator.id, name: operator.name, callsign: operator.callsign },
    rig: { id: rig.id, name: rig.name, profile: rig.profile },
    microphone: { id: microphone.id, name: microphone.name, kind: microphone.kind, distanceCm: microphone.distanceCm },
    revisions: revisions.map((row) => ({
      id: row.id,
      number: row.number,
      values: row.values,
      reason: row.reason,
      madeAt: row.createdAt.toISOString(),
    })),
  };
}

/** All cards, the one changed last first. */
export async function listCards(): Promise<CardSummary[]> {
  const { models } = database();
  const [cards, operators, rigs, revisions] = await Promise.all([
    models.cards.findAll(),
    models.operators.findAll(),
    models.rigs.findAll({ attributes: ['id', 'name'] }),
    models.cardRevisions.findAll({ attributes: ['id', 'cardId', 'number', 'createdAt'], order: [['number', 'ASC']] }),
  ]);
  const nameOf = (rows: readonly { id: number; name: string }[], id: number) => rows.find((row) => row.id === id)?.name ?? '';
  const last = new Map(revisions.map((row) => [row.cardId, row]));
  return cards
    .map((card) => ({
      id: card.id,
      name: card.name,
      mode: card.mode,
      purpose: card.purpose,
      operator: nameOf(operators, card.operatorId),
      rig: nameOf(rigs, card.rigId),
      revision: last.get(card.id)?.number ?? 0,
      revisionId: last.get(card.id)?.id ?? 0,
      changedAt: (last.get(card.id)?.createdAt ?? card.createdAt).toISOString(),
    }))
    .sort((a, b) => b.changedAt.localeCompare(a.changedAt));
}

export interface NewCard {
  readonly name: string;
  readonly operatorId: number;
  readonly rigId: number;
  readonly microphoneId: number;
  readonly mode: Card['mode'];
  readonly purpose: Purpose;
}

/** Makes a card at factory values as revision 1. @throws Refused */
export async function createCard(input: NewCard): Promise<number> {
  const { sequelize, models } = database();
  const rig = await models.rigs.findByPk(input.rigId);
  if (!rig || !(await models.operators.findByPk(input.operatorId)) || !(await models.microphones.findByPk(input.microphoneId))) {
    throw new Refused('The operator, rig or microphone of this card does not exist.', 404);
  }
  if (!rig.profile.modes.includes(input.mode)) throw new Refused(`${rig.name} has no mode ${input.mode}.`);
  const values = Object.fromEntries(rig.profile.dials.map((dial) => [dial.id, dial.rest]));
  return sequelize.transaction(async (transaction) => {
    const card = await models.cards.create(input, { transaction });
    await models.cardRevisions.create({ cardId: card.id, number: 1, values, reason: 'new card, factory values' }, { transaction });
    return card.id;
  });
}

export interface NewRevision {
  readonly cardId: number;
  /** The revision the change was made from; if it is no longer the newest, the change is refused. */
  readonly baseRevisionId: number;
  readonly values: DialValues;
  readonly reason: string;
  /** The over the change was worked out from. */
  readonly overId?: number;
  /** Reason of each changed dial. */
  readonly why?: Readonly<Record<string, string>>;
}

/**
 * Appends a revision and one move a changed dial, with what to expect of it.
 * @returns the new revision's number
 * @throws Refused when someone else changed the card meanwhile, or nothing changed; InvalidInput for bad values
 */
export async function addRevision(change: NewRevision): Promise<number> {
  const { sequelize, models } = database();
  const card = await loadCard(change.cardId);
  if (!card) throw new Refused('This card does not exist.', 404);
  const rig = card.rig.profile;
  parseCard({ format: 'dialtune-card', version: 1, mode: card.mode, values: change.values }, rig);
  const [newest] = card.revisions;
  if (newest.id !== change.baseRevisionId) {
    throw new Refused(`This card was changed meanwhile (revision ${newest.number}). Nothing was saved; reload to see it.`, 409);
  }
  const from: Card = { mode: card.mode, values: newest.values };
  const to: Card = { mode: card.mode, values: { ...newest.values, ...change.values } };
  const changed = rig.dials.filter((dial) => valueOn(from, dial) !== valueOn(to, dial));
  if (changed.length === 0) throw new Refused('Nothing has changed; no revision was made.');
  const moves = changed.map((dial) => ({ dial: dialOf(rig, dial.id), to: valueOn(to, dial) }));
  const expected = await expectations(card, from, moves, change.overId);
  const number = newest.number + 1;
  await sequelize
    .transaction(async (transaction) => {
      const revision = await models.cardRevisions.create(
        { cardId: card.id, number, values: to.values, reason: change.reason },
        { transaction },
      );
      await models.moves.bulkCreate(
        moves.map(({ dial, to: toValue }, i) => ({
          cardRevisionId: revision.id,
          fromRevisionId: newest.id,
          overId: change.overId ?? null,
          dialId: dial.id,
          fromValue: valueOn(from, dial),
          toValue,
          reason: (change.why?.[dial.id] ?? '').slice(0, 300),
          expected: expected[i],
          outcome: null,
        })),
        { transaction },
      );
    })
    .catch((error: Error) => {
      if (error.name !== 'SequelizeUniqueConstraintError') throw error;
      throw new Refused('This card was changed meanwhile. Nothing was saved; reload to see it.', 409);
    });
  return number;
}

async function expectations(
  card: CardView,
  from: Card,
  moves: Parameters<typeof expectTogether>[2],
  overId: number | undefined,
): Promise<(Expectation | null)[]> {
  const over = overId === undefined ? null : await loadOver(overId);
  if (!over?.measured || over.card.id !== card.id) return moves.map(() => null);
  const rig = card.rig.profile;
  const { passbandHz: sent } = effective(rig, from);
  const passbandHz: [number, number] = [Math.max(sent[0], over.receiver.lowHz), Math.min(sent[1], over.receiver.highHz)];
  const voice = over.measured.detail;
  const basis = toneBasis(voice, await aimFor(card.purpose), passbandHz);
  if (basis.bands.length < 3) return moves.map(() => null);
  const heardWith = { mode: card.mode, values: over.revision.values };
  return expectTogether({ rig, heardWith, voice, basis, passbandHz }, from, moves);
}

/** Changes what a card is for, and with it the aim. */
export async function setPurpose(cardId: number, purpose: Purpose): Promise<void> {
  const [count] = await database().models.cards.update({ purpose }, { where: { id: cardId } });
  if (count === 0 && !(await database().models.cards.findByPk(cardId))) throw new Refused('This card does not exist.', 404);
}

/** Makes an older revision's numbers the newest. @returns the new revision's number */
export async function restoreRevision(cardId: number, revisionId: number): Promise<number> {
  const card = await loadCard(cardId);
  const wanted = card?.revisions.find((revision) => revision.id === revisionId);
  if (!card || !wanted) throw new Refused('This revision does not exist.', 404);
  return addRevision({
    cardId,
    baseRevisionId: card.revisions[0].id,
    values: wanted.values,
    reason: `back to revision ${wanted.number}`,
  });
}

/** A card's moves, newest first. */
export async function trail(cardId: number, limit: number): Promise<TrailEntry[]> {
  const { models } = database();
  const revisions = await models.cardRevisions.findAll({ where: { cardId }, attributes: ['id', 'number'] });
  const numbers = new Map(revisions.map(({ id, number }) => [id, number]));
  const rows = await models.moves.findAll({
    where: { cardRevisionId: [...numbers.keys()] },
    order: [
      ['createdAt', 'DESC'],
      ['id', 'ASC'],
    ],
    limit,
  });
  return rows.map((row) => ({
    id: row.id,
    madeAt: row.createdAt.toISOString(),
    revision: numbers.get(row.cardRevisionId) ?? 0,
    overId: row.overId,
    dialId: row.dialId,
    from: row.fromValue,
    to: row.toValue,
    reason: row.reason,
    expected: row.expected,
    outcome: row.outcome,
  }));
}
