/** What the evidence screens work out before they draw: numbers in words, what differs, which files belong together. */
import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { asRecordings } from '../../src/client/upload.ts';
import { bytesInMemory } from '../../src/core/files/byteSource.ts';
import { KIND_NAMES, KIND_NOTES, radioKindOf } from '../../src/core/measure/kinds.ts';
import { MEASUREMENT_KINDS, type Measurement, type MeasurementKind } from '../../src/core/measure/measurement.ts';
import { measureFile } from '../../src/core/measure/measureRecording.ts';
import { neededNumber, typedNumber } from '../../src/core/units/typedNumber.ts';
import { differs } from '../../src/features/overs/compare/Differences.tsx';
import { LETTERS, lettered, viewOf } from '../../src/features/overs/compare/letters.ts';
import { watts } from '../../src/features/testbench/PlainNumber.tsx';
import type { OverView } from '../../src/server/overs/overs.ts';
import { isBound } from '../../src/ui/report/NumberGrid.tsx';
import { type ReportNumber, reportNumbers } from '../../src/ui/report/numbers.ts';
import { levelRange, pointsOf } from '../../src/ui/report/RadioReport.tsx';

describe('a typed number', () => {
  it.each([
    ['3', 3],
    [' 3,5 ', 3.5],
    ['−40', -40],
    ['-.5', -0.5],
    ['+7.', 7],
    ['', null],
    ['   ', null],
    ['3 dB', undefined],
    ['1e3', undefined],
    ['0x10', undefined],
    ['Infinity', undefined],
    ['1,2,3', undefined],
    ['--1', undefined],
  ])('%j is %s', (text, value) => {
    expect(typedNumber(text)).toBe(value);
    expect(neededNumber(text, -1000, 1000)).toBe(value ?? null);
  });

  it('must lie in its range, ends counted in', () => {
    expect([0, 5, 10].map((n) => typedNumber(String(n), 0, 10))).toEqual([0, 5, 10]);
    expect([-0.1, 10.01].map((n) => typedNumber(String(n), 0, 10))).toEqual([undefined, undefined]);
  });
});

describe('watts in words', () => {
  it.each([
    [100, '100 W'],
    [0.99999, '1 W'],
    [1.2345, '1.23 W'],
    [0.0254, '25.4 mW'],
    [0.00099999, '1 mW'],
    [2.5e-5, '25 µW'],
    [3e-9, '3 nW'],
  ])('%f', (value, text) => {
    expect(watts(value)).toBe(text);
  });
});

describe('kinds of evidence', () => {
  it('each has a name and a note; a card’s mode tells which radio kind is meant', () => {
    for (const kind of MEASUREMENT_KINDS) {
      expect(KIND_NAMES[kind].length).toBeGreaterThan(2);
      expect(KIND_NOTES[kind].length).toBeGreaterThan(10);
    }
    expect((['usb', 'lsb', 'am', 'fm'] as const).map(radioKindOf)).toEqual(['ssb', 'ssb', 'am', 'fm']);
  });
});

describe('files as recordings', () => {
  const file = (name: string) => new File(['x'], name);
  it('SigMF’s two files are one, whatever comes first; a half alone is told', () => {
    const files = ['a.wav', 'b.sigmf-data', 'b.sigmf-meta', 'c.sigmf-meta'].map(file);
    for (const order of [files, [...files].reverse()]) {
      const { recordings, halves } = asRecordings(order);
      expect(recordings.map(({ name }) => name).sort()).toEqual(['a.wav', 'b']);
      expect(recordings.find(({ name }) => name === 'b')).toMatchObject({ file: { name: 'b.sigmf-data' }, meta: { name: 'b.sigmf-meta' } });
      expect(halves).toEqual(['c.sigmf-meta']);
    }
    expect(asRecordings([])).toEqual({ recordings: [], halves: [] });
  });
});

/** The demo's captures, one of each kind, measured by the core. */
const DEMO: Record<MeasurementKind, string> = {
  voice: 'overs/14-runa-gain.wav',
  ssb: 'evidence/ssb-clean.wav',
  am: 'evidence/am-under.wav',
  fm: 'evidence/fm-wide.wav',
  'two-tone': 'evidence/two-tone.wav',
  response: 'evidence/sweep-good.wav',
  power: 'evidence/scope-trace.csv',
};
const measured = (kind: MeasurementKind) =>
  measureFile(kind, bytesInMemory(new Uint8Array(readFileSync(`demo/${DEMO[kind]}`))), kind === 'ssb' ? { carrierHz: 3000 } : {});

