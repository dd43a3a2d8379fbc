import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { factoryCard, parseRig } from '../rig/index.ts';
import { type AlcReading, alcStanding } from './alcStanding.ts';
import { beforeTone, type LevelInput } from './beforeTone.ts';

const rig = parseRig(JSON.parse(readFileSync('demo/rigs/fulmar-8.json', 'utf8')));
const card = { ...factoryCard(rig, 'usb'), use: null };
const gain = rig.dials.find(({ role }) => role === 'mic-gain');
const at = (value: number) => ({ ...card, values: { ...card.values, [gain?.id ?? '']: value } });
const level = (readings: readonly AlcReading[], change: Partial<LevelInput> = {}): LevelInput => ({
  rig,
  standing: alcStanding(rig, at(50), readings, null),
  swr: null,
  tooMuchDrive: null,
  ...change,
});
const read = (alc: number, value = 50): AlcReading => ({ card: at(value), alc });
const [low, high] = rig.alc.zone;

describe('before any tone', () => {
  it('nothing where the level is right, and nothing where nobody has read it', () => {
    expect(beforeTone(level([read((low + high) / 2)]), [], 3)).toBeNull();
    expect(beforeTone(level([]), [], 3)).toBeNull();
  });

  it('the mic gain goes down from above the zone and up from below it', () => {
    const down = beforeTone(level([read(high + 0.3)]), [], 3);
    expect(down).toMatchObject({ kind: 'move', skips: 'alc-3' });
    expect(Number(down?.move?.to)).toBeLessThan(50);
    expect(down?.text).toContain('speech peaks belong');
    expect(Number(beforeTone(level([read(0)]), [], 3)?.move?.to)).toBeGreaterThan(50);
  });

  it('a stale reading counts by what is to be expected now', () => {
    // Read in the middle of the zone with far less gain than now.
    const stale = beforeTone(level([read((low + high) / 2, 25)]), [], 3);
    expect(stale?.text).toContain('likely outside now');
    expect(Number(stale?.move?.to)).toBeLessThan(50);
  });

  it('overdrive comes before the level, and a bad SWR before both', () => {
    const driven = { tooMuchDrive: 'overdrive.' };
    expect(beforeTone(level([read(0)], driven), [], 3)).toMatchObject({ kind: 'move', text: 'overdrive.', skips: 'overdrive-3' });
    expect(Number(beforeTone(level([read(0)], driven), [], 3)?.move?.to)).toBeLessThan(50);
    // Above the zone as well, both ask for the same.
    const both = beforeTone(level([read(high + 0.3)], driven), [], 3);
    expect(both).toMatchObject({ skips: 'overdrive-3', move: { to: beforeTone(level([read(high + 0.3)]), [], 3)?.move?.to } });
    expect(beforeTone(level([read(0)], { ...driven, swr: 5 }), [], 3)?.title).toContain('antenna');
  });

  it('"Not this" leaves it aside', () => {
    expect(beforeTone(level([read(high + 0.3)]), ['alc-3'], 3)).toBeNull();
    expect(beforeTone(level([read(high + 0.3)], { tooMuchDrive: 'splatter.' }), ['overdrive-3'], 3)?.skips).toBe('alc-3');
  });
});
