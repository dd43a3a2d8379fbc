import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { factoryCard, parseRig, responseOf } from '../../rig/index.ts';
import { bandsAlike, finerLevels, wantedLevel, withoutBands } from './bandsAlike.ts';
import type { GoalState, NextInput, SeenOver } from './seen.ts';

const rig = parseRig(JSON.parse(readFileSync('demo/rigs/fulmar-8.json', 'utf8')));
const LEVELS = ['eq-100', 'eq-200', 'eq-400', 'eq-600', 'eq-1000', 'eq-1600', 'eq-2400', 'eq-3200'];
const sliders = (...db: number[]) => Object.fromEntries(LEVELS.map((id, k) => [id, db[k]]));
const tern = parseRig(JSON.parse(readFileSync('demo/rigs/tern-100.json', 'utf8')));
/** What an equalizer is asked for after overs with a mic gain and an ALC. */
const wanted = (read: [gain: number, alc: number][], state: GoalState['alc'], likely: number, radio = tern) => {
  const overs = read.map(([gain, alc]) => {
    const values = { ...factoryCard(radio, 'usb').values, 'mic-gain': gain };
    return { card: { mode: 'usb', values, use: null }, alc } as unknown as SeenOver;
  });
  const input = { rig: radio, mode: 'usb', school: { alcZone: [0.3, 0.5] }, overs } as unknown as NextInput;
  return wantedLevel(input, overs[overs.length - 1], { state, likely });
};
const alike = (gain: number, values: Record<string, number>, state: GoalState['alc']) => {
  const card = { mode: 'usb' as const, values: { ...factoryCard(rig, 'usb').values, 'tx-eq': 'on', ...values, 'mic-gain': gain } };
  const over = { card: { ...card, use: null } } as unknown as SeenOver;
  return bandsAlike({ rig, mode: 'usb' } as NextInput, over, card.values, state);
};

