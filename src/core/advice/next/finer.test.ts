import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { factoryCard, parseRig, responseOf } from '../../rig/index.ts';
import { finerLevels } from './finer.ts';

const rig = parseRig(JSON.parse(readFileSync('demo/rigs/fulmar-8.json', 'utf8')));
const tern = parseRig(JSON.parse(readFileSync('demo/rigs/tern-100.json', 'utf8')));
const LEVELS = ['eq-100', 'eq-200', 'eq-400', 'eq-600', 'eq-1000', 'eq-1600', 'eq-2400', 'eq-3200'];
const sliders = (...db: number[]) => Object.fromEntries(LEVELS.map((id, k) => [id, db[k]]));

describe('a gain of coarse steps made finer', () => {
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
});
