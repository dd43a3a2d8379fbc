/** The server's doors against a real, throw-away MariaDB (bin/lib/test.mjs gives its address). */
import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { QueryTypes } from 'sequelize';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { bytesInMemory } from '../../src/core/files/byteSource.ts';
import type { VoiceDetail } from '../../src/core/measure/measurement.ts';
import { listCards } from '../../src/server/cards/cardList.ts';
import { changeCard, createCard, loadCard } from '../../src/server/cards/cards.ts';
import { addRevision, restoreRevision, trail } from '../../src/server/cards/revisions.ts';
import { setTarget, targetFor } from '../../src/server/cards/targets.ts';
import { database } from '../../src/server/db/database.ts';
import { withLock } from '../../src/server/db/lock.ts';
import { migrate } from '../../src/server/db/migrate.ts';
import { loadDemo } from '../../src/server/demo/demo.ts';
import { measureAgain, measuringPool, resumeMeasuring } from '../../src/server/measuring/measuringPool.ts';
import { CHUNK_BYTES, storedBytes, streamCapture } from '../../src/server/overs/captureBytes.ts';
import { countOvers, deleteOver, judgedOver, listOvers, noteOver } from '../../src/server/overs/overs.ts';
import { loadOver } from '../../src/server/overs/overView.ts';
import { storeCapture } from '../../src/server/overs/storeCapture.ts';
import { answer } from '../../src/server/requests/answer.ts';
import { Refused } from '../../src/server/requests/refused.ts';
import { readRequest } from '../../src/server/requests/requests.ts';
import { loadStation } from '../../src/server/station/station.ts';
import { noise, PCM16, silence, voiceLike, wavBytes } from '../support/signals.ts';

const hashOf = (bytes: Uint8Array) => createHash('sha256').update(bytes).digest('hex');

async function* inPieces(bytes: Uint8Array, size = 70_001): AsyncGenerator<Uint8Array> {
  for (let at = 0; at < bytes.length; at += size) yield bytes.subarray(at, at + size);
}

/** Numbers of rows of every table that an upload touches. */
async function rows(): Promise<Record<string, number>> {
  const { overs, captures, captureChunks, measurements } = database().models;
  return {
    overs: await overs.count(),
    captures: await captures.count(),
    chunks: await captureChunks.count(),
    measurements: await measurements.count(),
  };
}

let revisionId = 0;
let receiverId = 0;
let cardId = 0;
const incoming = (bytes: Uint8Array, changes: object = {}) => ({
  cardRevisionId: revisionId,
  receiverId,
  load: 'dummy load' as const,
  powerW: 10,
  alcReading: 0.4,
  fileName: 'talk.wav',
  sha256: hashOf(bytes),
  ...changes,
});
const store = (bytes: Uint8Array, changes: object = {}) => storeCapture(incoming(bytes, changes), inPieces(bytes));