describe('bands that only lift, or only cut, are level', () => {
  it('down alike where the mic gain has no room left below, up alike where it has none above', () => {
    const lifted = sliders(4, 6, 8, 4, 6, 8, 4, 8);
    expect(alike(5, lifted, 'high')).toEqual(sliders(-2, 0, 2, -2, 0, 2, -2, 2));
    const cut = sliders(-4, -6, -8, -4, -6, -8, -4, -8);
    expect(alike(100, cut, 'low')).toEqual(sliders(2, 0, -2, 2, 0, -2, 2, -2));
  });
  it('not while the gain has room, the level is right, or some lift what others cut', () => {
    const lifted = sliders(4, 6, 8, 4, 6, 8, 4, 8);
    expect(alike(50, lifted, 'high')).toBeNull();
    expect(alike(5, lifted, 'ok')).toBeNull();
    expect(alike(5, lifted, 'low')).toBeNull();
    expect(alike(5, sliders(6, -6, 6, -6, 6, -6, 6, -6), 'high')).toBeNull();
  });
  it('not the bands of a parametric equalizer, which leave gaps', () => {
    const values = {
      ...factoryCard(tern, 'usb').values,
      'mic-eq': 'on',
      'n-low-level': -14,
      'n-mid-level': -5,
      'n-high-level': -4,
      'mic-gain': 100,
    };
    const last = { card: { mode: 'usb', values, use: null } } as unknown as SeenOver;
    expect(bandsAlike({ rig: tern, mode: 'usb' } as NextInput, last, values, 'low')).toBeNull();
  });
  it('sliders a step or more alike: the same tone at another level, and none beyond its end', () => {
    const card = (values: Record<string, number>) => ({
      mode: 'usb' as const,
      values: { ...factoryCard(rig, 'usb').values, 'tx-eq': 'on', ...values },
    });
    const start = card(sliders(0, -3, 4, 2, 0, -5, 4, 1));
    const found = finerLevels(rig, start);
    expect(found).toHaveLength(6);
    expect(found).toContainEqual(sliders(1, -2, 5, 3, 1, -4, 5, 2));
    const shape = (values: Record<string, number | string>) => {
      const db = responseOf(rig, { mode: 'usb', values: { ...start.values, ...values } }).filter((_, i) => i > 8 && i < 52);
      const middle = db.reduce((a, b) => a + b, 0) / db.length;
      return { middle, shape: db.map((each) => each - middle) };
    };
    const [before, after] = [shape({}), shape(found[found.length - 1])];
    expect(after.middle - before.middle).toBeGreaterThan(2);
    expect(Math.max(...after.shape.map((db, i) => Math.abs(db - before.shape[i])))).toBeLessThan(2);
    const most = Math.max(...finerLevels(rig, card(sliders(8, 0, 0, 0, 0, 0, 0, 0))).map((set) => Number(set['eq-100'])));
    expect(most).toBeLessThanOrEqual(8);
    expect(finerLevels(tern, factoryCard(tern, 'usb'))).toEqual([]);
  });
  it('bass and treble by a step or two, each by itself, where the gain’s steps are coarse', () => {
    const knot = parseRig(JSON.parse(readFileSync('demo/rigs/knot-5.json', 'utf8')));
    const at = (bass: number, treble: number) =>
      finerLevels(knot, { mode: 'usb', values: { ...factoryCard(knot, 'usb').values, bass, treble } });
    expect(at(0, 0)).toHaveLength(24);
    expect(at(0, 0)).toContainEqual({ bass: -2, treble: 1 });
    // At the end of a dial there is nothing beyond it.
    expect(at(-6, 6)).toHaveLength(8);
    expect(at(-6, 6).every(({ bass, treble }) => Number(bass) >= -6 && Number(treble) <= 6)).toBe(true);
  });
  it('a parametric equalizer is asked for level only where the gain is at its end and the ALC beyond the zone', () => {
    expect(wanted([[100, 0.1]], 'low', 0.1)?.levelDb).toBeCloseTo(3, 6);
    expect(wanted([[0, 1]], 'high', 1)?.levelDb).toBeCloseTo(-6, 6);
    expect(wanted([[50, 0.1]], 'low', 0.1)).toBeNull();
    expect(wanted([[100, 0.9]], 'high', 0.9)).toBeNull();
    expect(wanted([[100, 0.4]], 'ok', 0.4)).toBeNull();
    expect(wanted([[100, 0.1]], 'low', 0.1, rig)).toBeNull();
  });
  it('and for more, whatever it costs the tone, with each further over there', () => {
    const [once, twice, often] = [1, 2, 6].map((n) => wanted(Array(n).fill([100, 0]), 'low', 0.05));
    expect(once?.levelDb).toBeCloseTo(3.5, 6);
    expect(often?.levelDb).toBe(6);
    expect([once, twice, often].map((each) => each?.mostLostDb)).toEqual([0.3, 0.5, 0.7]);
    expect(twice?.cost).toBeGreaterThan(once?.cost ?? 1);
    // An over between them with room left, or inside the zone: counted anew.
    for (const between of [[60, 0], [100, 0.4]] as [number, number][])
      expect(wanted([[100, 0], between, [100, 0]], 'low', 0.05)).toEqual(once); // biome-ignore format: as a row
    // Inside the scale it is known how far it is: what is wanted stays, however often.
    expect(wanted(Array(3).fill([100, 0.2]), 'low', 0.2)).toMatchObject({
      levelDb: wanted([[100, 0.2]], 'low', 0.2)?.levelDb,
      mostLostDb: 0.7,
    });
  });
  it('none of them is no equalizer at all', () => {
    const card = { mode: 'usb' as const, values: { ...factoryCard(rig, 'usb').values, 'tx-eq': 'on', 'eq-1000': 9 } };
    expect(Math.max(...responseOf(rig, card))).toBeGreaterThan(8);
    expect(responseOf(rig, withoutBands(rig, card)).every((db) => Math.abs(db) < 1e-9)).toBe(true);
  });
});
