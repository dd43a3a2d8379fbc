/** A card's append-only revisions: adding one with its moves, going back, and the trail. */
import { QueryTypes, type Transaction, UniqueConstraintError } from 'sequelize';
import { type Expectation, estimateTone, expectTogether } from '@/core/advice/index.ts';
import {
  type Card,
  type DialValue,
  type DialValues,
  dialOf,
  effective,
  fittingUse,
  isSameUse,
  type MicrophoneUse,
  type Mode,
  parseCard,
  responseOf,
  valueOn,
} from '@/core/rig/index.ts';
import { database } from '../db/database.ts';
import type { Outcome } from '../db/models.ts';
import { oversLike } from '../overs/oversLike.ts';
import { loadOver } from '../overs/overView.ts';
import { Refused } from '../requests/refused.ts';
import { type CardView, checkedUse, loadCard, olderRevisions, type RevisionView, revisionOfCard } from './cards.ts';
import { targetFor } from './targets.ts';

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

export interface NewRevision {
  readonly cardId: number;
  /** The revision the change was made from; if it is no longer the newest, the change is refused. */
  readonly baseRevisionId: number;
  readonly values: DialValues;
  /** How the microphone is used from now on, where that changes. */
  readonly use?: MicrophoneUse;
  readonly reason: string;
  /** Who made the change; the card's operator when left out. */
  readonly by?: string;
  /** The over the change was worked out from. */
  readonly overId?: number;
  /** Reason of each changed dial. */
  readonly why?: Readonly<Record<string, string>>;
}

/**
 * Appends a revision and one move a changed dial, with what to expect of it.
 * @param within a transaction that other changes belong to
 * @returns the new revision's number
 * @throws Refused when someone else changed the card meanwhile, or nothing changed; InvalidInput for bad values
 */
export async function addRevision(change: NewRevision, within?: Transaction): Promise<number> {
  const card = await loadCard(change.cardId, { transaction: within });
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
  const use = change.use ? checkedUse(card.microphone.profile, change.use) : fittingUse(card.microphone.profile, newest.use);
  if (changed.length === 0 && isSameUse(use, newest.use)) throw new Refused('Nothing has changed; no revision was made.');
  const moves = changed.map((dial) => ({ dial: dialOf(rig, dial.id), to: valueOn(to, dial) }));
  const expected = await expectations(card, from, moves, change.overId);
  const step = { change, card, from, values: to.values, use, moves, expected };
  try {
    if (within) await keepRevision(step, within);
    else await database().sequelize.transaction((transaction) => keepRevision(step, transaction));
  } catch (error) {
    if (!(error instanceof UniqueConstraintError)) throw error;
    throw new Refused('This card was changed meanwhile. Nothing was saved; reload to see it.', 409);
  }
  return newest.number + 1;
}

/** A change that has been found good. */
interface Step {
  readonly change: NewRevision;
  readonly card: CardView;
  readonly from: Card;
  readonly values: DialValues;
  readonly use: MicrophoneUse;
  readonly moves: Parameters<typeof expectTogether>[2];
  readonly expected: readonly (Expectation | null)[];
}

async function keepRevision({ change, card, from, values, use, moves, expected }: Step, transaction: Transaction): Promise<void> {
  const { models } = database();
  const [newest] = card.revisions;
  const by = change.by || card.operator.name;
  const revision = await models.cardRevisions.create(
    { cardId: card.id, number: newest.number + 1, values, microphoneUse: use, reason: change.reason, madeBy: by },
    { transaction },
  );
  await models.cards.update({ changedAt: new Date() }, { where: { id: card.id }, transaction });
  const rows = moves.map(({ dial, to: toValue }, i) => ({
    cardRevisionId: revision.id,
    fromRevisionId: newest.id,
    overId: change.overId ?? null,
    dialId: dial.id,
    fromValue: valueOn(from, dial),
    toValue,
    reason: (change.why?.[dial.id] ?? '').slice(0, 300),
    expected: expected[i],
    outcome: null,
  }));
  await models.moves.bulkCreate(rows, { transaction });
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
  const heardWith = { mode: card.mode, values: over.revision.values };
  const own = { voice, responseDb: responseOf(over.rig.profile, heardWith) };
  const { basis } = estimateTone([own, ...(await oversLike(over))], await targetFor(card.purpose), passbandHz);
  if (basis.bands.length < 3) return moves.map(() => null);
  return expectTogether({ rig, heardWith, voice, basis, passbandHz }, from, moves);
}

