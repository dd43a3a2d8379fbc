import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { factoryCard, parseRig, responseOf } from '../../rig/index.ts';
import { bandsAlike, withoutBands } from './bandsAlike.ts';
import type { GoalState, NextInput, SeenOver } from './seen.ts';

const rig = parseRig(JSON.parse(readFileSync('demo/rigs/fulmar-8.json', 'utf8')));
const LEVELS = ['eq-100', 'eq-200', 'eq-400', 'eq-600', 'eq-1000', 'eq-1600', 'eq-2400', 'eq-3200'];
const sliders = (...db: number[]) => Object.fromEntries(LEVELS.map((id, k) => [id, db[k]]));
const tern = parseRig(JSON.parse(readFileSync('demo/rigs/tern-100.json', 'utf8')));
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
  it('none of them is no equalizer at all', () => {
    const card = { mode: 'usb' as const, values: { ...factoryCard(rig, 'usb').values, 'tx-eq': 'on', 'eq-1000': 9 } };
    expect(Math.max(...responseOf(rig, card))).toBeGreaterThan(8);
    expect(responseOf(rig, withoutBands(rig, card)).every((db) => Math.abs(db) < 1e-9)).toBe(true);
  });
});
