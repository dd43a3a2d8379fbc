/** One over on several receivers, against a real, throw-away MariaDB. */
import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { listCards } from '../../src/server/cards/cardList.ts';
import { loadCard } from '../../src/server/cards/cards.ts';
import { database } from '../../src/server/db/database.ts';
import { loadDemo } from '../../src/server/demo/demo.ts';
import { measureAgain, measuringPool } from '../../src/server/measuring/measuringPool.ts';
import { deleteOver, judgedOver, listOvers, noteOver, pageOfOvers } from '../../src/server/overs/overs.ts';
import { capturesOfOvers, loadOver } from '../../src/server/overs/overView.ts';
import { spreadsOf } from '../../src/server/overs/spreads.ts';
import { MOST_CAPTURES, storeCapture } from '../../src/server/overs/storeCapture.ts';
import { keepReceiver } from '../../src/server/station/station.ts';

const RECORDING = readFileSync('demo/overs/04-tilo-first.wav');
let different = 0;
/** The demo's recording with a few samples of its own, so that it counts as new. */
function fresh(): Buffer {
  const bytes = Buffer.from(RECORDING);
  bytes.writeUInt32LE(++different, 60);
  return bytes;
}

let [cardId, cardRevisionId] = [0, 0];
const receivers: Record<string, number> = {};

async function store(receiver: string, overId?: number) {
  const bytes = fresh();
  const facts = {
    cardRevisionId,
    receiverId: receivers[receiver] ?? 99_999,
    load: 'antenna' as const,
    powerW: null,
    alcReading: null,
    fileName: `${receiver}.wav`,
    sha256: createHash('sha256').update(bytes).digest('hex'),
    ...(overId !== undefined && { overId }),
  };
  return storeCapture(
    facts,
    (async function* () {
      yield bytes;
    })(),
  );
}

async function measured(measurementId: number, captureId: number, bytes: number): Promise<void> {
  measuringPool().add({ measurementId, captureId, bytes });
  for (let tries = 0; tries < 600; tries++) {
    const row = await database().models.measurements.findByPk(measurementId, { rejectOnEmpty: true });
    if ((row.status === 'done' || row.status === 'failed') && measuringPool().progress(measurementId) === undefined) return;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  throw new Error('not measured in time');
}

beforeAll(async () => {
  await loadDemo('demo', new Date('2026-06-08T12:00:00Z'));
  cardId = (await listCards({ limit: 100 })).find(({ name }) => name === 'Evening net')?.id ?? 0;
  cardRevisionId = (await loadCard(cardId))?.revisions[0].id ?? 0;
  for (const [name, kind] of [
    ['own monitor', 'monitor'],
    ['line tap', 'in-line'],
    ['island remote', 'remote'],
    ['bench receiver', 'local'],
  ] as const) {
    receivers[name] = await keepReceiver({ name, kind, lowHz: 100, highHz: 3500, agc: '', path: '', trust: 'medium', note: '' });
  }
}, 300_000);

afterAll(async () => {
  await database().sequelize.close();
});

describe('captures of one over', () => {
  it('stand with their receivers; the over is judged by the best of them, whatever came in first', async () => {
    const first = await store('own monitor');
    for (const receiver of ['line tap', 'island remote', 'bench receiver']) {
      const next = await store(receiver, first.overId);
      expect(next.overId).toBe(first.overId);
    }
    expect((await capturesOfOvers([first.overId])).map(({ receiver }) => receiver.name)).toEqual([
      'own monitor',
      'line tap',
      'island remote',
      'bench receiver',
    ]);
    expect((await loadOver(first.overId))?.receiver.name).toBe('bench receiver');
    const [line] = await listOvers({ cardId, limit: 1 });
    expect(line).toMatchObject({ id: first.overId, captures: 4, receiver: 'bench receiver' });
    expect((await pageOfOvers('island remote', 10, () => 0)).overs.map(({ id }) => id)).toEqual([first.overId]);
    await deleteOver(first.overId);
    expect(await capturesOfOvers([first.overId])).toEqual([]);
    expect(await database().models.captures.count({ where: { overId: first.overId } })).toBe(0);
  });

  it('one over that was heard on the monitor only is not offered while the same revision has a better one', async () => {
    const good = await store('bench receiver');
    await measured(good.measurementId, good.captureId, good.bytes);
    const monitor = await store('own monitor');
    await measured(monitor.measurementId, monitor.captureId, monitor.bytes);
    expect((await judgedOver(cardId))?.id).toBe(good.overId);
    expect((await judgedOver(cardId, monitor.overId))?.id).toBe(monitor.overId);
    // One recording of several is measured again by itself.
    const again = await measureAgain(monitor.captureId);
    expect(again).toBeGreaterThan(monitor.measurementId);
    await deleteOver(good.overId);
    await deleteOver(monitor.overId);
  });

  it('refuses a receiver or an over that is not there, and more captures than an over can have; nothing is half stored', async () => {
    await expect(store('nowhere')).rejects.toThrow('The receiver of this over does not exist. Nothing was stored.');
    await expect(store('line tap', 99_999)).rejects.toThrow('The over of this recording does not exist. Nothing was stored.');
    const { overId } = await store('line tap');
    for (let k = 1; k < MOST_CAPTURES; k++) await store('line tap', overId);
    for (let k = 0; k < 24; k++) await expect(store('line tap', overId)).rejects.toThrow(`has ${MOST_CAPTURES} recordings`);
    expect(await database().models.captures.count({ where: { overId } })).toBe(MOST_CAPTURES);
    await deleteOver(overId);
  });

  it('level spread with and without the monitor is gathered per operator', async () => {
    const over = await store('bench receiver');
    await measured(over.measurementId, over.captureId, over.bytes);
    const operatorId = (await loadOver(over.overId))?.operator.id ?? 0;
    expect(await spreadsOf(operatorId)).toEqual([]);
    await noteOver(over.overId, { alcReading: null, note: '', hasMonitor: true });
    const [spread, ...others] = await spreadsOf(operatorId);
    expect(others).toEqual([]);
    expect(spread.hasMonitor).toBe(true);
    expect(spread.levelSpreadDb).toBeGreaterThan(0);
    await expect(noteOver(over.overId, { alcReading: null, note: '', hasMonitor: false, base: { hasMonitor: null } })).rejects.toThrow(
      'changed meanwhile',
    );
  });
});
