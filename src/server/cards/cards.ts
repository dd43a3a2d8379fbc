/** One card: loading it, making it, naming it, putting it away. */
import { type CardFile, type DialValues, factoryCard, type Purpose } from '../../core/station/card.ts';
import { type Microphone, type MicrophoneUse, usualUse } from '../../core/station/microphone.ts';
import type { Mode, RigProfile } from '../../core/station/rig.ts';
import { parseCard } from '../../core/station/validate.ts';
import { database } from '../database.ts';
import { Refused } from '../refused.ts';

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
  readonly operator: { readonly id: number; readonly name: string; readonly callsign: string };
  readonly rig: { readonly id: number; readonly name: string; readonly profile: RigProfile };
  readonly microphone: { readonly id: number; readonly name: string; readonly profile: Microphone };
  /** Newest first. */
  readonly revisions: readonly RevisionView[];
}

/** @returns null when there is no such card */
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
    isRetired: card.retiredAt !== null,
    operator: { id: operator.id, name: operator.name, callsign: operator.callsign },
    rig: { id: rig.id, name: rig.name, profile: rig.profile },
    microphone: { id: microphone.id, name: microphone.name, profile: microphone.profile },
    revisions: revisions.map((row) => ({
      id: row.id,
      number: row.number,
      values: row.values,
      use: row.microphoneUse ?? usualUse(microphone.profile),
      reason: row.reason,
      by: row.madeBy,
      madeAt: row.createdAt.toISOString(),
    })),
  };
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

/** Changes what a card is called or what it is for. @throws Refused when there is none */
export async function changeCard(id: number, change: { name?: string; purpose?: Purpose; isRetired?: boolean }): Promise<void> {
  const card = await database().models.cards.findByPk(id);
  if (!card) throw new Refused('This card does not exist.', 404);
  const { name, purpose, isRetired } = change;
  await card.update({
    ...(name === undefined ? {} : { name: name.trim() }),
    ...(purpose === undefined ? {} : { purpose }),
    ...(isRetired === undefined ? {} : { retiredAt: isRetired ? new Date() : null }),
  });
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
