/** One card: loading it, making it, naming it, putting it away. */
import { literal, Op, type Transaction } from 'sequelize';
import {
  type CardFile,
  type DialValues,
  factoryCard,
  type Microphone,
  type MicrophoneUse,
  type Mode,
  type Purpose,
  parseCard,
  type RigProfile,
  usualUse,
} from '@/core/rig/index.ts';
import { database } from '../db/database.ts';
import type { CardRevision, CardRow } from '../db/models.ts';
import { refuseOvertaken } from '../requests/overtaken.ts';
import { Refused } from '../requests/refused.ts';

export interface RevisionView {
  readonly id: number;
  readonly number: number;
  readonly values: DialValues;
  readonly use: MicrophoneUse;
  readonly reason: string;
  readonly by: string;
  readonly madeAt: string;
}

export interface CardView {
  readonly id: number;
  readonly name: string;
  readonly mode: Mode;
  readonly purpose: Purpose;
  readonly isRetired: boolean;
  /** Number of the practice radio that it is for; null on cards of real radios. */
  readonly practiceRadio: number | null;
  /** Moves and findings that the operator has set aside. */
  readonly setAside: readonly string[];
  readonly operator: { readonly id: number; readonly name: string; readonly callsign: string };
  readonly rig: { readonly id: number; readonly name: string; readonly profile: RigProfile };
  readonly microphone: { readonly id: number; readonly name: string; readonly profile: Microphone };
  /** The newest first, and as many of the older ones as were asked for. Numbers have no gaps. */
  readonly revisions: readonly RevisionView[];
}

/** How a card is asked for. */
interface CardLoading {
  /** So many of its newest revisions. */
  readonly revisions?: number;
  readonly transaction?: Transaction;
}

/** A card with its newest revision. @returns null when there is no such card */
export const loadCard = async (id: number, loading: CardLoading = {}): Promise<CardView | null> =>
  (await loadCards([id], loading))[0] ?? null;

/** Cards of these numbers, in this order; those that are not there are left out. */
export async function loadCards(ids: readonly number[], { revisions = 1, transaction }: CardLoading = {}): Promise<CardView[]> {
  if (ids.length === 0) return [];
  const { models } = database();
  const found = await models.cards.findAll({ where: { id: [...ids] }, transaction });
  const of = (key: 'operatorId' | 'rigId' | 'microphoneId') => ({
    where: { id: [...new Set(found.map((card) => card[key]))] },
    transaction,
  });
  // Cards of one rig share its profile: fetched, read and sent to the page once.
  const parts: Parts = {
    operators: new Map((await models.operators.findAll(of('operatorId'))).map(({ id, name, callsign }) => [id, { id, name, callsign }])),
    rigs: new Map((await models.rigs.findAll(of('rigId'))).map(({ id, name, profile }) => [id, { id, name, profile }])),
    microphones: new Map(
      (await models.microphones.findAll(of('microphoneId'))).map(({ id, name, profile }) => [id, { id, name, profile }]),
    ),
  };
  const rows = await models.cardRevisions.findAll({
    where: {
      cardId: found.map((card) => card.id),
      number: {
        [Op.gt]: literal(
          `(SELECT CAST(MAX(x.number) AS SIGNED) FROM card_revisions x FORCE INDEX (card_id) WHERE x.card_id = card_revisions.card_id) - ${Math.floor(revisions)}`,
        ),
      },
    },
    order: [['number', 'DESC']],
    transaction,
  });
  const views = new Map(
    found.map((card) => [
      card.id,
      viewOf(
        card,
        rows.filter((row) => row.cardId === card.id),
        parts,
      ),
    ]),
  );
  return ids.flatMap((id) => views.get(id) ?? []);
}

interface Parts {
  readonly operators: ReadonlyMap<number, CardView['operator']>;
  readonly rigs: ReadonlyMap<number, CardView['rig']>;
  readonly microphones: ReadonlyMap<number, CardView['microphone']>;
}

function viewOf(card: CardRow, revisions: readonly CardRevision[], parts: Parts): CardView {
  const { id } = card;
  const operator = parts.operators.get(card.operatorId);
  const rig = parts.rigs.get(card.rigId);
  const microphone = parts.microphones.get(card.microphoneId);
  if (!operator || !rig || !microphone || revisions.length === 0) throw new Error(`Card ${id} is not whole.`);
  return {
    id,
    name: card.name,
    mode: card.mode,
    purpose: card.purpose,
    isRetired: card.retiredAt !== null,
    practiceRadio: card.practiceRadio,
    setAside: card.setAside ?? [],
    operator,
    rig,
    microphone,
    revisions: revisions.map((row) => revisionOf(row, microphone.profile)),
  };
}

const revisionOf = (row: CardRevision, microphone: Microphone): RevisionView => ({
  id: row.id,
  number: row.number,
  values: row.values,
  use: row.microphoneUse ?? usualUse(microphone),
  reason: row.reason,
  by: row.madeBy,
  madeAt: row.createdAt.toISOString(),
});

/** So many revisions are shown at a time. */
export const REVISIONS_SHOWN = 20;

