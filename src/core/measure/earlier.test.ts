/**
 * The numbers of the demo's recordings as core 1.2.0 had them, in double precision and two passes: what is faster must
 * say the same, within a fraction of what the contract's definitions leave open.
 */
import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { bytesInMemory } from '../files/byteSource.ts';
import type { MeasurementKind } from './measurement.ts';
import { measureFile } from './measureRecording.ts';

const { numbers } = JSON.parse(readFileSync('src/core/measure/earlier.json', 'utf8')) as {
  numbers: Record<string, Record<string, unknown> & { kind: MeasurementKind; carrierHz?: number }>;
};

/** Bands far below the strongest are told from little; a bin is 6 to 12 Hz wide. */
const tolerance = (key: string, value: number): number => {
  if (key.startsWith('thirdOctaveDb')) return value > -30 ? 0.1 : 0.3;
  if (/Db$|Db\.|Lufs$|tilt/.test(key)) return value > -60 ? 0.15 : 0.5;
  if (/Hz/.test(key)) return Math.max(3, 0.012 * Math.abs(value));
  return 0.005 * Math.max(1, Math.abs(value));
};

/** Every number of a value by its path. */
function flat(value: unknown, path = ''): [string, number | null][] {
  if (value === null || typeof value === 'number') return [[path, value]];
  if (typeof value !== 'object') return [];
  return Object.entries(value as object).flatMap(([key, each]) => flat(each, path === '' ? key : `${path}.${key}`));
}

describe('the numbers of core 1.2.0', () => {
  it.each(Object.keys(numbers))('%s measures as it did', async (file) => {
    const { notes, findings, ...before } = numbers[file];
    const options = before.kind === 'ssb' ? { carrierHz: before.carrierHz } : {};
    const { measurement } = await measureFile(before.kind, bytesInMemory(new Uint8Array(readFileSync(file))), options);
    const now = new Map(flat(measurement));
    for (const [key, value] of flat(before)) {
      if (value === null) expect(now.get(key), key).toBeNull();
      else
        expect(Math.abs((now.get(key) ?? Number.NaN) - value), `${key}: ${now.get(key)} for ${value}`).toBeLessThanOrEqual(
          tolerance(key, value),
        );
    }
    expect(measurement.findings.map(({ code, severity }) => `${code} ${severity}`)).toEqual(findings);
    expect(Object.keys(measurement.notes).sort()).toEqual(notes);
  });
});
