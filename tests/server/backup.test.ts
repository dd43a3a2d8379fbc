/** The station as one archive, out and in again; damaged and foreign ones refused. */
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { readArchive } from '../../src/server/backup/readArchive.ts';
import { rowsOf, TABLES } from '../../src/server/backup/tables.ts';
import { oversCsv, writeArchive } from '../../src/server/backup/writeArchive.ts';
import { database } from '../../src/server/db/database.ts';
import { loadDemo } from '../../src/server/demo/demo.ts';
import { ownLimits, setLimit } from '../../src/server/measuring/limits.ts';
import { listOvers, noteOver } from '../../src/server/overs/overs.ts';
import { loadStation } from '../../src/server/station/station.ts';
import { type Files, forged, hash, pack, unpack } from '../support/archives.ts';

const folder = mkdtempSync(join(tmpdir(), 'dialtune-archive-'));
const whole = join(folder, 'station.zip');
const changed = join(folder, 'changed.zip');

/** Everything in the database, as one comparable value. */
async function contents(): Promise<Record<string, unknown[]>> {
  const all: Record<string, unknown[]> = {};
  await database().sequelize.transaction(async (transaction) => {
    for (const table of TABLES) {
      all[table] = [];
      for await (const row of rowsOf(table, transaction)) all[table].push(row);
    }
  });
  const chunks = await database().models.captureChunks.findAll({ order: ['captureId', 'position'] });
  all.chunks = chunks.map(({ captureId, position, bytes }) => [captureId, position, hash(bytes)]);
  return all;
}

const bring = (path: string) => readArchive(path, readFileSync(path).length);
const edit = (files: Files, name: string, work: (text: string) => string) =>
  files.set(name, Buffer.from(work(files.get(name)?.toString() ?? '')));

let files: Files = new Map();
let before: Record<string, unknown[]> = {};

beforeAll(async () => {
  await loadDemo('demo', new Date('2026-06-08T12:00:00Z'));
  // As a curve from a CSV file has it: no sample rate of its own.
  const curve = (await database().models.measurements.findAll()).find(({ result }) => result?.kind === 'response');
  await curve?.update({ result: { ...curve.result, sampleRateHz: 0 } as never });
  expect(curve?.result).toMatchObject({ sampleRateHz: 0 });
  before = await contents();
  await writeArchive(whole);
  files = await unpack(whole);
}, 300_000);

afterAll(async () => {
  rmSync(folder, { recursive: true });
  await database().sequelize.close();
});

