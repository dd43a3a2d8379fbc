/** Imports a station archive: all of it in place of what is here, or nothing. */
import { createHash } from 'node:crypto';
import type { Readable } from 'node:stream';
import Ajv from 'ajv';
import type { Transaction } from 'sequelize';
import { type Entry, openPromise, type ZipFile } from 'yauzl';
import { FormatError, readJson } from '@/core/schema/index.ts';
import { database } from '../db/database.ts';
import { CHUNK_BYTES, keepChunk } from '../overs/captureBytes.ts';
import { Refused } from '../requests/refused.ts';
import { captureFile, MANIFEST, type Manifest, manifestSchema, tableFile } from './archive.ts';
import { incoherence } from './coherence.ts';
import { emptyStation, LATER_TABLES, modelOf, type RowData, rowProblem, stored, TABLES, type TableName } from './tables.ts';

const isManifest = new Ajv().compile<Manifest>(manifestSchema);
const MOST_MANIFEST = 64 << 20;
/** A measurement of hours of talk is about a mebibyte. */
const LONGEST_LINE = 12 << 20;
/** A file that would unpack to so many times its size was made to fill the disk. */
const MOST_EXPANSION = 200;

const damaged = (why: string): Refused => new Refused(`The archive is damaged: ${why}. Nothing was changed.`, 422);

export interface Imported {
  readonly cards: number;
  readonly overs: number;
}

/**
 * Replaces the station by an archive's, in one transaction.
 * @param path the archive on disk
 * @throws Refused with the reason; nothing is changed then
 */
export async function readArchive(path: string, archiveBytes: number): Promise<Imported> {
  const zip = await open(path);
  try {
    const entries = await entriesOf(zip, archiveBytes);
    const manifest = await readManifest(zip, entries);
    const files = listedFiles(manifest, entries);
    // Archives from before a table was there do without it.
    const tables = TABLES.filter((table) => files.has(tableFile(table)) || !LATER_TABLES.includes(table));
    for (const table of tables) if (!files.has(tableFile(table))) throw damaged(`${tableFile(table)} is missing`);
    const archive: Archive = { zip, entries, files, read: new Set() };
    return await database().sequelize.transaction(async (transaction) => {
      await refuseWhileMeasuring(transaction);
      await emptyStation(transaction);
      for (const table of tables) await fillTable(archive, table, transaction);
      await fillCaptures(archive, transaction);
      await checkTheRest(archive);
      await refuseIncoherent(transaction);
      const { cards, overs } = database().models;
      return { cards: await cards.count({ transaction }), overs: await overs.count({ transaction }) };
    });
  } catch (error) {
    throw asRefusal(error);
  } finally {
    zip.close();
  }
}

/** What the manifest lists, by name: each once, each there, and nothing else in the archive but folders. */
function listedFiles({ files }: Manifest, entries: ReadonlyMap<string, Entry>): Archive['files'] {
  const listed = new Map(files.map((file) => [file.name, file]));
  if (listed.size < files.length) throw damaged('a file is listed twice');
  for (const { name } of files) if (!entries.has(name)) throw damaged(`${name} is missing`);
  for (const name of entries.keys()) {
    if (name !== MANIFEST && !listed.has(name) && !name.endsWith('/')) throw damaged(`${name} is in it, but not listed`);
  }
  return listed;
}

interface Archive {
  readonly zip: ZipFile;
  readonly entries: ReadonlyMap<string, Entry>;
  readonly files: ReadonlyMap<string, Manifest['files'][number]>;
  /** Names of those whose bytes have been checked. */
  readonly read: Set<string>;
}

/** What a database or a ZIP reader says of bad content, in words. */
function asRefusal(error: unknown): unknown {
  if (error instanceof Refused) return error;
  if (error instanceof FormatError) return damaged(error.message.replace(/\.$/, ''));
  const { name, message } = error as Error;
  if (/ForeignKey/.test(name)) return damaged('a row refers to one that is not there');
  if (/UniqueConstraint/.test(name)) return damaged('two rows claim the same place');
  if (/SequelizeDatabase/.test(name) && /Data too long|Incorrect|CONSTRAINT/.test(message)) return damaged('a value does not fit');
  if (/invalid|unexpected|too many bytes|not enough bytes|crc|compressed/i.test(message)) return damaged(message.slice(0, 120));
  return error;
}

async function open(path: string): Promise<ZipFile> {
  try {
    return await openPromise(path, { autoClose: false, validateEntrySizes: true, strictFileNames: true });
  } catch {
    throw new Refused('This is not a station archive: it is no ZIP file, or it is cut off. Nothing was changed.', 415);
  }
}

async function entriesOf(zip: ZipFile, archiveBytes: number): Promise<Map<string, Entry>> {
  const entries = new Map<string, Entry>();
  let bytes = 0;
  try {
    for await (const entry of zip.eachEntry()) {
      const problem = entryProblem(entry);
      if (problem) throw damaged(`${entry.fileName.slice(0, 100)} ${problem}`);
      if (entries.has(entry.fileName)) throw damaged(`${entry.fileName} is in it twice`);
      bytes += entry.uncompressedSize;
      if (bytes > MOST_EXPANSION * archiveBytes + (1 << 20))
        throw new Refused('The archive unpacks to far more than it should. Nothing was changed.', 422);
      entries.set(entry.fileName, entry);
    }
  } catch (error) {
    if (error instanceof Refused) throw error;
    // The reader says what it stumbled over: a name that leads out of the archive, a torn directory.
    throw damaged((error as Error).message.slice(0, 120));
  }
  return entries;
}

const STORED = 0;
const DEFLATED = 8;
const FILE_TYPE = 0o170000;
const LINK = 0o120000;

