/** Exports the whole station as one archive, streamed: nothing is held in memory but a chunk. */
import { createHash } from 'node:crypto';
import { Readable, Transform } from 'node:stream';
import { Transaction } from 'sequelize';
import { ZipFile } from 'yazl';
import { type Cell, csv } from '../../core/formats/csv.ts';
import { CORE_VERSION } from '../../core/measure/measurement.ts';
import type { DialValues } from '../../core/station/card.ts';
import { type MicrophoneUse, usualUse } from '../../core/station/microphone.ts';
import type { RigProfile } from '../../core/station/rig.ts';
import { type CardFacts, cardFile } from '../cards/cards.ts';
import { database } from '../database.ts';
import { listOvers } from '../overs.ts';
import { captureFile, MANIFEST, type Manifest, tableFile } from './archive.ts';
import { rowsOf, TABLES, type TableName } from './tables.ts';

const README = `This is a station exported from Dial Tune.
dialtune-station.json lists every file with its size and SHA-256.
tables/ holds the data, one JSON object a line; captures/ the recordings; these are what an import reads.
rigs/, microphones/ and cards/ are profiles to use on their own; overs.csv and cards.csv open in a spreadsheet.
`;

/** @returns the archive's bytes; the station is read as it is at this moment, whatever is changed meanwhile */
export async function writeArchive(): Promise<ReadableStream<Uint8Array>> {
  const { sequelize } = database();
  const transaction = await sequelize.transaction({ isolationLevel: Transaction.ISOLATION_LEVELS.REPEATABLE_READ });
  const zip = new ZipFile();
  // A source that fails is told by the archive; the download must break off with it.
  zip.on('error', (error: Error) => (zip.outputStream as Readable).destroy(error));
  const files: Manifest['files'][number][] = [];
  const add = (name: string, open: () => AsyncIterable<Uint8Array>, compress = true) =>
    zip.addReadStreamLazy(name, { compress }, (done) =>
      done(
        null,
        hashed(Readable.from(open()), (size, sha256) => files.push({ name, bytes: size, sha256 })),
      ),
    );
  const text = (name: string, make: () => Promise<string>) =>
    add(name, async function* () {
      yield Buffer.from(await make());
    });

  text('README.txt', async () => README);
  for (const table of TABLES) add(tableFile(table), () => linesOf(table, transaction));
  await addProfiles(text, transaction);
  text('overs.csv', oversCsv);
  text('cards.csv', () => cardsCsv(transaction));
  for await (const { id, fileName } of rowsOf('captures', transaction)) {
    add(captureFile({ id: Number(id), fileName: String(fileName) }), () => chunksOf(Number(id), transaction), false);
  }
  // Lazy entries are opened one after another: when this one is, all others have been hashed.
  zip.addReadStreamLazy(MANIFEST, {}, (done) => {
    const manifest = { format: 'dialtune-station', version: 1, madeAt: new Date().toISOString(), coreVersion: CORE_VERSION, files };
    done(null, Readable.from([Buffer.from(`${JSON.stringify(manifest, null, 1)}\n`)]));
  });
  zip.end();
  const end = () => void transaction.rollback().catch(() => {});
  zip.outputStream.once('end', end).once('close', end).once('error', end);
  return Readable.toWeb(zip.outputStream as Readable) as ReadableStream<Uint8Array>;
}

function hashed(source: Readable, done: (bytes: number, sha256: string) => void): Readable {
  const hash = createHash('sha256');
  let bytes = 0;
  const through = new Transform({
    transform(chunk: Buffer, _, next) {
      hash.update(chunk);
      bytes += chunk.length;
      next(null, chunk);
    },
    flush(next) {
      done(bytes, hash.digest('hex'));
      next();
    },
  });
  source.on('error', (error) => through.destroy(error));
  return source.pipe(through);
}

async function* linesOf(table: TableName, transaction: Transaction): AsyncGenerator<Buffer> {
  for await (const row of rowsOf(table, transaction)) yield Buffer.from(`${JSON.stringify(row)}\n`);
}

async function* chunksOf(captureId: number, transaction: Transaction): AsyncGenerator<Buffer> {
  const { captureChunks } = database().models;
  for (let position = 0; ; position++) {
    const row = await captureChunks.findOne({ where: { captureId, position }, transaction });
    if (!row) return;
    yield row.bytes;
  }
}

