/** Captures of every kind through the server's doors: stored, measured as told, judged by the station's own limits. */
import { createHash, randomBytes } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { FmMeasurement, MeasurementKind, SsbMeasurement, VoiceMeasurement } from '../../src/core/measure/measurement.ts';
import { loadBench } from '../../src/server/bench/bench.ts';
import { listCards } from '../../src/server/cards/cardList.ts';
import { database } from '../../src/server/db/database.ts';
import { loadDemo } from '../../src/server/demo/demo.ts';
import { ownLimits, setLimit } from '../../src/server/measuring/limits.ts';
import { measureAgain, measuringPool } from '../../src/server/measuring/measuringPool.ts';
import { captureAs } from '../../src/server/overs/captureAs.ts';
import { judgedOver, listOvers } from '../../src/server/overs/overs.ts';
import { loadOver } from '../../src/server/overs/overView.ts';
import { newestRadios } from '../../src/server/overs/rigEvidence.ts';
import { type IncomingCapture, storeCapture } from '../../src/server/overs/storeCapture.ts';
import { Refused } from '../../src/server/requests/refused.ts';
import { readRequest } from '../../src/server/requests/requests.ts';
import { loadStation } from '../../src/server/station/station.ts';

const demo = (name: string) => new Uint8Array(readFileSync(`demo/evidence/${name}`));

/** The same file with other lowest bits at its end. */
function fresh(name: string): Uint8Array {
  const bytes = demo(name);
  randomBytes(12).forEach((bit, n) => {
    bytes[bytes.length - 2 - 2 * n] ^= bit & 1;
  });
  return bytes;
}

const store = (bytes: Uint8Array, changes: Partial<IncomingCapture> = {}) =>
  storeCapture(
    {
      cardRevisionId: 1,
      receiverId: 1,
      load: 'dummy load',
      powerW: null,
      alcReading: null,
      fileName: 'evidence.wav',
      sha256: createHash('sha256').update(bytes).digest('hex'),
      ...changes,
    },
    (async function* () {
      yield bytes;
    })(),
  );

