import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { bytesInMemory } from '../../core/files/byteSource.ts';
import type { MeasurementKind } from '../../core/measure/measurement.ts';
import { measureFile } from '../../core/measure/measureRecording.ts';
import { levelRange, pointsOf } from './RadioReport.tsx';

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

const _measured = (kind: MeasurementKind) =>
  measureFile(kind, bytesInMemory(new Uint8Array(readFileSync(`demo/${DEMO[kind]}`))), kind === 'ssb' ? { carrierHz: 3000 } : {});

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
