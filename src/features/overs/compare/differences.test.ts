import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { bytesInMemory } from '../../../core/files/byteSource.ts';
import { MEASUREMENT_KINDS, type Measurement, type MeasurementKind } from '../../../core/measure/measurement.ts';
import { measureFile } from '../../../core/measure/measureRecording.ts';
import type { OverView } from '../../../server/overs/overView.ts';
import { isBound } from '../../../ui/measured/NumberGrid.tsx';
import { type ReportNumber, reportNumbers } from '../../../ui/measured/numbers.ts';
import { differs } from './Differences.tsx';
import { LETTERS, lettered, viewOf } from './letters.ts';

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
