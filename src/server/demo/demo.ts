/** Loads the demo scenario (folder demo/) into an empty database, through the same doors as real data. */
import { createHash } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { bytesInMemory } from '@/core/files/index.ts';
import { type MeasurementKind, measureFile } from '@/core/measure/index.ts';
import { type Card, type DialValues, type Microphone, type Purpose, parseMicrophone, parseRig } from '@/core/rig/index.ts';
import { emptyTheStation } from '../backup/emptyTheStation.ts';
import { cardPassband } from '../cards/cardPassband.ts';
import { createCard, loadCard } from '../cards/cards.ts';
import { addRevision } from '../cards/revisions.ts';
import { database } from '../db/database.ts';
import { resultColumns } from '../db/listColumns.ts';
import type { CaptureSettings, Load, ReceiverKind, Trust } from '../db/models.ts';
import { settleMoves } from '../overs/outcomes.ts';
import { type IncomingCapture, storeCapture } from '../overs/storeCapture.ts';
import { enterOnAir, type OnAirEvent } from './onAir.ts';

/** demo/scenario.json. Times are days before the day of loading, and a UTC time of day. */
export interface Scenario {
  readonly operators: readonly { name: string; callsign: string; note: string }[];
  readonly microphones: readonly Microphone[];
  readonly rigs: readonly string[];
  readonly receivers: readonly {
    name: string;
    kind: ReceiverKind;
    lowHz: number;
    highHz: number;
    agc: string;
    path: string;
    trust: Trust;
    note: string;
  }[];
  readonly cards: readonly {
    key: string;
    name: string;
    operator: string;
    rig: string;
    microphone: string;
    mode: Card['mode'];
    purpose: Purpose;
    start: DialValues;
    /** Why revision 1 is as it is; "as found on the radio" when left out. */
    reason?: string;
  }[];
  /** Radios as they stand: the values of a card, but for some. */
  readonly radios: readonly { rig: string; card: string; revision: number; but: DialValues; at: [daysBefore: number, time: string] }[];
  readonly memories: readonly {
    rig: string;
    slot: number;
    words: string;
    card: string;
    revision: number;
    at: [daysBefore: number, time: string];
  }[];
  readonly events: readonly (
    | {
        kind: 'over';
        key: string;
        at: [daysBefore: number, time: string];
        card: string;
        receiver: string;
        load: Load;
        powerW: number;
        alcReading: number | null;
        note: string;
        file: string;
        /** What the file is; a voice when left out. */
        measureAs?: MeasurementKind;
        settings?: CaptureSettings;
        /** The same over on further receivers. */
        also?: readonly { receiver: string; file: string }[];
      }
    | {
        kind: 'revision';
        at: [daysBefore: number, time: string];
        card: string;
        over: string | null;
        values: DialValues;
        reason: string;
        why: Readonly<Record<string, string>>;
      }
  )[];
  /** What happened on the air, entered last: overs on several receivers, reports, air checks. */
  readonly onAir: readonly (Scenario['events'][number] | OnAirEvent)[];
}

/** demo/evidence.json: captures that are no voices, made by demo/evidence.ts. */
export type DemoEvidence = readonly Extract<Scenario['events'][number], { kind: 'over' }>[];

const at = (today: Date, [daysBefore, time]: [number, string]): Date => {
  const day = new Date(today.getTime() - daysBefore * 86_400_000).toISOString().slice(0, 10);
  return new Date(`${day}T${time}:00.000Z`);
};

/** @param folder the project's demo folder; @param today dates count back from here */
export async function loadDemo(folder: string, today: Date): Promise<void> {
  const { models } = database();
  const isBrokenOff = (await models.demo.count({ where: { state: 'loading' } })) > 0;
  // What a broken-off loading left.
  if (isBrokenOff) await emptyTheStation();
  else if ((await models.operators.count()) > 0) return;
  await models.demo.create({ state: 'loading' });
  await fill(folder, today);
  await models.demo.update({ state: 'done' }, { where: {} });
}