async function measured(measurementId: number) {
  for (let tries = 0; tries < 600; tries++) {
    const row = await database().models.measurements.findByPk(measurementId, { rejectOnEmpty: true });
    if (['done', 'failed'].includes(row.status) && measuringPool().progress(measurementId) === undefined) return row;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  throw new Error('not measured in time');
}

const storeAndMeasure = async (bytes: Uint8Array, changes: Partial<IncomingCapture>) => {
  const stored = await store(bytes, changes);
  measuringPool().add(stored);
  return { stored, row: await measured(stored.measurementId) };
};

beforeAll(() => loadDemo('demo', new Date('2026-06-08T12:00:00Z')), 300_000);
afterAll(() => database().sequelize.close());

describe('the demo’s evidence', () => {
  it('has every kind, with the faults it was given', async () => {
    const overs = await listOvers({ limit: 100 });
    const kinds = new Set(overs.map(({ kind }) => kind));
    expect([...kinds].sort()).toEqual(['am', 'fm', 'power', 'response', 'ssb', 'two-tone', 'voice']);
    const codesOf = (note: RegExp) => overs.find((over) => note.test(over.note))?.findings.map(({ code }) => code);
    expect(codesOf(/Shouted from close by/)).toContain('overdrive');
    expect(codesOf(/kit bench/)).toContain('opposite-sideband');
    expect(codesOf(/as it stands for SSB/)).toEqual(['under-modulated']);
    expect(codesOf(/battery change/)).toEqual(['narrow-deviation']);
    expect(codesOf(/The same sweep/)).toContain('roll-off');
    expect(codesOf(/whip near/)?.filter((code) => code !== 'noise-limited')).toEqual([]);
  });

  it('advice stays with the voices; the Bench shows the newest I/Q recording beside them', async () => {
    const card = (await listCards({ limit: 100 })).find(({ name }) => name === 'Lighthouse DX');
    const over = await judgedOver(card?.id ?? 0);
    expect(over?.measured?.result.kind).toBe('voice');
    const bench = await loadBench(card?.id ?? 0);
    expect(bench?.overs.every(({ kind }) => kind === 'voice')).toBe(true);
    expect(bench?.radio?.evidence?.result.kind).toBe('ssb');
    expect(bench?.radio?.measured).toBeNull();
  });
});

describe('a capture', () => {
  it('of one radio: the newest two I/Q recordings of each kind, none of another radio or of a practice radio', async () => {
    const overs = await listOvers({ limit: 100 });
    const wide = (rig: string) =>
      overs.flatMap((over) => (over.rig === rig && ['ssb', 'am', 'fm', 'two-tone'].includes(over.kind ?? '') ? [over.id] : []));
    const { rigs } = await loadStation();
    for (const { id, name } of rigs) {
      const found = await newestRadios(id, null);
      expect(found.every((over) => over.rig.id === id && over.evidence !== null)).toBe(true);
      const kinds = found.map(({ capture }) => capture?.kind);
      for (const kind of kinds) expect(kinds.filter((each) => each === kind).length).toBeLessThanOrEqual(2);
      // Newest first, and the newest of all is there.
      expect(found.map(({ madeAt }) => madeAt)).toEqual(
        found
          .map(({ madeAt }) => madeAt)
          .sort()
          .reverse(),
      );
      expect(new Set(found.map((over) => over.id)).has(wide(name)[0])).toBe(wide(name).length > 0);
      expect(await newestRadios(id, 7)).toEqual([]);
    }
  });

  it('is measured as its kind on a worker thread; the SSB carrier is proposed', async () => {
    const { row, stored } = await storeAndMeasure(fresh('ssb-clean.wav'), { kind: 'ssb', settings: { sideband: 'usb' } });
    expect(row.status).toBe('done');
    const result = row.result as SsbMeasurement;
    expect(Math.abs(result.carrierHz - 3000)).toBeLessThan(25);
    expect(row.detail).toMatchObject({ carrierFrom: { how: 'proposed' } });
    expect((await loadOver(stored.overId))?.capture).toMatchObject({ kind: 'ssb', settings: { sideband: 'usb' } });
  });

  it('can be measured as something else, with a reference, and again', async () => {
    const { stored } = await storeAndMeasure(fresh('fm-wide.wav'), { kind: 'fm' });
    const as = async (kind: MeasurementKind, settings = {}) =>
      (await measured(await measureAgain(stored.captureId, { kind, settings }))).result;
    expect((await as('am'))?.kind).toBe('am');
    expect(((await as('fm', { isSwapped: true })) as FmMeasurement).offsetHz).toBeCloseTo(-1802, -2);
    expect((await as('voice', { channel: 1, referenceCaptureId: 1 })) as VoiceMeasurement).toMatchObject({ kind: 'voice' });
    await expect(measureAgain(stored.captureId, { kind: 'voice', settings: { referenceCaptureId: stored.captureId } })).rejects.toThrow(
      /its own reference/,
    );
    const gone = await measured(await measureAgain(stored.captureId, { kind: 'voice', settings: { referenceCaptureId: 999_999 } }));
    expect(gone).toMatchObject({ status: 'failed', error: expect.stringContaining('deleted') });
    await expect(measureAgain(stored.captureId, { kind: 'power', settings: {} })).rejects.toThrow();
  });

  it.each([
    ['a single channel as SSB', readFileSync('demo/overs/14-runa-gain.wav').fill(3, 60, 62), { kind: 'ssb' }, /one channel/],
    ['text as SSB', Buffer.from('hello'), { kind: 'ssb' }, /Not a WAV file/],
    ['a song as a trace', Buffer.from('la la la\nla la'), { kind: 'power', fileName: 'x.csv' }, /16 points|Line/],
    ['decimal commas as a curve', Buffer.from('100,0,-3,5\n200,0,-1,0'), { kind: 'response', fileName: 'x.csv' }, /semicolons/],
  ] as const)('is refused in words when it is %s, and nothing is kept', async (_, bytes, changes, message) => {
    const { captures, overs } = database().models;
    const before = [await captures.count(), await overs.count()];
    await expect(store(new Uint8Array(bytes), changes)).rejects.toThrow(message);
    expect([await captures.count(), await overs.count()]).toEqual(before);
  });

  it('a response: the microphone’s curve and another response’s are taken off', async () => {
    const overs = await listOvers({ kind: 'response', limit: 10 });
    const [muffled, good] = overs;
    const goodCapture = (await loadOver(good.id))?.capture?.id ?? 0;
    const curveAt2000 = async (settings: object) => {
      const row = await measured(await measureAgain(muffled.captureId ?? 0, { kind: 'response', settings }));
      if (row.result?.kind !== 'response') throw new Error(row.error ?? 'no response');
      return row.result.curve.reduce((best, point) => (Math.abs(point[0] - 2000) < Math.abs(best[0] - 2000) ? point : best))[1];
    };
    const plain = await curveAt2000({});
    expect(plain).toBeLessThan(-3);
    // The good radio is flat at 2 kHz: what is left is the muffled one's own.
    expect(await curveAt2000({ subtractCaptureId: goodCapture })).toBeCloseTo(plain, 0);
    // The mic of that card rises towards 2 kHz; without it the path is duller still, or brighter, but not the same.
    expect(Math.abs((await curveAt2000({ subtractsMicrophone: true })) - plain)).toBeGreaterThan(0.5);
    const wrong = await measured(await measureAgain(muffled.captureId ?? 0, { kind: 'response', settings: { subtractCaptureId: 1 } }));
    expect(wrong).toMatchObject({ status: 'failed', error: expect.stringContaining('no measured response') });
    await curveAt2000({});
  });

  it('that is no test signal fails to measure with its reason, and is kept', async () => {
    const { row } = await storeAndMeasure(fresh('two-tone.wav'), { kind: 'response' });
    expect(row).toMatchObject({ status: 'failed', error: expect.stringContaining('No test signal') });
  });

  it('goes out as SigMF, and its curve as CSV', async () => {
    const rows = await database().models.captures.findAll();
    const capture = rows.find(({ fileName }) => fileName === 'am-under.wav');
    const sweep = rows.find(({ fileName }) => fileName === 'sweep-good.wav');
    if (!capture || !sweep) throw new Error('the demo lacks its captures');
    const meta = await captureAs(capture, 'sigmf-meta');
    expect(JSON.parse(String(meta.body)).global).toMatchObject({ 'core:datatype': 'ci16_le', 'core:sample_rate': 24000 });
    const data = await captureAs(capture, 'sigmf-data');
    const bytes = new Uint8Array(await new Response(data.body).arrayBuffer());
    expect(Buffer.from(bytes).equals(Buffer.from(demo('am-under.wav').subarray(44)))).toBe(true);
    expect(String((await captureAs(sweep, 'curve')).body)).toMatch(/^Hz,dB\r\n/);
    await expect(captureAs(capture, 'curve')).rejects.toThrow(Refused);
    await expect(captureAs(capture, 'mp3')).rejects.toThrow(Refused);
  });
});

describe('the station’s own limits', () => {
  it('count from the next measurement on, and contradict nothing', async () => {
    const over = (await listOvers({ kind: 'am', isReal: true, limit: 10 }))[0];
    await setLimit('underModulated', { watch: 10, fault: 5 });
    expect(await ownLimits()).toEqual({ underModulated: { watch: 10, fault: 5 } });
    expect((await measured(await measureAgain(over.captureId ?? 0))).result?.findings).toEqual([]);
    await expect(setLimit('underModulated', { watch: 5, fault: 10 })).rejects.toThrow(/worse than a watch/);
    await setLimit('underModulated', { watch: 60, fault: 30 });
    const [finding] = (await measured(await measureAgain(over.captureId ?? 0))).result?.findings ?? [];
    expect(finding.evidence).toContain('this station’s own limit');
    await setLimit('underModulated', null);
    expect(await ownLimits()).toEqual({});
  });

  it('requests pass their schema', () => {
    expect(() => readRequest('limit', { name: 'underModulated', limit: { watch: 1, fault: null } })).not.toThrow();
    expect(() => readRequest('limit', { name: 'toString', limit: null })).toThrow(Refused);
    expect(() => readRequest('measureAs', { overId: 1, kind: 'song', settings: {} })).toThrow(Refused);
    expect(() => readRequest('measureAs', { overId: 1, kind: 'ssb', settings: { carrierHz: 'x' } })).toThrow(Refused);
    expect(() => readRequest('measureAs', { overId: 1, kind: 'ssb', settings: { __proto__: null, evil: 1 } })).toThrow(Refused);
  });
});
