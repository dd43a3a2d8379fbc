/** What the station has: operators, rigs, microphones, receivers. */
import { type Model, type ModelStatic, type Transaction, UniqueConstraintError } from 'sequelize';
import type { Microphone, RigProfile } from '@/core/rig/index.ts';
import { readJson } from '@/core/schema/index.ts';
import { database } from '../db/database.ts';
import type { ReceiverKind, Trust } from '../db/models.ts';
import { refuseOvertaken } from '../requests/overtaken.ts';
import { Refused } from '../requests/refused.ts';
import type { PartKind } from '../requests/requests.ts';

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

/** What is to be kept of a part of the station. */
interface PartChange {
  /** A new one when left out. */
  readonly id?: number;
  readonly values: object;
  /** Values that the change was made from; unchecked when left out. */
  readonly base?: object;
}

/**
 * Adds a part of the station, or changes the one of that id.
 * @returns its id
 * @throws Refused when its name (an operator's callsign) is taken, it is not there, or somebody else was faster
 */
export async function keepPart(kind: PartKind, { id, values, base }: PartChange, transaction: Transaction): Promise<number> {
  const model = modelOf(kind);
  const unique = kind === 'operator' ? 'callsign' : 'name';
  const row = id === undefined ? null : await model.findByPk(id, { transaction, lock: true });
  if (id !== undefined && !row) throw new Refused(`This ${kind} does not exist.`, 404);
  if (row) refuseOvertaken(kind, row.get({ plain: true }), base);
  const wanted = (values as Record<string, unknown>)[unique];
  const taken = new Refused(`There is a ${kind} ${unique === 'name' ? 'named ' : ''}${wanted} already; nothing was saved.`, 409);
  const twin = await model.findOne({ where: { [unique]: wanted }, transaction });
  if (twin && twin.get('id') !== id) throw taken;
  try {
    if (!row) return (await model.create(values as never, { transaction })).get('id') as number;
    await row.update(values, { transaction });
    return row.get('id') as number;
  } catch (error) {
    throw error instanceof UniqueConstraintError ? taken : error;
  }
}

const keepAlone = (kind: PartKind, change: PartChange): Promise<number> =>
  database().sequelize.transaction((transaction) => keepPart(kind, change, transaction));

/** What a profile was changed from, out of its JSON. */
export const profileBase = (json: string | undefined): object | undefined => (json === undefined ? undefined : { profile: readJson(json) });

/** Puts a part away, or takes it out again. Cards and overs that name it keep it. */
export async function retirePart(kind: PartKind, id: number, isRetired: boolean): Promise<void> {
  const row = await modelOf(kind).findByPk(id);
  if (!row) throw new Refused(`This ${kind} does not exist.`, 404);
  await row.update({ retiredAt: isRetired ? new Date() : null });
}

type OperatorFields = Pick<OperatorView, 'name' | 'callsign' | 'note'>;
type ReceiverFields = Omit<ReceiverView, 'id' | 'isRetired'>;

/** A form as it comes in: its fields, and what they were when it was opened. */
type Form<Fields> = Fields & { readonly id?: number; readonly base?: Partial<Fields> };

/** @throws Refused when the callsign is taken, or somebody else was faster */
export const keepOperator = ({ id, base, name, callsign, note }: Form<OperatorFields>): Promise<number> =>
  keepAlone('operator', { id, base, values: { name: name.trim(), callsign: callsign.toUpperCase(), note } });

/** @throws Refused when the name is taken, the passband upside down, or somebody else was faster */
export async function keepReceiver({ id, base, ...values }: Form<ReceiverFields>): Promise<number> {
  if (values.lowHz >= values.highHz) {
    throw new Refused(`The passband ${values.lowHz} to ${values.highHz} Hz is upside down; nothing was saved.`);
  }
  return keepAlone('receiver', { id, base, values: { ...values, name: values.name.trim() } });
}

/** Keeps a checked microphone. @throws Refused when the name is taken, or somebody else was faster */
export const keepMicrophone = ({ id, profile, base }: { id?: number; profile: Microphone; base?: string }): Promise<number> =>
  keepAlone('microphone', { id, values: { name: profile.name, profile }, base: profileBase(base) });