const overOf = (id: number, result: Measurement, detail: unknown = null) =>
  ({ id, evidence: { result, detail }, capture: { id, bytes: 1, settings: {} } }) as unknown as OverView;

describe.each(MEASUREMENT_KINDS)('the numbers of %s', (kind) => {
  it('are told with a unit, once each, and never as a machine would', async () => {
    const { measurement } = await measured(kind);
    const numbers = reportNumbers(measurement);
    expect(numbers.length).toBeGreaterThan(5);
    expect(new Set(numbers.map(({ name }) => name)).size).toBe(numbers.length);
    for (const { text, value, matters } of numbers) {
      expect(text).not.toMatch(/NaN|undefined|null|-\d|e[+-]\d/);
      expect(text).toMatch(/dB|Hz|%|LUFS|ppm|\bs\b|ms|W|V|Ω|none|not measurable/);
      if (text === 'not measurable') expect(value).toBeNull();
      expect(matters).toBeGreaterThan(0);
    }
  });

  it('do not differ from themselves', async () => {
    const { measurement } = await measured(kind);
    for (const number of reportNumbers(measurement)) expect(differs(number, number)).toBe(false);
  });

  it('can be heard and seen unless it is a trace', async () => {
    const { measurement, detail } = await measured(kind);
    const [item] = lettered([overOf(1, measurement, detail)]);
    expect(viewOf(item)?.kind ?? null).toBe(kind === 'power' ? null : kind === 'response' ? 'voice' : kind);
  });
});

describe('what differs', () => {
  const number = (value: number | null, note?: string): ReportNumber => ({ name: 'x', text: '', value, note, matters: 3 });
  const BOUND = 'Noise-limited: an upper bound, the noise explains more than half of it.';

  it('is what is further apart than matters', () => {
    expect(differs(number(-40), number(-42))).toBe(false);
    expect(differs(number(-40), number(-43))).toBe(true);
    expect(differs(number(null), number(-43))).toBe(false);
    expect(differs(undefined, number(1))).toBe(false);
  });

  it('counts a bound only from above: it may lie anywhere below', () => {
    expect(isBound(BOUND)).toBe(true);
    expect(isBound('Not all bands are there.')).toBe(false);
    expect(differs(number(-70, BOUND), number(-30))).toBe(true);
    expect(differs(number(-30, BOUND), number(-70))).toBe(false);
    expect(differs(number(-30), number(-70, BOUND))).toBe(true);
    expect(differs(number(-70), number(-30, BOUND))).toBe(false);
    expect(differs(number(-70, BOUND), number(-30, BOUND))).toBe(false);
  });

  it('letters go to measured overs in the order picked', async () => {
    const { measurement } = await measured('power');
    const waiting = { id: 9, evidence: null, capture: null } as unknown as OverView;
    const items = lettered([overOf(5, measurement), waiting, overOf(3, measurement)]);
    expect(items.map(({ letter, over }) => [letter, over.id])).toEqual([
      [LETTERS[0], 5],
      [LETTERS[1], 3],
    ]);
  });
});

describe('a drawn spectrum', () => {
  it('is points at its own steps, in a range of round levels that holds peak and noise', () => {
    const spectrum = { firstHz: -100, stepHz: 50, db: [-90, null, -41] };
    expect(pointsOf(spectrum)).toEqual([
      [-100, -90],
      [-50, null],
      [0, -41],
    ]);
    const [low, high] = levelRange([{ name: '', role: 'measured', points: pointsOf(spectrum) }], -100);
    expect([low % 10, high % 10].map(Math.abs)).toEqual([0, 0]);
    expect(high).toBeGreaterThanOrEqual(-41);
    expect(low).toBeLessThanOrEqual(-100);
    // However deep the noise, no more than is worth seeing.
    const [deep, top] = levelRange([{ name: '', role: 'measured', points: pointsOf(spectrum) }], -300);
    expect(top - deep).toBeLessThanOrEqual(110);
  });
});
