import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import type { SsbMeasurement } from '../../measure/index.ts';
import { factoryCard, parseRig } from '../../rig/index.ts';
import { cleanShare, driveOf, nextChannelDb, tooMuchDrive } from './drive.ts';
import type { SeenOver } from './seen.ts';

const rig = parseRig(JSON.parse(readFileSync('demo/rigs/tern-100.json', 'utf8')));
const radio = (wantedSide: number | null, otherSide: number | null, notes = {}, severity?: 'watch' | 'fault') =>
  ({
    adjacentDb: { wantedSide, otherSide },
    notes,
    findings: severity ? [{ code: 'overdrive', severity, text: 'Too hard.' }] : [],
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
  it('by the louder next channel; a fault whose products fall elsewhere is told all the same', () => {
    expect(driveOf({ radios: [radio(-50, -45, {}, 'watch')] })).toBe('ok');
    expect(driveOf({ radios: [radio(-50, -30)] })).toBe('high');
    expect(tooMuchDrive({ radios: [radio(-50, -30)] })).toMatch(/^The next channel is not clean: −30 dB/);
    expect(driveOf({ radios: [radio(-50, -45, {}, 'fault')] })).toBe('ok');
    expect(tooMuchDrive({ radios: [radio(-50, -45, {}, 'fault')] })).toBe('Too hard.');
  });
  it('as it was read off an analyser, where no recording tells', () => {
    const silent = { 'adjacentDb.wantedSide': 'noise', 'adjacentDb.otherSide': 'noise' };
    expect(driveOf({ radios: [], adjacentDb: -42 })).toBe('ok');
    expect(driveOf({ radios: [], adjacentDb: -30 })).toBe('high');
    expect(driveOf({ radios: [radio(-30, -31, silent)], adjacentDb: -30 })).toBe('high');
    // What was recorded comes first.
    expect(driveOf({ radios: [radio(-50, -45)], adjacentDb: -30 })).toBe('ok');
    expect(tooMuchDrive({ radios: [], adjacentDb: -30 })).toMatch(/^The next channel is not clean: −30 dB/);
    const read = (gain: number, adjacentDb: number): SeenOver => ({ ...over(gain, 0), radios: [], adjacentDb });
    expect(cleanShare(rig, [read(30, -50), read(60, -28)], none)).toBeLessThan(0.6);
  });
  it('what only the noise fills is no evidence', () => {
    const bounded = { 'adjacentDb.wantedSide': 'noise', 'adjacentDb.otherSide': 'noise' };
    expect(nextChannelDb([radio(-30, -31, bounded)])).toBeNull();
    expect(driveOf({ radios: [radio(-30, -31, bounded)] })).toBe('ok');
    expect(driveOf({ radios: [radio(-30, -31, bounded, 'fault')] })).toBe('high');
    expect(driveOf({ radios: [] })).toBe('unknown');
    expect(tooMuchDrive({ radios: [] })).toBeNull();
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