describe('an archive', () => {
  it('is made of open files: JSON, CSV and WAV, each listed with its hash', () => {
    const manifest = JSON.parse(files.get('dialtune-station.json')?.toString() ?? '');
    for (const { name, bytes, sha256 } of manifest.files)
      expect([name, files.get(name)?.length, hash(files.get(name) ?? Buffer.alloc(0))]).toEqual([name, bytes, sha256]);
    expect(manifest.files).toHaveLength(files.size - 1);
    const rig = [...files].find(([name]) => name.startsWith('rigs/Tern-100'));
    expect(JSON.parse(rig?.[1].toString() ?? '')).toEqual(JSON.parse(readFileSync('demo/rigs/tern-100.json', 'utf8')));
    const wav = [...files].find(([name]) => name.startsWith('captures/'));
    expect(wav?.[1].subarray(0, 4).toString()).toBe('RIFF');
    expect(files.get('overs.csv')?.toString().split('\r\n').length).toBeGreaterThan(10);
  });

  it('imported again gives exactly the station that was exported, whatever happened since', async () => {
    const [over] = await listOvers({ limit: 1 });
    await noteOver(over.id, { alcReading: 0.11, note: 'changed since' });
    await database().models.voiceMemories.destroy({ where: {} });
    expect(await bring(whole)).toMatchObject({ cards: before.cards.length, overs: before.overs.length });
    expect(await contents()).toEqual(before);
  });

  it('carries no live formulas in its CSV', async () => {
    const [over] = await listOvers({ limit: 1 });
    await noteOver(over.id, { alcReading: null, note: '=HYPERLINK("http://x","y")' });
    let text = '';
    for await (const line of oversCsv()) text += line;
    expect(text).toContain(`"'=HYPERLINK(""http://x"",""y"")"`);
    await bring(whole);
  });

  it.each<[string, (own: Files) => void, RegExp]>([
    ['a recording changed', (own) => own.set('captures/1.wav', Buffer.from('RIFFxxxx')), /captures\/1\.wav/],
    ['a table cut off', (own) => edit(own, 'tables/overs.jsonl', (text) => text.slice(0, text.length / 2)), /damaged/],
    ['a table missing', (own) => own.delete('tables/moves.jsonl'), /moves\.jsonl is missing/],
    ['no manifest', (own) => own.delete('dialtune-station.json'), /not a station archive/],
    ['another program', (own) => own.set('dialtune-station.json', Buffer.from('{"name":"something"}')), /not a station archive/],
    [
      'a newer version',
      (own) => edit(own, 'dialtune-station.json', (text) => text.replace('"version": 1', '"version": 2')),
      /newer Dial Tune/,
    ],
  ])('%s: refused with the reason, nothing changed', async (_, change, words) => {
    const own = new Map(files);
    change(own);
    await expect(bring(await pack(own, changed))).rejects.toThrow(words);
    expect(await contents()).toEqual(before);
  });

  it.each<[string, (own: Files) => void, RegExp]>([
    [
      'a row that refers to nothing',
      (own) => edit(own, 'tables/cards.jsonl', (text) => text.replace(/"rigId":\d+/, '"rigId":4242')),
      /refers to one that is not there/,
    ],
    [
      'a row with a column too many',
      (own) => edit(own, 'tables/operators.jsonl', (text) => text.replace('{', '{"surprise":1,')),
      /line 1 of tables\/operators/,
    ],
    [
      'a rig that can not be',
      (own) => edit(own, 'tables/rigs.jsonl', (text) => text.replace('"kind":"steps","min":0', '"kind":"steps","min":900')),
      /upside down/,
    ],
    ['prototype keys', (own) => edit(own, 'tables/targets.jsonl', () => '{"__proto__":{"a":1}}\n'), /__proto__/],
    ['two rows in one place', (own) => edit(own, 'tables/operators.jsonl', (text) => text + text.split('\n')[0]), /same place/],
    ['a value too long', (own) => edit(own, 'tables/operators.jsonl', (text) => text.replace('"Runa"', `"${'x'.repeat(300)}"`)), /damaged/],
    ['a mode of its own', (own) => edit(own, 'tables/cards.jsonl', (text) => text.replace('"usb"', '"morse"')), /mode/],
    [
      'a capture of no known kind',
      (own) => edit(own, 'tables/captures.jsonl', (text) => text.replace('"kind":"am"', '"kind":"song"')),
      /kind/,
    ],
    [
      'settings that nobody knows',
      (own) => edit(own, 'tables/captures.jsonl', (text) => text.replace('"settings":{}', '"settings":{"evil":1}')),
      /settings/,
    ],
    [
      'a measurement without its numbers',
      (own) => edit(own, 'tables/measurements.jsonl', (text) => text.replaceAll('"modulationDepth"', '"modulation"')),
      /line \d+ of tables\/measurements/,
    ],
    [
      'a spectrum that is a text',
      (own) => edit(own, 'tables/measurements.jsonl', (text) => text.replace(/"mean":\{[^}]*\}/, '"mean":"loud"')),
      /line \d+ of tables\/measurements/,
    ],
    ['a limit of nothing', (own) => edit(own, 'tables/limits.jsonl', () => '{"name":"toString","watch":1,"fault":2}\n'), /limits/],
    [
      'a recording that no row knows the size of',
      (own) => edit(own, 'tables/captures.jsonl', (text) => text.replace(/"bytes":\d+/, '"bytes":5')),
      /does not fit its row/,
    ],
  ])('forged so that the hashes fit, %s: refused, nothing changed', async (_, change, words) => {
    await expect(bring(await pack(forged(files, change), changed))).rejects.toThrow(words);
    expect(await contents()).toEqual(before);
  });

  it('made before captures had kinds and stations limits of their own is taken: its captures are voices', async () => {
    const old = forged(files, (own) => {
      own.delete('tables/limits.jsonl');
      edit(own, 'tables/captures.jsonl', (text) =>
        text
          .trim()
          .split('\n')
          .map((line) => {
            const { kind: _kind, settings: _settings, ...row } = JSON.parse(line);
            return JSON.stringify(row);
          })
          .join('\n'),
      );
    });
    expect(await bring(await pack(old, changed))).toMatchObject({ overs: before.overs.length });
    const captures = await database().models.captures.findAll();
    expect(captures.every(({ kind, settings }) => kind === 'voice' && Object.keys(settings).length === 0)).toBe(true);
    await bring(whole);
    expect(await contents()).toEqual(before);
  });

  it('takes limits of the station along, and names a scope trace as what it is', async () => {
    await setLimit('hum', { watch: -50, fault: null });
    const path = join(folder, 'limits.zip');
    await writeArchive(path);
    const csv = [...(await unpack(path)).keys()].filter((name) => /^captures\/\d+\.csv$/.test(name));
    expect(csv).toHaveLength(1);
    await setLimit('hum', null);
    await bring(path);
    expect(await ownLimits()).toEqual({ hum: { watch: -50, fault: null } });
    await bring(whole);
    expect(await ownLimits()).toEqual({});
  });

  it('no ZIP, a cut-off one and one that would fill the disk', async () => {
    const path = join(folder, 'not.zip');
    writeFileSync(path, 'hello');
    await expect(bring(path)).rejects.toThrow('no ZIP file');
    writeFileSync(path, readFileSync(whole).subarray(0, 50_000));
    await expect(bring(path)).rejects.toThrow('cut off');
    const bomb = await pack(new Map([['zeros', Buffer.alloc(300 << 20)]]), join(folder, 'bomb.zip'));
    await expect(bring(bomb)).rejects.toThrow('far more than it should');
    expect((await loadStation({ withRetired: true })).operators).toHaveLength(before.operators.length);
  });

  it('waits for measurements under way', async () => {
    const { measurements } = database().models;
    const row = await measurements.findOne({ rejectOnEmpty: true });
    await row.update({ status: 'running' });
    await expect(bring(whole)).rejects.toThrow('still being measured');
    await row.update({ status: 'done' });
  });
});