/** A name for a file: letters, digits and dashes, made unique by the id. */
const fileName = (name: string, id: unknown): string =>
  `${
    name
      .normalize('NFKD')
      .replace(/[^A-Za-z0-9]+/g, '-')
      .replace(/^-|-$/g, '')
      .slice(0, 60) || 'unnamed'
  }-${id}`;

async function addProfiles(text: (name: string, make: () => Promise<string>) => void, transaction: Transaction): Promise<void> {
  const pretty = (value: unknown) => `${JSON.stringify(value, null, 1)}\n`;
  for (const table of ['rigs', 'microphones'] as const) {
    for await (const row of rowsOf(table, transaction)) {
      text(`${table}/${fileName(String(row.name), row.id)}.json`, async () => pretty(row.profile));
    }
  }
  for await (const { id, facts, revision } of newestCards(transaction)) {
    text(`cards/${fileName(facts.name, id)}.json`, async () => pretty(cardFile(facts, revision)));
  }
}

interface NewestCard {
  readonly id: number;
  readonly facts: CardFacts & { readonly rig: { readonly profile: RigProfile } };
  readonly revision: { readonly number: number; readonly use: MicrophoneUse; readonly values: DialValues };
}

const CARD_PAGE = 500;

/** Every card as it stands, a page of them for two questions to the database. */
async function* newestCards(transaction: Transaction): AsyncGenerator<NewestCard> {
  const { models } = database();
  const byId = <T extends { id: number }>(rows: readonly T[]) => new Map(rows.map((row) => [row.id, row]));
  const operators = byId(await models.operators.findAll({ transaction }));
  const rigs = byId(await models.rigs.findAll({ transaction }));
  const microphones = byId(await models.microphones.findAll({ transaction }));
  for (let offset = 0; ; offset += CARD_PAGE) {
    const cards = await models.cards.findAll({ order: [['id', 'ASC']], limit: CARD_PAGE, offset, transaction });
    const revisions = await models.cardRevisions.findAll({
      where: { cardId: cards.map(({ id }) => id) },
      order: [['number', 'ASC']],
      transaction,
    });
    const newest = new Map(revisions.map((row) => [row.cardId, row]));
    for (const { id, name, mode, purpose, operatorId, rigId, microphoneId } of cards) {
      const [operator, rig, microphone, row] = [operators.get(operatorId), rigs.get(rigId), microphones.get(microphoneId), newest.get(id)];
      if (!operator || !rig || !microphone || !row) continue;
      yield {
        id,
        facts: { name, mode, purpose, operator, rig, microphone },
        revision: { number: row.number, use: row.microphoneUse ?? usualUse(microphone.profile), values: row.values },
      };
    }
    if (cards.length < CARD_PAGE) return;
  }
}

const CSV_PAGE = 1000;

/** The log as a table for a spreadsheet. */
export async function oversCsv(): Promise<string> {
  const rows: Cell[][] = [
    [
      'over',
      'time (UTC)',
      'operator',
      'card',
      'revision',
      'rig',
      'receiver',
      'load',
      'power W',
      'ALC reading',
      'duration s',
      'kind',
      'measured',
      'found',
      'note',
    ],
  ];
  for (let offset = 0; ; offset += CSV_PAGE) {
    const overs = await listOvers({ limit: CSV_PAGE, offset });
    for (const over of overs) {
      const { id, madeAt, operator, card, revision, rig, receiver, load, powerW, alcReading, durationS, kind, told, findings, note } = over;
      const found = findings.map(({ code }) => code).join(' ');
      rows.push([id, madeAt, operator, card, revision, rig, receiver, load, powerW, alcReading, durationS, kind, told, found, note]);
    }
    if (overs.length < CSV_PAGE) return csv(rows);
  }
}

async function cardsCsv(transaction: Transaction): Promise<string> {
  const rows: Cell[][] = [['card', 'revision', 'rig', 'operator', 'mode', 'purpose', 'menu', 'dial', 'value', 'unit']];
  for await (const { facts, revision } of newestCards(transaction)) {
    const { name, rig, operator, mode, purpose } = facts;
    for (const { id, menu, label, unit } of rig.profile.dials) {
      rows.push([name, revision.number, rig.name, operator.callsign, mode, purpose, menu, label, revision.values[id] ?? null, unit]);
    }
  }
  return csv(rows);
}
