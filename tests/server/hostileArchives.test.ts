/** Station archives that somebody bent by hand: refused in a sentence, nothing changed. */
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { CORE_VERSION, MEASUREMENT_KINDS } from '../../src/core/measure/measurement.ts';
import { parseCard, parseMicrophone, parseRig } from '../../src/core/rig/validate.ts';
import { measurementProblem } from '../../src/server/backup/measurementSchemas.ts';
import { readArchive } from '../../src/server/backup/readArchive.ts';
import { writeArchive } from '../../src/server/backup/writeArchive.ts';
import { database } from '../../src/server/db/database.ts';
import { loadDemo } from '../../src/server/demo/demo.ts';
import { countOvers, listOvers } from '../../src/server/overs/overs.ts';
import { answer } from '../../src/server/requests/answer.ts';
import { loadStation } from '../../src/server/station/station.ts';
import { type Files, forged, pack, unpack } from '../support/archives.ts';

const folder = mkdtempSync(join(tmpdir(), 'dialtune-hostile-'));
const whole = join(folder, 'station.zip');
let files: Files = new Map();
let overs = 0;

beforeAll(async () => {
  await loadDemo('demo', new Date('2026-06-08T12:00:00Z'));
  await writeArchive(whole);
  files = await unpack(whole);
  overs = await countOvers();
}, 300_000);
afterAll(async () => {
  rmSync(folder, { recursive: true });
  await database().sequelize.close();
});

const bring = (path: string) => answer(() => readArchive(path, readFileSync(path).length));
type Row = Record<string, unknown>;
/** Changes the rows of a table as a forger would. */
const rows =
  (table: string, change: (row: Row, i: number) => Row | null) =>
  (own: Files): void => {
    const text = own.get(`tables/${table}.jsonl`)?.toString() ?? '';
    const changed = text
      .trimEnd()
      .split('\n')
      .map((line, i) => change(JSON.parse(line), i));
    own.set(`tables/${table}.jsonl`, Buffer.from(changed.flatMap((row) => (row ? [`${JSON.stringify(row)}\n`] : [])).join('')));
  };
const first = (table: string, change: (row: Row) => Row | null) => rows(table, (row, i) => (i === 0 ? change(row) : row));
const resultOf = (row: Row) => row.result as Row;

async function refused(path: string, words: RegExp): Promise<void> {
  const result = await bring(path);
  expect(result).toMatchObject({ ok: false, message: expect.stringMatching(words) });
  expect(result.ok ? 200 : result.status).toBeLessThan(500);
  expect([await countOvers(), (await loadStation()).operators.length]).toEqual([overs, 3]);
}

describe('rows that fit their hashes and would break a screen', () => {
  it.each<[string, (own: Files) => void, RegExp]>([
    ['a card without a revision', rows('cardRevisions', (row) => (row.cardId === 1 ? null : row)), /lacks revisions|refers to one/],
    [
      'a card that begins with revision 2',
      rows('cardRevisions', (row) => ({ ...row, number: (row.number as number) + 1 })),
      /lacks revisions/,
    ],
    ['a done measurement without a result', first('measurements', (row) => ({ ...row, result: null })), /has no result/],
    ['null details', rows('measurements', (row) => ({ ...row, detail: null })), /detail/],
    [
      'results with only the keys that lists need',
      rows('measurements', (row) => {
        if (row.result === null) return row;
        const { kind, durationS, findings, notes } = resultOf(row);
        return { ...row, result: { kind, durationS, findings, notes } };
      }),
      /result must have required property/,
    ],
    [
      'a dial off its scale',
      rows('cardRevisions', (row) => ({ ...row, values: { ...(row.values as Row), 'mic-gain': 4000 } })),
      /not on its dial/,
    ],
    [
      'a word on a slider',
      rows('cardRevisions', (row) => ({ ...row, values: { ...(row.values as Row), 'mic-gain': 'loud' } })),
      /not on its dial/,
    ],
    ['a mode that the rig lacks', rows('cards', (row) => ({ ...row, mode: row.mode === 'usb' ? 'fm' : row.mode })), /does not have/],
    [
      'a target with three points at one frequency',
      (own) => own.set('tables/targets.jsonl', Buffer.from('{"purpose":"natural","points":[[200,0],[200,1],[200,2]]}\n')),
      /two points at 200 Hz/,
    ],
    ['a receiver upside down', first('receivers', (row) => ({ ...row, lowHz: 3000, highHz: 100 })), /upside down/],
    ['an ALC reading of 40', first('overs', (row) => ({ ...row, alcReading: 40 })), /alcReading/],
    ['a day that no calendar has', first('overs', (row) => ({ ...row, createdAt: '2026-02-31T10:00:00.000Z' })), /no time that can be/],
    ['a far day', first('operators', (row) => ({ ...row, createdAt: '9999-12-31T10:00:00.000Z' })), /no time that can be/],
    ['a name that turns around', first('operators', (row) => ({ ...row, name: 'Runa\u202E' })), /can not be seen/],
    ['a name with NUL', first('cards', (row) => ({ ...row, name: 'Net\0' })), /can not be seen/],
    ['a tick with another radio’s sheet', first('rigTicks', (row) => ({ ...row, rigId: row.rigId === 1 ? 2 : 1 })), /another radio/],
    ['a line of ten megabytes', (own) => own.set('tables/targets.jsonl', Buffer.alloc(10 << 20, 'a')), /damaged/],
  ])('%s', async (_, change, words) => {
    await refused(await pack(forged(files, change), join(folder, 'a.zip')), words);
  });

  it.each(MEASUREMENT_KINDS)('each number of a %s measurement is needed', (kind) => {
    const row = files
      .get('tables/measurements.jsonl')
      ?.toString()
      .trimEnd()
      .split('\n')
      .map((line) => JSON.parse(line) as Row)
      .find((each) => each.result !== null && resultOf(each).kind === kind);
    if (!row) return expect(['two-tone']).toContain(kind);
    const problem = (change: Row) => measurementProblem({ ...row, result: { ...resultOf(row), ...change } } as never);
    expect(problem({})).toBeNull();
    for (const key of Object.keys(resultOf(row)).filter((each) => each !== 'kind'))
      expect([key, problem({ [key]: undefined })]).toEqual([key, expect.any(String)]);
  });

  it('numbers that an older core did not measure are not measurable, not wrong', async () => {
    const older = rows('measurements', (row) => {
      if (row.result === null || resultOf(row).kind !== 'fm') return row;
      const { peakDeviationUsualHz: _, voicePeakDeviationHz: __, ...result } = resultOf(row);
      return { ...row, coreVersion: '1.0.0', result };
    });
    expect(CORE_VERSION).not.toBe('1.0.0');
    expect(await bring(await pack(forged(files, older), join(folder, 'a.zip')))).toMatchObject({ ok: true });
    expect((await listOvers({ limit: 100 })).find(({ kind }) => kind === 'fm')?.headline).toMatch(/deviation/);
    expect(await bring(whole)).toMatchObject({ ok: true });
  });
});

