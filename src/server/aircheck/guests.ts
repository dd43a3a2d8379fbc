/**
 * A guest: another station with as much of its radio as it tells on the air. It is a station like our own, but put
 * away from the start: it stands in the log and in no list to choose from.
 */
import type { Transaction } from 'sequelize';
import { factoryCard, guestRig, type Microphone, usualUse } from '@/core/rig/index.ts';
import { database } from '../db/database.ts';
import { Refused } from '../requests/refused.ts';
import type { RequestOf } from '../requests/requests.ts';

/** Written into the note of operators who are guests. */
const GUEST = 'guest of an air check';
const putAway = () => ({ retiredAt: new Date() });
/** Nothing is known of it: flat, as it comes. */
const guestMicrophone = (name: string): Microphone => ({
  format: 'dialtune-microphone',
  version: 1,
  name,
  kind: 'as it comes',
  pattern: 'cardioid',
  level: 'medium',
  distanceCm: 5,
  positions: [
    {
      name: 'flat',
      curve: [
        [100, 0],
        [6000, 0],
      ],
    },
  ],
  accessories: [],
});

/**
 * Begins a check of another station: adds it, with a card for its radio.
 * @returns the check's number
 * @throws InvalidInput for slider frequencies that can't be read
 */
export async function checkGuest({ callsign, name, path, mode, ...radio }: RequestOf<'guestCheck'>): Promise<number> {
  const call = callsign.toUpperCase();
  const profile = guestRig({ ...radio, name: `${call}: radio` });
  if (!profile.modes.includes(mode)) throw new Refused('This radio has no such mode.');
  const { models, sequelize } = database();
  return sequelize.transaction(async (transaction) => {
    const operatorId = await operatorOf(call, name.trim() || call, transaction);
    const rigId = (await models.rigs.create({ ...(await freeName(`${call}: radio`, profile, transaction)), ...putAway() }, { transaction }))
      .id;
    const microphone = await freeName(`${call}: microphone`, guestMicrophone(`${call}: microphone`), transaction);
    const microphoneId = (await models.microphones.create({ ...microphone, ...putAway() }, { transaction })).id;
    const card = await models.cards.create(
      { name: `${call} on the air`, operatorId, rigId, microphoneId, mode, purpose: 'balanced', ...putAway() },
      { transaction },
    );
    const values = factoryCard(profile, mode).values;
    const revision = await models.cardRevisions.create(
      { cardId: card.id, number: 1, values, microphoneUse: usualUse(microphone.profile), reason: 'before anything was told', madeBy: call },
      { transaction },
    );
    const check = await models.airChecks.create({ cardRevisionId: revision.id, side: 'checking', station: call, path }, { transaction });
    return check.id;
  });
}

/** Somebody who is here already, else a new guest. */
async function operatorOf(callsign: string, name: string, transaction: Transaction): Promise<number> {
  const { operators } = database().models;
  const known = await operators.findOne({ where: { callsign }, transaction });
  return known?.id ?? (await operators.create({ callsign, name, note: GUEST, ...putAway() }, { transaction })).id;
}

/** A name that nothing else has: a guest may come back with another radio. */
async function freeName<P extends { readonly name: string }>(
  wanted: string,
  profile: P,
  transaction: Transaction,
): Promise<{ name: string; profile: P }> {
  const { rigs, microphones } = database().models;
  for (let number = 1; ; number++) {
    const name = number === 1 ? wanted : `${wanted} ${number}`;
    const options = { where: { name }, transaction };
    if (!(await rigs.findOne(options)) && !(await microphones.findOne(options))) return { name, profile: { ...profile, name } };
  }
}