/** Revisions of a card before a number, newest first. */
export async function olderRevisions(
  { id, microphone }: Pick<CardView, 'id' | 'microphone'>,
  before: number,
  limit: number,
): Promise<RevisionView[]> {
  const where = { cardId: id, number: { [Op.lt]: before } };
  const rows = await database().models.cardRevisions.findAll({ where, order: [['number', 'DESC']], limit });
  return rows.map((row) => revisionOf(row, microphone.profile));
}

/** One revision of a card; null when it has none of that number. */
export async function revisionOfCard(
  { id, microphone }: Pick<CardView, 'id' | 'microphone'>,
  number: number,
): Promise<RevisionView | null> {
  const row = await database().models.cardRevisions.findOne({ where: { cardId: id, number } });
  return row && revisionOf(row, microphone.profile);
}

export interface NewCard {
  readonly name: string;
  readonly operatorId: number;
  readonly rigId: number;
  readonly microphoneId: number;
  readonly mode: Mode;
  readonly purpose: Purpose;
  /** Where the dials stand; factory values for those left out. */
  readonly values?: DialValues;
  readonly use?: MicrophoneUse;
  readonly reason?: string;
  readonly by?: string;
  readonly practiceRadio?: number;
  /** The card that it begins as. */
  readonly practiceOf?: number;
}

/** Makes a card with its revision 1. @throws Refused; InvalidInput for bad values */
export async function createCard(input: NewCard): Promise<number> {
  const { sequelize, models } = database();
  const { values = {}, use, reason = 'new card, factory values', by = '', ...card } = input;
  const [rig, operator, microphone] = await Promise.all([
    models.rigs.findByPk(card.rigId),
    models.operators.findByPk(card.operatorId),
    models.microphones.findByPk(card.microphoneId),
  ]);
  if (!rig || !operator || !microphone) throw new Refused('The operator, rig or microphone of this card does not exist.', 404);
  parseCard({ format: 'dialtune-card', version: 1, mode: card.mode, values }, rig.profile);
  const all = { ...factoryCard(rig.profile, card.mode).values, ...values };
  const microphoneUse = checkedUse(microphone.profile, use ?? usualUse(microphone.profile));
  return sequelize.transaction(async (transaction) => {
    const row = await models.cards.create({ ...card, name: card.name.trim() }, { transaction });
    await models.cardRevisions.create(
      { cardId: row.id, number: 1, values: all, microphoneUse, reason, madeBy: by || operator.name },
      { transaction },
    );
    return row.id;
  });
}

/** @throws Refused when the microphone has no such position or accessory */
export function checkedUse({ name, positions, accessories }: Microphone, use: MicrophoneUse): MicrophoneUse {
  if (use.position !== null && !positions.some((each) => each.name === use.position)) {
    throw new Refused(`${name} has no position "${use.position}".`);
  }
  const unknown = use.accessories.find((each) => !accessories.some((own) => own.name === each));
  if (unknown !== undefined) throw new Refused(`${name} has no accessory "${unknown}".`);
  return use;
}

/** What a card is called and what it is for. */
export interface CardNaming {
  readonly name: string;
  readonly purpose: Purpose;
}

/**
 * Changes what a card is called or what it is for.
 * @param base what the change was made from
 * @throws Refused when there is none, or somebody else was faster
 */
export async function changeCard(
  id: number,
  { name, purpose, isRetired, base }: Partial<CardNaming> & { isRetired?: boolean; base?: Partial<CardNaming> },
): Promise<void> {
  const { sequelize, models } = database();
  await sequelize.transaction(async (transaction) => {
    const card = await models.cards.findByPk(id, { transaction, lock: true });
    if (!card) throw new Refused('This card does not exist.', 404);
    refuseOvertaken('card', { name: card.name, purpose: card.purpose }, base);
    await card.update(
      {
        ...(name === undefined ? {} : { name: name.trim() }),
        ...(purpose === undefined ? {} : { purpose }),
        ...(isRetired === undefined ? {} : { retiredAt: isRetired ? new Date() : null }),
      },
      { transaction },
    );
  });
}

/** Remembers what is not wanted on a card. @throws Refused when there is none */
export async function setAsideOn(id: number, setAside: readonly string[]): Promise<void> {
  const card = await database().models.cards.findByPk(id);
  if (!card) throw new Refused('This card does not exist.', 404);
  await card.update({ setAside: setAside.length === 0 ? null : [...setAside] });
}

/** What a card file says beside the numbers. */
export type CardFacts = Pick<CardView, 'name' | 'mode' | 'purpose'> & {
  readonly operator: Pick<CardView['operator'], 'callsign'>;
  readonly rig: Pick<CardView['rig'], 'name'>;
  readonly microphone: Pick<CardView['microphone'], 'name'>;
};

/** A card's revision as a file. */
export const cardFile = (card: CardFacts, revision: Pick<RevisionView, 'use' | 'values'>): CardFile => ({
  format: 'dialtune-card',
  version: 1,
  name: card.name,
  rig: card.rig.name,
  operator: card.operator.callsign,
  microphone: card.microphone.name,
  mode: card.mode,
  purpose: card.purpose,
  use: revision.use,
  values: revision.values,
});