function entryProblem(entry: Entry): string | null {
  if (entry.isEncrypted()) return 'is encrypted';
  if (![STORED, DEFLATED].includes(entry.compressionMethod))
    return `is compressed in a way that is not known here (${entry.compressionMethod})`;
  if (((entry.externalFileAttributes >>> 16) & FILE_TYPE) === LINK) return 'is a link';
  return null;
}

async function readManifest(zip: ZipFile, entries: ReadonlyMap<string, Entry>): Promise<Manifest> {
  const entry = entries.get(MANIFEST);
  if (!entry) throw new Refused(`This is not a station archive: it has no ${MANIFEST}. Nothing was changed.`, 415);
  if (entry.uncompressedSize > MOST_MANIFEST) throw damaged(`${MANIFEST} is too large`);
  const parts: Buffer[] = [];
  for await (const part of await streamOf(zip, entry)) parts.push(part as Buffer);
  const manifest = readJson(Buffer.concat(parts).toString('utf8'), MOST_MANIFEST);
  const version = (manifest as { version?: unknown } | null)?.version;
  if (typeof version === 'number' && version > 1) {
    throw new Refused("This archive was made by a newer Dial Tune, which this one can't read. Nothing was changed.", 415);
  }
  if (!isManifest(manifest)) throw new Refused(`This is not a station archive: ${MANIFEST} does not say so. Nothing was changed.`, 415);
  return manifest;
}

/** The lock keeps new recordings out until the import is through: their numbers would land in the wrong station. */
async function refuseWhileMeasuring(transaction: Transaction): Promise<void> {
  const { measurements } = database().models;
  const open = await measurements.findAll({
    attributes: ['id'],
    where: { status: ['queued', 'running'] },
    transaction,
    lock: transaction.LOCK.UPDATE,
  });
  if (open.length > 0) {
    throw new Refused(`${open.length} recordings are still being measured here. Wait for them, then import. Nothing was changed.`, 409);
  }
}

/** A listed file's bytes; the end is an error when they are not those that were listed. */
async function* bytesOf({ zip, entries, files, read }: Archive, name: string): AsyncGenerator<Buffer> {
  const entry = entries.get(name);
  const file = files.get(name);
  if (!entry || !file) throw damaged(`${name} is missing`);
  const hash = createHash('sha256');
  let bytes = 0;
  for await (const part of await streamOf(zip, entry)) {
    hash.update(part as Buffer);
    bytes += (part as Buffer).length;
    yield part as Buffer;
  }
  if (bytes !== file.bytes || hash.digest('hex') !== file.sha256) throw damaged(`${name} is not as it was written`);
  read.add(name);
}

/** Files for people are not imported, but they must be what they were too. */
async function checkTheRest(archive: Archive): Promise<void> {
  for (const name of archive.files.keys()) {
    if (archive.read.has(name)) continue;
    for await (const _ of bytesOf(archive, name));
  }
}

const streamOf = (zip: ZipFile, entry: Entry): Promise<Readable> => zip.openReadStreamPromise(entry);

async function* linesOf(archive: Archive, name: string): AsyncGenerator<string> {
  // Pieces of a line that has not ended yet: joined once, however many there are.
  let held: string[] = [];
  let length = 0;
  const decoder = new TextDecoder();
  for await (const part of bytesOf(archive, name)) {
    const [end, ...lines] = decoder.decode(part, { stream: true }).split('\n');
    held.push(end);
    length += end.length;
    if (length > LONGEST_LINE) throw damaged(`${name} has a line that is too long`);
    for (const begin of lines) {
      yield held.join('');
      held = [begin];
      length = begin.length;
    }
  }
  if (length > 0) yield held.join('');
}

/** Rows are written together until they are so many or so long: the server takes packets of 16 MiB. */
const BATCH_ROWS = 200;
const BATCH_CHARACTERS = 2 << 20;

async function fillTable(archive: Archive, table: TableName, transaction: Transaction): Promise<void> {
  const model = modelOf(table);
  let batch: RowData[] = [];
  let held = 0;
  const flush = async () => {
    if (batch.length > 0) await model.bulkCreate(batch as never[], { transaction });
    batch = [];
    held = 0;
  };
  let number = 0;
  for await (const line of linesOf(archive, tableFile(table))) {
    number++;
    const row = readJson(line, LONGEST_LINE);
    const problem = rowProblem(table, row);
    if (problem) throw damaged(`line ${number} of ${tableFile(table)}: ${problem}`);
    batch.push(stored(table, row as RowData));
    held += line.length;
    if (batch.length === BATCH_ROWS || held > BATCH_CHARACTERS) await flush();
  }
  await flush();
}

async function fillCaptures(archive: Archive, transaction: Transaction): Promise<void> {
  const { captures } = database().models;
  for (const { id, fileName, bytes, sha256 } of await captures.findAll({ transaction })) {
    const name = captureFile({ id, fileName });
    const listed = archive.files.get(name);
    if (!listed || listed.sha256 !== sha256 || listed.bytes !== bytes) throw damaged(`the recording ${name} does not fit its row`);
    let position = 0;
    let held: Buffer = Buffer.alloc(0);
    const keep = (chunk: Buffer) => keepChunk(id, position++, chunk, transaction);
    for await (const part of bytesOf(archive, name)) {
      held = Buffer.concat([held, part]);
      while (held.length >= CHUNK_BYTES) {
        await keep(held.subarray(0, CHUNK_BYTES));
        held = held.subarray(CHUNK_BYTES);
      }
    }
    if (held.length > 0) await keep(held);
  }
}

async function refuseIncoherent(transaction: Transaction): Promise<void> {
  const problem = await incoherence(transaction);
  if (problem) throw damaged(problem);
}