async function measured(measurementId: number) {
  for (let tries = 0; tries < 600; tries++) {
    const row = await database().models.measurements.findByPk(measurementId, { rejectOnEmpty: true });
    // Moves are settled after the row is done; the pool forgets the job last.
    const isOver = row.status === 'done' || row.status === 'failed';
    if (isOver && measuringPool().progress(measurementId) === undefined) return row;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  throw new Error('not measured in time');
}

beforeAll(async () => {
  await loadDemo('demo', new Date('2026-06-08T12:00:00Z'));
  cardId = (await listCards({ limit: 100 })).find(({ name }) => name === 'Evening net')?.id ?? 0;
  revisionId = (await loadCard(cardId))?.revisions[0].id ?? 0;
  receiverId = (await loadStation()).receivers[0].id;
}, 300_000);

afterAll(async () => {
  await database().sequelize.close();
});

describe('migrations and demo', () => {
  it('run once and stay quiet the second time', async () => {
    const { sequelize } = database();
    const names = () => sequelize.query<{ name: string }>('SELECT name FROM migrations', { type: QueryTypes.SELECT });
    const before = await names();
    await migrate(sequelize);
    expect(before.length).toBeGreaterThan(3);
    expect(await names()).toEqual(before);
  });

  it('can be run again wherever they were cut off: each of them on tables that have all of it', async () => {
    const { sequelize } = database();
    const countAll = async () => [await countOvers(), (await listCards({ limit: 100 })).length];
    const before = await countAll();
    const listed = await listOvers({ limit: 100 });
    await sequelize.query('DELETE FROM migrations');
    // As a kill in the middle of the last one leaves it: some rows filled in, some not.
    await sequelize.query('UPDATE measurements SET headline = NULL, duration_s = NULL, findings = NULL WHERE MOD(id, 2) = 0');
    await migrate(sequelize);
    expect(await countAll()).toEqual(before);
    expect(await listOvers({ limit: 100 })).toEqual(listed);
  });

  it('copies on one database take turns under a lock; one that will not wait is told', async () => {
    const { sequelize } = database();
    const order: string[] = [];
    const work = (name: string) => async () => {
      order.push(`${name} begins`);
      await new Promise((resolve) => setTimeout(resolve, 200));
      order.push(`${name} ends`);
    };
    await Promise.all(['one', 'other'].map((name) => withLock(sequelize, 'turns', 10, work(name))));
    expect(order.map((line) => line.split(' ')[1])).toEqual(['begins', 'ends', 'begins', 'ends']);
    const inside = await withLock(sequelize, 'turns', 0, async () => [
      await withLock(sequelize, 'turns', 0, async () => expect.unreachable('somebody holds it')),
      await withLock(sequelize, 'other turns', 0, async () => 'free'),
    ]);
    expect(inside).toEqual({ got: true, value: [{ got: false }, { got: true, value: 'free' }] });
  });

  it('the demo is a week of a club, loaded once, all of it measured', async () => {
    const before = await countOvers();
    await loadDemo('demo', new Date());
    expect(await countOvers()).toBe(before);
    expect(before).toBeGreaterThanOrEqual(12);
    const overs = await listOvers({ limit: 100, isReal: true });
    expect(overs.filter(({ status }) => status !== 'done')).toEqual([]);
    expect(overs.map(({ madeAt }) => madeAt)).toEqual([...overs.map(({ madeAt }) => madeAt)].sort().reverse());
    for (const code of ['muffled', 'thin', 'clipping', 'room-noise']) {
      expect(overs.some(({ findings }) => findings.some((finding) => finding.code === code))).toBe(true);
    }
    const days = new Set(overs.map(({ madeAt }) => madeAt.slice(0, 10)));
    expect(days.size).toBeGreaterThanOrEqual(5);
  });

  it('its moves were checked against what came of them, and the model was about right', async () => {
    const cards = await listCards({ limit: 100 });
    const moves = (await Promise.all(cards.map(({ id }) => trail(id, 100)))).flat();
    const checked = moves.filter(({ expected, outcome }) => expected && outcome);
    expect(checked.length).toBeGreaterThan(8);
    for (const { expected, outcome } of checked) {
      // The words differ from over to over; a third octave of 9 s of talk moves by a few dB with them.
      expect(Math.abs((outcome?.changeDb ?? 0) - (expected?.changeDb ?? 0))).toBeLessThan(6);
    }
  });

  it('calls are never issued ones, and all of it is synthetic', async () => {
    for (const { callsign, note } of (await loadStation()).operators) {
      expect(callsign).toMatch(/^Q/);
      expect(note).toContain('Synthetic');
    }
  });
});

describe('captures', () => {
  it('come back byte by byte: in chunks of 1 MiB, as a stream and at any place', async () => {
    const bytes = wavBytes(48000, [noise(48000, 30, 0.1)], PCM16 as never);
    const { captureId } = await store(bytes);
    const { models } = database();
    const sizes = (await models.captureChunks.findAll({ where: { captureId }, order: ['position'] })).map((row) => row.bytes.length);
    expect(sizes).toEqual([CHUNK_BYTES, CHUNK_BYTES, bytes.length - 2 * CHUNK_BYTES]);
    const parts: Uint8Array[] = [];
    for await (const part of streamCapture(models, captureId)) parts.push(part);
    expect(hashOf(Buffer.concat(parts))).toBe(hashOf(bytes));
    const source = storedBytes(models, captureId, bytes.length);
    for (const [at, length] of [
      [0, 12],
      [CHUNK_BYTES - 5, 10],
      [bytes.length - 3, 100],
      [100, 2 * CHUNK_BYTES],
    ]) {
      expect(Buffer.compare(await source.read(at, length), await bytesInMemory(bytes).read(at, length))).toBe(0);
    }
  });

  const talk = (seed: number) => wavBytes(8000, [voiceLike(8000, 2, { seed })], PCM16 as never);
  const cases: readonly (readonly [string, () => Promise<unknown>, string, number])[] = [
    ['a wrong checksum', () => store(talk(100), { sha256: '0'.repeat(64) }), 'checksum differs', 422],
    ['no WAV', () => store(new TextEncoder().encode('hello there, this is text')), 'Not a WAV file', 415],
    ['an empty file', () => store(new Uint8Array(0)), 'empty', 415],
    ['one sample', () => store(wavBytes(8000, [new Float64Array(1)])), 'too short', 422],
    ['9 channels', () => store(wavBytes(8000, new Array(9).fill(silence(8000, 1)))), '9 channels', 415],
    ['a rate of 2 kHz', () => store(wavBytes(2000, [silence(2000, 1)])), '2000 Hz', 415],
    ['a receiver that is not there', () => store(talk(101), { receiverId: 9999 }), 'receiver', 404],
    ['a card that is not there', () => store(talk(102), { cardRevisionId: 9999 }), 'card revision', 404],
    [
      'more than 1 GiB',
      () =>
        storeCapture(
          incoming(talk(103)),
          (async function* () {
            // The same 64 MiB again and again: the limit is found by counting what comes, whatever was announced.
            const piece = new Uint8Array(64 << 20);
            for (let i = 0; i < 17; i++) yield piece;
          })(),
        ),
      'larger than 1 GiB',
      413,
    ],
  ];
  it.each(cases)(
    '%s: one clear message, nothing stored',
    async (_, attempt, words, status) => {
      const before = await rows();
      const refused = await attempt().then(
        () => null,
        (error: unknown) => error,
      );
      expect(refused).toBeInstanceOf(Refused);
      expect((refused as Refused).message).toContain(words);
      expect((refused as Refused).status).toBe(status);
      expect(await rows()).toEqual(before);
    },
    300_000,
  );

  it('an upload that breaks off leaves nothing', async () => {
    const before = await rows();
    const bytes = wavBytes(48000, [noise(48000, 30, 0.1, 77)], PCM16 as never);
    const broken = (async function* () {
      yield bytes.subarray(0, 2_000_000);
      throw new Error('the connection was lost');
    })();
    await expect(storeCapture(incoming(bytes), broken)).rejects.toThrow('connection was lost');
    expect(await rows()).toEqual(before);
    // The same file is welcome afterwards.
    expect((await storeCapture(incoming(bytes), inPieces(bytes))).overId).toBeGreaterThan(0);
  });

  it('the same file twice is told where it is, also when both come at once', async () => {
    const bytes = talk(200);
    const both = await Promise.allSettled([store(bytes), store(bytes)]);
    expect(both.filter(({ status }) => status === 'fulfilled')).toHaveLength(1);
    const third = await answer(() => store(bytes));
    expect(third).toMatchObject({
      ok: false,
      status: 409,
      message: expect.stringContaining('already here'),
      link: expect.stringMatching(/^\/overs\/\d+$/),
    });
  });

  it('a truncated file is kept and measured for what is there', async () => {
    const whole = talk(300);
    const stored = await store(whole.slice(0, 44 + 16_000));
    measuringPool().add(stored);
    const row = await measured(stored.measurementId);
    expect(row.status).toBe('done');
    expect(row.result?.durationS).toBe(1);
    expect(row.result?.notes.durationS).toContain('cut short');
  });

  it('measuring goes on after a restart, on worker threads, and gives what the core gives', async () => {
    const stored = await store(talk(400));
    await resumeMeasuring();
    const row = await measured(stored.measurementId);
    expect(row.status).toBe('done');
    expect(row.coreVersion).toMatch(/^\d+\.\d+\.\d+$/);
    expect(row.result?.kind).toBe('voice');
    expect((row.detail as VoiceDetail).speechPowers).toHaveLength(68);
    const over = await loadOver(stored.overId);
    expect(over).toMatchObject({ alcReading: 0.4, powerW: 10, load: 'dummy load', capture: { fileName: 'talk.wav' } });
  });

  it('can be measured again after a failure; the newest measurement counts', async () => {
    const { overId, measurementId } = await store(talk(450));
    await database().models.measurements.update({ status: 'failed', error: 'broken.' }, { where: { id: measurementId } });
    expect((await loadOver(overId))?.measurement?.error).toBe('broken.');
    const again = await measureAgain((await loadOver(overId))?.capture?.id ?? 0);
    expect(again).toBeGreaterThan(measurementId);
    expect((await measured(again)).status).toBe('done');
    expect((await loadOver(overId))?.measured?.result.kind).toBe('voice');
    await expect(measureAgain(99999)).rejects.toThrow('no recording');
  });

  it('are deleted with their over, and only they', async () => {
    const { overId, captureId } = await store(talk(500));
    const before = await countOvers();
    await noteOver(overId, { alcReading: null, note: 'a note' });
    expect((await loadOver(overId))?.note).toBe('a note');
    await deleteOver(overId);
    expect(await countOvers()).toBe(before - 1);
    expect(await database().models.captureChunks.count({ where: { captureId } })).toBe(0);
    await expect(deleteOver(overId)).rejects.toThrow('does not exist');
  });
});

describe('cards', () => {
  const change = (values: Record<string, number | string>, base: number) => ({ cardId, baseRevisionId: base, values, reason: 'test' });

  it('append revisions and never change an old one', async () => {
    const [old] = (await loadCard(cardId))?.revisions ?? [];
    const number = await addRevision(change({ 'mic-gain': 50 }, old.id));
    const after = await loadCard(cardId, { revisions: 2 });
    expect(number).toBe(old.number + 1);
    expect(after?.revisions[0].values['mic-gain']).toBe(50);
    expect(after?.revisions.find(({ id }) => id === old.id)).toEqual(old);
    const [move] = await trail(cardId, 1);
    expect(move).toMatchObject({ dialId: 'mic-gain', to: 50, expected: null, outcome: null });
  });

  it('the later of two tabs is told, and nothing is lost', async () => {
    const [base] = (await loadCard(cardId))?.revisions ?? [];
    await addRevision(change({ 'mic-gain': 60 }, base.id));
    await expect(addRevision(change({ 'mic-gain': 65 }, base.id))).rejects.toThrow('changed meanwhile');
    const both = await Promise.allSettled(
      [70, 75].map(async (gain) => addRevision(change({ 'mic-gain': gain }, (await loadCard(cardId))?.revisions[0].id ?? 0))),
    );
    const numbers = (await loadCard(cardId, { revisions: 100 }))?.revisions.map(({ number }) => number) ?? [];
    expect(new Set(numbers).size).toBe(numbers.length);
    expect(both.some(({ status }) => status === 'fulfilled')).toBe(true);
  });

  it('refuse values off the dial, nothing changed, and what does not exist', async () => {
    const [base] = (await loadCard(cardId))?.revisions ?? [];
    await expect(addRevision(change({ 'mic-gain': 101 }, base.id))).rejects.toThrow("can't be 101");
    await expect(addRevision(change({ nope: 1 }, base.id))).rejects.toThrow('no dial "nope"');
    await expect(addRevision(change({}, base.id))).rejects.toThrow('Nothing has changed');
    await expect(addRevision({ ...change({}, base.id), cardId: 9999 })).rejects.toThrow('does not exist');
    expect((await loadCard(cardId))?.revisions[0].id).toBe(base.id);
  });

  it('moves of two revisions are checked by one over, on the same receiver only, against what both do together', async () => {
    const portable = (await listCards({ limit: 100 })).find(({ name }) => name === 'Hilltop portable')?.id ?? 0;
    const judged = await judgedOver(portable);
    for (const [dial, value] of [
      ['treble', -6],
      ['bass', 4],
    ] as const) {
      const [base] = (await loadCard(portable))?.revisions ?? [];
      await addRevision({ cardId: portable, baseRevisionId: base.id, values: { [dial]: value }, reason: 'test', overId: judged?.id });
    }
    const newest = (await loadCard(portable))?.revisions[0].id ?? 0;
    const bytes = readFileSync('demo/overs/06-tilo-after.wav');
    const over = async (receiver: number, change: number) => {
      const copy = new Uint8Array(bytes);
      copy[60] ^= change;
      const stored = await store(copy, { cardRevisionId: newest, receiverId: receiver });
      measuringPool().add(stored);
      await measured(stored.measurementId);
      return (await trail(portable, 2)).map(({ outcome }) => outcome);
    };
    const other = (await loadStation()).receivers.find(({ id }) => id !== judged?.receiver.id)?.id ?? 0;
    expect(await over(other, 1)).toEqual([null, null]);
    const outcomes = await over(judged?.receiver.id ?? 0, 2);
    expect(outcomes.every((outcome) => outcome !== null)).toBe(true);
    const moves = await trail(portable, 2);
    // Treble down and bass up tilt the same way: together they do more than either was expected to do alone.
    for (const { expected, outcome } of moves)
      expect(Math.abs(outcome?.expectedDb ?? 0)).toBeGreaterThan(Math.abs(expected?.changeDb ?? 0));
  });

  it('go back to an older revision by a new one', async () => {
    const revisions = (await loadCard(cardId, { revisions: 100 }))?.revisions ?? [];
    const oldest = revisions[revisions.length - 1];
    await restoreRevision(cardId, oldest.id);
    const after = await loadCard(cardId);
    expect(after?.revisions[0].values).toEqual(oldest.values);
    expect(after?.revisions[0].reason).toContain(`revision ${oldest.number}`);
    await expect(restoreRevision(cardId, 99999)).rejects.toThrow('does not exist');
  });

  it('start at factory values, for a mode the rig has', async () => {
    const { operators, rigs, microphones } = await loadStation();
    const rig = rigs.find(({ name }) => name === 'Knot 5');
    const input = {
      name: 'New',
      operatorId: operators[0].id,
      rigId: rig?.id ?? 0,
      microphoneId: microphones[0].id,
      mode: 'usb' as const,
      purpose: 'natural' as const,
    };
    const id = await createCard(input);
    expect((await loadCard(id))?.revisions[0].values).toMatchObject({ bass: 0, treble: 0 });
    await changeCard(id, { purpose: 'contest' });
    expect((await loadCard(id))?.purpose).toBe('contest');
    expect(await judgedOver(id)).toBeNull();
    await expect(createCard({ ...input, mode: 'fm' })).rejects.toThrow('no mode fm');
    await expect(createCard({ ...input, rigId: 9999 })).rejects.toThrow('does not exist');
  });
});

describe('targets', () => {
  it('keeps edited targets and goes back to the built-in one', async () => {
    const builtIn = await targetFor('contest');
    await setTarget('contest', [
      [100, -10],
      [3000, 0],
    ]);
    expect(await targetFor('contest')).toEqual([
      [100, -10],
      [3000, 0],
    ]);
    await setTarget('contest', null);
    expect(await targetFor('contest')).toEqual(builtIn);
  });
});

describe('requests', () => {
  it.each([
    ['revision', { cardId: 1, baseRevisionId: 1, values: { a: 1 }, reason: '', surprise: 1 }],
    ['revision', { cardId: -1, baseRevisionId: 1, values: {}, reason: '' }],
    ['revision', { cardId: 1, baseRevisionId: 1, values: { 'A B': 1 }, reason: '' }],
    ['capture', { cardRevisionId: 1, receiverId: 1, load: 'sink', fileName: 'x', sha256: 'a'.repeat(64) }],
    ['capture', { cardRevisionId: 1, receiverId: 1, load: 'antenna', fileName: 'x', sha256: 'XYZ' }],
    ['target', { purpose: 'contest', points: [[100, 0]] }],
    ['operator', { name: ' ', callsign: 'Q1ABC' }],
    ['overId', null],
  ] as const)('%s %j is refused by its schema', (kind, input) => {
    expect(() => readRequest(kind, input)).toThrow(Refused);
  });

  it('an unexpected failure is told plainly, without its inside', async () => {
    const told = await answer(async () => {
      throw new Error('secret inside');
    });
    expect(told).toMatchObject({ ok: false, status: 500 });
    expect(JSON.stringify(told)).not.toContain('secret');
  });

  it('the scenario file and its recordings are one to one', () => {
    const scenario = JSON.parse(readFileSync('demo/scenario.json', 'utf8'));
    const files = scenario.events.filter(({ kind }: { kind: string }) => kind === 'over').map(({ file }: { file: string }) => file);
    for (const file of files) expect(readFileSync(join('demo/overs', file)).length).toBeGreaterThan(100_000);
  });
});