const UNDO = 'undone: as in revision ';

/** Makes an older revision's numbers the newest. @returns the new revision's number */
export async function restoreRevision(cardId: number, revisionId: number, by?: string): Promise<number> {
  const card = await loadCard(cardId);
  const row = await database().models.cardRevisions.findOne({ where: { id: revisionId, cardId }, attributes: ['number'] });
  const wanted = card && row && (await revisionOfCard(card, row.number));
  if (!card || !wanted) throw new Refused('This revision does not exist.', 404);
  return goBack(card, wanted, 'back to revision ', by);
}

/** What of an older revision the radio and microphone still have, as a new one. */
function goBack(card: CardView, wanted: RevisionView, reason: string, by?: string): Promise<number> {
  const known = new Set(card.rig.profile.dials.map(({ id }) => id));
  return addRevision({
    cardId: card.id,
    baseRevisionId: card.revisions[0].id,
    values: Object.fromEntries(Object.entries(wanted.values).filter(([id]) => known.has(id))),
    use: fittingUse(card.microphone.profile, wanted.use),
    reason: `${reason}${wanted.number}`,
    by,
  });
}

/**
 * Takes back a card's last change, as a revision of its own. Doing it again goes one further back.
 * @param baseRevisionId what the page shows as the newest
 * @throws Refused when there is nothing before it, or the card was changed meanwhile
 */
export async function undoRevision(cardId: number, baseRevisionId: number, by?: string): Promise<number> {
  const card = await loadCard(cardId);
  if (!card) throw new Refused('This card does not exist.', 404);
  const [newest] = card.revisions;
  if (newest.id !== baseRevisionId) throw new Refused('This card was changed meanwhile. Nothing was undone; reload to see it.', 409);
  // A revision that was an undo itself stands for the one it went back to.
  const shown = Number(newest.reason.startsWith(UNDO) ? newest.reason.slice(UNDO.length) : newest.number);
  const [before] = await olderRevisions(card, shown, 1);
  if (!before) throw new Refused('There is nothing to undo: this is how the card began.');
  return goBack(card, before, UNDO, by);
}

/** A card as it stands now. */
export interface CardNow {
  readonly id: number;
  readonly name: string;
  readonly mode: Mode;
  readonly values: DialValues;
  readonly revisionId: number;
}

/** The cards of a rig as they stand now. */
export async function newestRevisions(rigId: number, transaction?: Transaction): Promise<readonly CardNow[]> {
  const rows = await database().sequelize.query<Omit<CardNow, 'values'> & { dialValues: string }>(
    `SELECT c.id, c.name, c.mode, r.id AS revisionId, r.dial_values AS dialValues FROM cards c JOIN card_revisions r ON r.card_id = c.id
       AND r.number = (SELECT MAX(x.number) FROM card_revisions x FORCE INDEX (card_id) WHERE x.card_id = c.id) WHERE c.rig_id = :rigId ORDER BY c.id`,
    { type: QueryTypes.SELECT, replacements: { rigId }, transaction },
  );
  return rows.map(({ dialValues, ...row }) => ({ ...row, values: JSON.parse(dialValues) }));
}

/** A card's moves, newest first. */
export async function trail(cardId: number, limit: number): Promise<TrailEntry[]> {
  const rows = await database().sequelize.query<
    Record<'from' | 'to' | 'expected' | 'outcome', string> & Omit<TrailEntry, 'madeAt'> & { madeAt: Date }
  >(
    `SELECT m.id, m.created_at AS madeAt, r.number AS revision, m.over_id AS overId, m.dial_id AS dialId, m.from_value AS \`from\`,
       m.to_value AS \`to\`, m.reason, m.expected, m.outcome
     FROM card_revisions r STRAIGHT_JOIN moves m ON m.card_revision_id = r.id WHERE r.card_id = :cardId
     ORDER BY m.created_at DESC, m.id ASC LIMIT :limit`,
    { type: QueryTypes.SELECT, replacements: { cardId, limit } },
  );
  return rows.map((row) => ({
    ...row,
    madeAt: new Date(row.madeAt).toISOString(),
    from: JSON.parse(row.from),
    to: JSON.parse(row.to),
    expected: JSON.parse(row.expected ?? 'null'),
    outcome: JSON.parse(row.outcome ?? 'null'),
  }));
}
