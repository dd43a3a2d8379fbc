/** What the station has: operators, rigs, microphones, receivers. */
import type { RigProfile } from '../core/station/rig.ts';
import { database } from './database.ts';
import type { ReceiverKind } from './models.ts';
import { Refused } from './refused.ts';

/** Everything, by name, as plain values. */
export async function loadStation() {
  const { models } = database();
  const order: [string, string][] = [['name', 'ASC']];
  const [operators, rigs, microphones, receivers] = await Promise.all([
    models.operators.findAll({ order }),
    models.rigs.findAll({ order }),
    models.microphones.findAll({ order }),
    models.receivers.findAll({ order }),
  ]);
  return {
    operators: operators.map(({ id, name, callsign, note }) => ({ id, name, callsign, note })),
    rigs: rigs.map(({ id, name, profile }) => ({ id, name, profile })),
    microphones: microphones.map(({ id, name, kind, distanceCm, note }) => ({ id, name, kind, distanceCm, note })),
    receivers: receivers.map(({ id, name, kind, lowHz, highHz, note }) => ({ id, name, kind, lowHz, highHz, note })),
  };
}

export type Station = Awaited<ReturnType<typeof loadStation>>;

/** Adds a checked rig profile. @throws Refused when the name is taken */
export async function addRig(profile: RigProfile): Promise<number> {
  const { rigs } = database().models;
  if (await rigs.findOne({ where: { name: profile.name } })) {
    throw new Refused(`There is a rig named ${profile.name} already; nothing was added.`, 409);
  }
  return (await rigs.create({ name: profile.name, profile })).id;
}

/** Adds a microphone. @throws Refused when the name is taken */
export async function addMicrophone(input: { name: string; kind: string; distanceCm: number | null }): Promise<number> {
  const { microphones } = database().models;
  if (await microphones.findOne({ where: { name: input.name } })) {
    throw new Refused(`There is a microphone named ${input.name} already; nothing was added.`, 409);
  }
  return (await microphones.create({ ...input, note: '' })).id;
}

/** Adds a receiver. @throws Refused when the name is taken or its passband is upside down */
export async function addReceiver(input: { name: string; kind: ReceiverKind; lowHz: number; highHz: number }): Promise<number> {
  const { receivers } = database().models;
  if (input.lowHz >= input.highHz) {
    throw new Refused(`The passband ${input.lowHz} to ${input.highHz} Hz is upside down; nothing was added.`);
  }
  if (await receivers.findOne({ where: { name: input.name } })) {
    throw new Refused(`There is a receiver named ${input.name} already; nothing was added.`, 409);
  }
  return (await receivers.create({ ...input, note: '' })).id;
}

/** Adds an operator. @throws Refused when the callsign is taken */
export async function addOperator(name: string, callsign: string): Promise<number> {
  const { operators } = database().models;
  if (await operators.findOne({ where: { callsign } })) throw new Refused(`${callsign} is here already; nothing was added.`, 409);
  return (await operators.create({ name, callsign, note: '' })).id;
}