describe('the archive itself', () => {
  const bent = (bend: (bytes: Buffer, at: { local: number; central: number }) => void): string => {
    const bytes = Buffer.from(readFileSync(whole));
    // The first entry: its header in place, and its line in the directory.
    const local = bytes.indexOf('PK\u0003\u0004', 0, 'latin1');
    const central = bytes.indexOf('PK\u0001\u0002', 0, 'latin1');
    bend(bytes, { local, central });
    const path = join(folder, 'bent.zip');
    writeFileSync(path, bytes);
    return path;
  };

  it.each<[string, () => string, RegExp]>([
    [
      'a name that leads out',
      () =>
        bent((bytes, { local, central }) => {
          for (const at of [local + 30, central + 46]) bytes.write('/', at);
        }),
      /damaged: .*absolute/,
    ],
    [
      'encryption',
      () => bent((bytes, { central }) => bytes.writeUInt16LE(bytes.readUInt16LE(central + 8) | 1, central + 8)),
      /is encrypted/,
    ],
    ['an unknown compression', () => bent((bytes, { central }) => bytes.writeUInt16LE(93, central + 10)), /compressed in a way/],
    ['a link', () => bent((bytes, { central }) => bytes.writeUInt32LE((0o120777 << 16) >>> 0, central + 38)), /is a link/],
  ])('%s: a sentence', async (_, make, words) => refused(make(), words));

  it('something in it that is not listed, a member changed that is only for people, a file listed twice', async () => {
    const unlisted = new Map(files).set('extra.txt', Buffer.from('hello'));
    await refused(await pack(unlisted, join(folder, 'a.zip')), /extra\.txt is in it, but not listed/);
    const changed = new Map(files).set('overs.csv', Buffer.from('over\r\n'));
    await refused(await pack(changed, join(folder, 'a.zip')), /overs\.csv is not as it was written/);
    const manifest = JSON.parse(files.get('dialtune-station.json')?.toString() ?? '');
    manifest.files.push(manifest.files[0]);
    await refused(
      await pack(new Map(files).set('dialtune-station.json', Buffer.from(JSON.stringify(manifest))), join(folder, 'a.zip')),
      /listed twice/,
    );
  });

  it('one long line costs time in step with its length', async () => {
    const timeOf = async (megabytes: number) => {
      const path = await pack(
        forged(files, (own) => own.set('tables/targets.jsonl', Buffer.alloc(megabytes << 20, 'a'))),
        join(folder, 'a.zip'),
      );
      const start = performance.now();
      await bring(path);
      return performance.now() - start;
    };
    await timeOf(1);
    const [short, long] = [await timeOf(2), await timeOf(11)];
    // 5.5 times the length; a quadratic reader would take 30 times as long.
    expect(long / short).toBeLessThan(12);
  });

  it('a name that turns around in a file of a radio, a microphone or a card is refused too', () => {
    const rig = JSON.parse(readFileSync('demo/rigs/tern-100.json', 'utf8'));
    expect(() => parseRig({ ...rig, name: 'Tern\u202E' })).toThrow('can not be seen');
    expect(() => parseRig({ ...rig, note: 'a\u0000' })).toThrow('can not be seen');
  });

  it('files of another kind, or of a newer version, are called that', () => {
    const rig = JSON.parse(readFileSync('demo/rigs/tern-100.json', 'utf8'));
    const microphone = { format: 'dialtune-microphone', version: 1, name: 'x' };
    expect(() => parseRig(microphone)).toThrow('This is a microphone, not a rig profile.');
    expect(() => parseMicrophone(rig)).toThrow('This is a rig profile, not a microphone.');
    expect(() => parseCard(rig, parseRig(rig))).toThrow('This is a rig profile, not a card.');
    expect(() => parseRig({ ...rig, version: 2 })).toThrow('newer Dial Tune (version 2)');
    expect(() => parseMicrophone({ ...microphone, version: 7 })).toThrow('newer Dial Tune');
  });
});