async function fill(folder: string, today: Date): Promise<void> {
  const { models } = database();
  const read = async (name: string) => JSON.parse(await readFile(join(folder, name), 'utf8'));
  const scenario: Scenario = await read('scenario.json');
  const ids = {
    operators: new Map<string, number>(),
    microphones: new Map<string, number>(),
    rigs: new Map<string, number>(),
    receivers: new Map<string, number>(),
    cards: new Map<string, number>(),
    overs: new Map<string, number>(),
  };
  for (const row of scenario.operators) ids.operators.set(row.name, (await models.operators.create(row)).id);
  for (const each of scenario.microphones) {
    const profile = parseMicrophone(each);
    ids.microphones.set(profile.name, (await models.microphones.create({ name: profile.name, profile })).id);
  }
  for (const row of scenario.receivers) ids.receivers.set(row.name, (await models.receivers.create(row)).id);
  for (const file of scenario.rigs) {
    const profile = parseRig(await read(file));
    ids.rigs.set(profile.name, (await models.rigs.create({ name: profile.name, profile })).id);
  }
  const find = (map: Map<string, number>, key: string): number => {
    const id = map.get(key);
    if (id === undefined) throw new Error(`The demo scenario names "${key}", which it does not have.`);
    return id;
  };
  const opened = at(today, [7, '18:00']);
  for (const card of scenario.cards) {
    const id = await createCard({
      name: card.name,
      operatorId: find(ids.operators, card.operator),
      rigId: find(ids.rigs, card.rig),
      microphoneId: find(ids.microphones, card.microphone),
      mode: card.mode,
      purpose: card.purpose,
      values: card.start,
      reason: card.reason ?? 'as found on the radio',
    });
    ids.cards.set(card.key, id);
    await models.cardRevisions.update({ createdAt: opened }, { where: { cardId: id } });
    await models.cards.update({ createdAt: opened, changedAt: opened }, { where: { id } });
  }
  const evidence: DemoEvidence = await read('evidence.json');
  for (const event of [...scenario.events, ...evidence, ...scenario.onAir]) {
    if (event.kind !== 'over' && event.kind !== 'revision') {
      await enterOnAir(event, { card: (key) => find(ids.cards, key), time: (when) => at(today, when) });
      continue;
    }
    const cardId = find(ids.cards, event.card);
    const card = await loadCard(cardId);
    if (!card) throw new Error(`Card ${cardId} is missing.`);
    const [newest] = card.revisions;
    const createdAt = at(today, event.at);
    if (event.kind === 'revision') {
      const overId = event.over === null ? undefined : find(ids.overs, event.over);
      const number = await addRevision({
        cardId,
        baseRevisionId: newest.id,
        values: event.values,
        reason: event.reason,
        why: event.why,
        overId,
      });
      const made = await models.cardRevisions.findOne({ where: { cardId, number }, rejectOnEmpty: true });
      await models.cardRevisions.update({ createdAt }, { where: { id: made.id } });
      await models.cards.update({ changedAt: createdAt }, { where: { id: cardId } });
      await models.moves.update({ createdAt }, { where: { cardRevisionId: made.id } });
      continue;
    }
    const facts = { cardRevisionId: newest.id, load: event.load, powerW: event.powerW, alcReading: event.alcReading };
    const kind = event.measureAs ?? 'voice';
    const store = (receiver: string, file: string, overId?: number) =>
      storeDemoCapture(folder, {
        ...facts,
        ...(overId !== undefined && { overId }),
        receiverId: find(ids.receivers, receiver),
        fileName: file,
        kind,
        settings: event.settings ?? {},
      });
    const overId = await store(event.receiver, event.file);
    for (const { receiver, file } of event.also ?? []) await store(receiver, file, overId);
    ids.overs.set(event.key, overId);
    await models.overs.update({ note: event.note, createdAt }, { where: { id: overId } });
    await settleMoves(overId);
  }
  for (const { rig, card, revision, but, at: when } of scenario.radios) {
    const rigId = find(ids.rigs, rig);
    const held = await revisionOf(find(ids.cards, card), revision);
    const rows = Object.entries({ ...held.values, ...but }).map(([dialId, dialValue]) => ({
      rigId,
      dialId,
      dialValue,
      cardRevisionId: held.id,
      createdAt: at(today, when),
    }));
    await models.rigTicks.bulkCreate(rows);
  }
  for (const { rig, slot, words, card, revision, at: when } of scenario.memories) {
    const { id: cardRevisionId } = await revisionOf(find(ids.cards, card), revision);
    await models.voiceMemories.create({ rigId: find(ids.rigs, rig), slot, words, cardRevisionId, createdAt: at(today, when) });
  }
}

const revisionOf = (cardId: number, number: number) =>
  database().models.cardRevisions.findOne({ where: { cardId, number }, rejectOnEmpty: true });

/** Stores a file of the demo and measures it at once. @returns its over */
async function storeDemoCapture(
  folder: string,
  facts: Omit<IncomingCapture, 'sha256'> & { readonly kind: MeasurementKind; readonly settings: CaptureSettings },
): Promise<number> {
  const { kind, settings, fileName } = facts;
  const bytes = await readFile(join(folder, kind === 'voice' ? 'overs' : 'evidence', fileName));
  const stored = await storeCapture(
    { ...facts, sha256: createHash('sha256').update(bytes).digest('hex') },
    (async function* () {
      yield new Uint8Array(bytes);
    })(),
  );
  const { measurement, detail } = await measureFile(kind, bytesInMemory(new Uint8Array(bytes)), {
    ...settings,
    passbandHz: await cardPassband(facts.cardRevisionId),
    proposesCarrier: true,
  });
  const { measurements } = database().models;
  await measurements.update({ status: 'done', ...resultColumns(measurement), detail }, { where: { id: stored.measurementId } });
  return stored.overId;
}
