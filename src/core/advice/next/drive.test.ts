import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import type { SsbMeasurement } from '../../measure/index.ts';
import { factoryCard, parseRig } from '../../rig/index.ts';
import { cleanShare, driveOf, nextChannelDb } from './drive.ts';
import type { SeenOver } from './seen.ts';

const rig = parseRig(JSON.parse(readFileSync('demo/rigs/tern-100.json', 'utf8')));
const radio = (wantedSide: number | null, otherSide: number | null, notes = {}, codes: string[] = []) =>
  ({
    adjacentDb: { wantedSide, otherSide },
    notes,
    findings: codes.map((code) => ({ code, severity: 'watch' })),
  }) as unknown as SsbMeasurement;
const over = (gain: number, adjacent: number, values = {}): SeenOver => ({
  card: { mode: 'usb', values: { ...factoryCard(rig, 'usb').values, 'mic-gain': gain, ...values }, use: null },
  alc: null,
  compressionDb: null,
  swr: null,
  voices: [],
  radios: [radio(adjacent, adjacent - 3)],
});
const none = () => 0;

describe('whether an over was clean', () => {
  it('by the louder next channel, whatever a finding says of faint products', () => {
    expect(driveOf([radio(-50, -45, {}, ['overdrive'])])).toBe('ok');
    expect(driveOf([radio(-50, -30)])).toBe('high');
  });
  it('what only the noise fills is no evidence; then a finding decides', () => {
    const bounded = { 'adjacentDb.wantedSide': 'noise', 'adjacentDb.otherSide': 'noise' };
    expect(nextChannelDb([radio(-30, -31, bounded)])).toBeNull();
    expect(driveOf([radio(-30, -31, bounded)])).toBe('ok');
    expect(driveOf([radio(-30, -31, bounded, ['overdrive'])])).toBe('high');
    expect(driveOf([])).toBe('unknown');
  });
});

describe('the highest gain that stays clean', () => {
  it('no limit until something was dirty', () => expect(cleanShare(rig, [over(70, -45)], none)).toBe(1));
  it('lies below what was dirty, the more so the dirtier it was', () => {
    const [slightly, badly] = [-34, -20].map((level) => cleanShare(rig, [over(60, level)], none));
    expect(slightly).toBeLessThan(0.6);
    expect(badly).toBeLessThan(slightly);
  });
  it('a clean over below a dirty one is as far as it may go at least', () =>
    expect(cleanShare(rig, [over(60, -20), over(55, -40)], none)).toBeCloseTo(0.55));
  it('a clean over above a dirty one contradicts it: half-way', () => {
    const limit = cleanShare(rig, [over(60, -35), over(66, -42)], none);
    expect(limit).toBeGreaterThan(0.56);
    expect(limit).toBeLessThan(0.66);
  });
  it('says nothing once the compressor is another', () =>
    expect(cleanShare(rig, [over(60, -20, { processor: 'on' }), over(40, -50)], none)).toBe(1));
});
