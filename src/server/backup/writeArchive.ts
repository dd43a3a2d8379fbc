/** Exports the whole station as one archive; nothing is held in memory but a chunk. */
import { createHash } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { Readable, Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { Transaction } from 'sequelize';
import { ZipFile } from 'yazl';
import { csvLine } from '@/core/files/index.ts';
import { CORE_VERSION } from '@/core/measure/index.ts';
import { type DialValues, type MicrophoneUse, type RigProfile, usualUse } from '@/core/rig/index.ts';
import { type CardFacts, cardFile } from '../cards/cards.ts';
import { database } from '../db/database.ts';
import { allOvers } from '../overs/overs.ts';
import { captureFile, MANIFEST, type Manifest, tableFile } from './archive.ts';
import { rowsOf, TABLES, type TableName } from './tables.ts';

const README = `This is a station exported from Dial Tune.
dialtune-station.json lists every file with its size and SHA-256.
tables/ holds the data, one JSON object a line; captures/ the recordings; these are what an import reads.
rigs/, microphones/ and cards/ are profiles to use on their own; overs.csv and cards.csv open in a spreadsheet.
`;

/**
 * Writes the station as it is at this moment, whatever is changed meanwhile: one connection, one snapshot.
 * @param path of the file to make
 */
export async function writeArchive(path: string): Promise<void> {
  const isolationLevel = Transaction.ISOLATION_LEVELS.REPEATABLE_READ;
  await database().sequelize.transaction({ isolationLevel }, async (transaction) => {
    const zip = new ZipFile();
    const { outputStream } = zip as unknown as { outputStream: Readable };
    // A source that fails is told by the archive; the file must break off with it.
    zip.on('error', (error: Error) => outputStream.destroy(error));
    const written = pipeline(outputStream, createWriteStream(path));
    // Whatever goes wrong first is thrown; the other must not go unheard.
    written.catch(() => {});
    await addAll(zip, transaction);
    zip.end();
    await written;
  });
}

async function addAll(zip: ZipFile, transaction: Transaction): Promise<void> {
  const files: Manifest['files'][number][] = [];
  const add = (name: string, open: () => AsyncIterable<Uint8Array>, compress = true) =>
    zip.addReadStreamLazy(name, { compress }, (done) =>
      done(
        null,
        hashed(Readable.from(open()), (size, sha256) => files.push({ name, bytes: size, sha256 })),
      ),
    );
  const text = (name: string, make: () => AsyncIterable<string>) =>
    add(name, async function* () {
      for await (const part of make()) yield Buffer.from(part);
    });

  text('README.txt', () => once(README));
  for (const table of TABLES) add(tableFile(table), () => linesOf(table, transaction));
  await addProfiles(text, transaction);
  text('overs.csv', () => oversCsv(transaction));
  text('cards.csv', () => cardsCsv(transaction));
  for await (const { id, fileName } of rowsOf('captures', transaction)) {
    add(captureFile({ id: Number(id), fileName: String(fileName) }), () => chunksOf(Number(id), transaction), false);
  }
  // Lazy entries are opened one after another: when this one is, all others have been hashed.
  zip.addReadStreamLazy(MANIFEST, {}, (done) => {
    const manifest = { format: 'dialtune-station', version: 1, madeAt: new Date().toISOString(), coreVersion: CORE_VERSION, files };
    done(null, Readable.from([Buffer.from(`${JSON.stringify(manifest, null, 1)}\n`)]));
  });
}

async function* once(text: string): AsyncGenerator<string> {
  yield text;
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

async function addProfiles(text: (name: string, make: () => AsyncIterable<string>) => void, transaction: Transaction): Promise<void> {
  const pretty = (value: unknown) => `${JSON.stringify(value, null, 1)}\n`;
  for (const table of ['rigs', 'microphones'] as const) {
    for await (const row of rowsOf(table, transaction)) {
      text(`${table}/${fileName(String(row.name), row.id)}.json`, () => once(pretty(row.profile)));
    }
  }
  for await (const { id, facts, revision } of newestCards(transaction)) {
    text(`cards/${fileName(facts.name, id)}.json`, () => once(pretty(cardFile(facts, revision))));
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

const OVER_COLUMNS = [
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
  'practice radio',
  'note',
];

/** The log as a table for a spreadsheet, line by line. @param transaction whose snapshot it is; the present state when left out */
export async function* oversCsv(transaction?: Transaction): AsyncGenerator<string> {
  yield csvLine(OVER_COLUMNS);
  for await (const over of allOvers(transaction)) {
    const { id, madeAt, operator, card, revision, rig, receiver, load, powerW, alcReading, durationS, kind, headline, findings, note } =
      over;
    const practice = over.practiceRadio;
    const found = findings.map(({ code }) => code).join(' ');
    yield csvLine([
      id,
      madeAt,
      operator,
      card,
      revision,
      rig,
      receiver,
      load,
      powerW,
      alcReading,
      durationS,
      kind,
      headline,
      found,
      practice,
      note,
    ]);
  }
}

async function* cardsCsv(transaction: Transaction): AsyncGenerator<string> {
  yield csvLine(['card', 'revision', 'rig', 'operator', 'mode', 'purpose', 'menu', 'dial', 'value', 'unit']);
  for await (const { facts, revision } of newestCards(transaction)) {
    const { name, rig, operator, mode, purpose } = facts;
    for (const { id, menu, label, unit } of rig.profile.dials) {
      yield csvLine([name, revision.number, rig.name, operator.callsign, mode, purpose, menu, label, revision.values[id] ?? null, unit]);
    }
  }
}
