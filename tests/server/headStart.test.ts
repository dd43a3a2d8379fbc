/** Recordings that are measured while they arrive, on a real database and with real threads. */
import { createHash } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { listCards } from '../../src/server/cards/cardList.ts';
import { loadCard } from '../../src/server/cards/cards.ts';
import { database } from '../../src/server/db/database.ts';
import { loadDemo } from '../../src/server/demo/demo.ts';
import { type HeadStart, LEAST_BYTES } from '../../src/server/measuring/headStart.ts';
import { howToMeasure, measureAgain, measuringPool } from '../../src/server/measuring/measuringPool.ts';
import { storeCapture } from '../../src/server/overs/storeCapture.ts';
import { loadStation } from '../../src/server/station/station.ts';
import { join, PCM16, silence, voiceLike, wavBytes } from '../support/signals.ts';

const RATE_HZ = 48_000;
const talk = voiceLike(RATE_HZ, 6);
/** Longer than what is begun at once; no two of one content. */
const recording = (seed: number): Uint8Array => {
  const parts = Array.from({ length: 8 }, () => talk);
  return wavBytes(RATE_HZ, [join(...parts, silence(RATE_HZ, 0.1), voiceLike(RATE_HZ, 0.5, { seed }))], PCM16);
};

/** In pieces with pauses, as a network brings them. */
async function* arriving(bytes: Uint8Array, until = bytes.length): AsyncGenerator<Uint8Array> {
  for (let at = 0; at < until; at += 400_000) {
    yield bytes.subarray(at, Math.min(until, at + 400_000));
    await new Promise((resolve) => setTimeout(resolve, 20));
  }
  if (until < bytes.length) throw new Error('the connection broke off');
}

let facts = { cardRevisionId: 0, receiverId: 0 };
const incoming = (bytes: Uint8Array) => ({
  ...facts,
  load: 'dummy load' as const,
  powerW: null,
  alcReading: null,
  fileName: 'talk.wav',
  kind: 'voice' as const,
  sha256: createHash('sha256').update(bytes).digest('hex'),
});
const startOn = (bytes: number): HeadStart | null =>
  measuringPool().headStart(bytes, () => howToMeasure('voice', {}, facts.cardRevisionId));

async function result(measurementId: number) {
  for (let tries = 0; tries < 600; tries++) {
    const row = await database().models.measurements.findByPk(measurementId, { rejectOnEmpty: true });
    if ((row.status === 'done' || row.status === 'failed') && measuringPool().progress(measurementId) === undefined) return row;
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
  throw new Error('not measured in time');
}

async function stored(bytes: Uint8Array, start: HeadStart | null) {
  const capture = await storeCapture(incoming(bytes), arriving(bytes), start?.arrived.bind(start));
  measuringPool().add(capture, start);
  return { capture, row: await result(capture.measurementId) };
}

beforeAll(async () => {
  await loadDemo('demo', new Date('2026-06-08T12:00:00Z'));
  const [{ id }] = await listCards({ limit: 1 });
  facts = { cardRevisionId: (await loadCard(id))?.revisions[0].id ?? 0, receiverId: (await loadStation()).receivers[0].id };
}, 300_000);

afterAll(async () => {
  await database().sequelize.close();
});

describe('measured while it arrives', () => {
  it('what was found on the way is what is found of the whole recording', async () => {
    const bytes = recording(1);
    const start = startOn(bytes.length);
    if (!start) throw new Error('nothing was begun');
    const found = vi.spyOn(start, 'found');
    const { capture, row } = await stored(bytes, start);
    expect(await found.mock.results[0].value).toMatchObject({ kind: 'done' });
    expect(row.status).toBe('done');
    const again = await result(await measureAgain(capture.captureId));
    expect(again.result).toEqual(row.result);
    expect(again.detail).toEqual(row.detail);
  }, 120_000);

  it('a recording that breaks off is not stored, and keeps nobody waiting', async () => {
    const bytes = recording(2);
    const start = startOn(bytes.length);
    const before = await database().models.captures.count();
    await expect(storeCapture(incoming(bytes), arriving(bytes, 3_200_000), start?.arrived.bind(start))).rejects.toThrow('broke off');
    expect(await start?.isRunning()).toBe(true);
    await start?.abandon();
    expect(await database().models.captures.count()).toBe(before);
    const { row } = await stored(recording(3), null);
    expect(row.status).toBe('done');
  }, 120_000);

  it('one that is not as long as was said is measured as it was stored', async () => {
    const bytes = recording(4);
    const start = startOn(bytes.length + 1_000_000);
    const { row } = await stored(bytes, start);
    expect(await start?.isRunning()).toBe(true);
    expect(row.status).toBe('done');
    expect((row.result as { durationS: number }).durationS).toBeCloseTo(48.6, 3);
  }, 120_000);

  it('a small one is not begun, nor one while others wait', async () => {
    expect(startOn(LEAST_BYTES - 1)).toBeNull();
    const { capture } = await stored(recording(5), null);
    const again = await measureAgain(capture.captureId);
    const bytes = recording(6);
    const start = startOn(bytes.length);
    start?.arrived('/nowhere', bytes.length);
    expect(await start?.isRunning()).toBe(false);
    expect((await result(again)).status).toBe('done');
    const { row } = await stored(bytes, start);
    expect(row.status).toBe('done');
  }, 120_000);
});
