/** What the station has: operators, rigs, microphones, receivers. */
import type { Model, ModelStatic } from 'sequelize';
import type { Microphone } from '../../core/station/microphone.ts';
import type { RigProfile } from '../../core/station/rig.ts';
import { database } from '../database.ts';
import type { ReceiverKind, Trust } from '../models.ts';
import { Refused } from '../refused.ts';

export const PART_KINDS = ['operator', 'rig', 'microphone', 'receiver'] as const;
export type PartKind = (typeof PART_KINDS)[number];

export interface OperatorView {
  readonly id: number;
  readonly name: string;
  readonly callsign: string;
  readonly note: string;
  readonly isRetired: boolean;
}
export interface RigView {
  readonly id: number;
  readonly name: string;
  readonly profile: RigProfile;
  readonly isRetired: boolean;
}
export interface MicrophoneView {
  readonly id: number;
  readonly name: string;
  readonly profile: Microphone;
  readonly isRetired: boolean;
}
export interface ReceiverView {
  readonly id: number;
  readonly name: string;
  readonly kind: ReceiverKind;
  readonly lowHz: number;
  readonly highHz: number;
  readonly agc: string;
  readonly path: string;
  readonly trust: Trust;
  readonly note: string;
  readonly isRetired: boolean;
}
export interface Station {
  readonly operators: readonly OperatorView[];
  readonly rigs: readonly RigView[];
  readonly microphones: readonly MicrophoneView[];
  readonly receivers: readonly ReceiverView[];
}

/** Everything, by name, as plain values. @param withRetired also what was put away */
export async function loadStation({ withRetired = false } = {}): Promise<Station> {
  const { models } = database();
  const options = { order: [['name', 'ASC']] as [string, string][], where: withRetired ? {} : { retiredAt: null } };
  const [operators, rigs, microphones, receivers] = await Promise.all([
    models.operators.findAll(options),
    models.rigs.findAll(options),
    models.microphones.findAll(options),
    models.receivers.findAll(options),
  ]);
  const retired = (row: { retiredAt: Date | null }) => ({ isRetired: isRetired(row) });
  return {
    operators: operators.map((row) => ({ id: row.id, name: row.name, callsign: row.callsign, note: row.note, ...retired(row) })),
    rigs: rigs.map((row) => ({ id: row.id, name: row.name, profile: row.profile, ...retired(row) })),
    microphones: microphones.map((row) => ({ id: row.id, name: row.name, profile: row.profile, ...retired(row) })),
    receivers: receivers.map((row) => ({
      id: row.id,
      name: row.name,
      kind: row.kind,
      lowHz: row.lowHz,
      highHz: row.highHz,
      agc: row.agc,
      path: row.path,
      trust: row.trust,
      note: row.note,
      ...retired(row),
    })),
  };
}

const isRetired = ({ retiredAt }: { retiredAt: Date | null }): boolean => retiredAt !== null;

/** @returns null when there is no such rig */
export async function loadRig(id: number): Promise<RigView | null> {
  const row = await database().models.rigs.findByPk(id);
  return row && { id: row.id, name: row.name, profile: row.profile, isRetired: isRetired(row) };
}

/** @returns null when there is no such microphone */
export async function loadMicrophone(id: number): Promise<MicrophoneView | null> {
  const row = await database().models.microphones.findByPk(id);
  return row && { id: row.id, name: row.name, profile: row.profile, isRetired: isRetired(row) };
}

const modelOf = (kind: PartKind): ModelStatic<Model> => {
  const { operators, rigs, microphones, receivers } = database().models;
  return { operator: operators, rig: rigs, microphone: microphones, receiver: receivers }[kind] as unknown as ModelStatic<Model>;
};

/**
 * Adds a part of the station, or changes the one of that id.
 * @param unique the column that no two may share
 * @returns its id
 */
export async function keepPart(
  kind: PartKind,
  id: number | undefined,
  values: object,
  unique: 'name' | 'callsign' = 'name',
): Promise<number> {
  const model = modelOf(kind);
  const wanted = (values as Record<string, unknown>)[unique];
  const twin = await model.findOne({ where: { [unique]: wanted } });
  if (twin && twin.get('id') !== id) {
    throw new Refused(`There is a ${kind} ${unique === 'name' ? 'named ' : ''}${wanted} already; nothing was saved.`, 409);
  }
  if (id === undefined) return (await model.create(values as never)).get('id') as number;
  const row = await model.findByPk(id);
  if (!row) throw new Refused(`This ${kind} does not exist.`, 404);
  await row.update(values);
  return id;
}

/** Puts a part away, or takes it out again. Cards and overs that name it keep it. */
export async function retirePart(kind: PartKind, id: number, isRetired: boolean): Promise<void> {
  const row = await modelOf(kind).findByPk(id);
  if (!row) throw new Refused(`This ${kind} does not exist.`, 404);
  await row.update({ retiredAt: isRetired ? new Date() : null });
}

/** @throws Refused when the callsign is taken */
export const keepOperator = ({
  id,
  name,
  callsign,
  note,
}: {
  id?: number;
  name: string;
  callsign: string;
  note: string;
}): Promise<number> => keepPart('operator', id, { name: name.trim(), callsign: callsign.toUpperCase(), note }, 'callsign');

/** @throws Refused when the name is taken or the passband upside down */
export async function keepReceiver({ id, ...values }: Omit<ReceiverView, 'id' | 'isRetired'> & { id?: number }): Promise<number> {
  if (values.lowHz >= values.highHz) {
    throw new Refused(`The passband ${values.lowHz} to ${values.highHz} Hz is upside down; nothing was saved.`);
  }
  return keepPart('receiver', id, { ...values, name: values.name.trim() });
}

/** Keeps a checked microphone. @throws Refused when the name is taken */
export const keepMicrophone = (id: number | undefined, profile: Microphone): Promise<number> =>
  keepPart('microphone', id, { name: profile.name, profile });

/**
 * Refuses a change of a profile that somebody else has changed meanwhile.
 * @param base the profile's JSON that the change was made from; unchecked when left out
 */
export async function refuseOvertaken(kind: 'rig' | 'microphone', id: number | undefined, base: string | undefined): Promise<void> {
  if (id === undefined || base === undefined) return;
  const row = await modelOf(kind).findByPk(id);
  if (row && JSON.stringify(row.get('profile')) !== base) {
    throw new Refused(`This ${kind} was changed meanwhile by somebody else. Nothing was saved; open it again in another tab to see.`, 409);
  }
}
