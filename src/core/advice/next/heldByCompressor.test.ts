import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { factoryCard, parseRig } from '../../rig/index.ts';
import { nextAnswer } from './engine.ts';
import { heldAt } from './level.ts';
import type { NextInput, SeenOver } from './seen.ts';

const rig = parseRig(JSON.parse(readFileSync('demo/rigs/tern-100.json', 'utf8')));
const over = (gain: number, amount: number, alc: number, compressionDb: number): SeenOver => ({
  card: {
    mode: 'usb',
    values: { ...factoryCard(rig, 'usb').values, processor: 'on', 'mic-gain': gain, 'processor-level': amount },
    use: null,
  },
  alc,
  compressionDb,
  swr: 1.2,
  voices: [],
  radios: [],
});
const ask = (...overs: SeenOver[]): NextInput => ({
  rig,
  mode: 'usb',
  purpose: 'pile-up',
  school: { alcZone: [0.85, 1], compression: 'handbook' },
  scope: ['compression'],
  overs,
});
const set = (input: NextInput) => Object.fromEntries(nextAnswer(input).set.map(({ dial, to }) => [dial.id, to]));

describe('a compressor that takes up what the gain adds', () => {
  // As a practice radio's readings went: 13 dB more gain, 13 dB more compression, and the ALC where it was.
  const swallowed = [over(57, 50, 0.45, 21), over(92, 45, 0.5, 34)];

  it('holds the ALC, by two readings of its own meter', () => {
    expect(heldAt(rig, swallowed, [])).toBe(0.5);
    // The ALC follows: nothing is held.
    expect(heldAt(rig, [over(57, 50, 0.3, 12), over(80, 50, 0.7, 18)], [])).toBeNull();
    // The gain moved little, or the meter did not take it up.
    expect(heldAt(rig, [over(57, 50, 0.45, 12), over(62, 50, 0.5, 14)], [])).toBeNull();
    expect(heldAt(rig, [over(57, 50, 0.45, 12), over(92, 50, 0.5, 13)], [])).toBeNull();
  });

  it('or where the same gain without it read far more', () => {
    const off = (gain: number, alc: number): SeenOver => {
      const { card, ...rest } = over(gain, 29, alc, 0);
      return { ...rest, card: { ...card, values: { ...card.values, processor: 'off' } } };
    };
    expect(heldAt(rig, [off(90, 1), over(90, 29, 0.55, 20)], [])).toBe(0.55);
    // As loud without it; with less gain; a compressor that hardly acts.
    expect(heldAt(rig, [off(90, 0.6), over(90, 29, 0.55, 20)], [])).toBeNull();
    expect(heldAt(rig, [off(95, 1), over(70, 29, 0.55, 20)], [])).toBeNull();
    expect(heldAt(rig, [off(90, 1), over(90, 29, 0.55, 3)], [])).toBeNull();
  });

  it('the gain goes no further up, and down where the meter shows more than the school has', () => {
    const first = set(ask(...swallowed));
    expect(first['processor-level'] === undefined || Number(first['processor-level']) < 45).toBe(true);
    expect(first['mic-gain'] === undefined || Number(first['mic-gain']) < 92).toBe(true);
    // With the amount all the way down it is the gain that drives it: about 18 dB of it.
    const bottom = [...swallowed, over(92, 1, 0.5, 33)];
    const gain = Number(set(ask(...bottom))['mic-gain']);
    expect(gain).toBeGreaterThan(30);
    expect(gain).toBeLessThan(60);
    expect(nextAnswer(ask(...bottom)).expected.alc).toBeNull();
    expect(nextAnswer(ask(...bottom)).why).toMatch(/^The mic gain drives the compressor harder than your school has it/);
  });

  it('with 10 to 20 dB it is left alone, and the ALC is said to be held', () => {
    const right = [...swallowed, over(45, 45, 0.5, 16)];
    expect(set(ask(...right))).toEqual({});
    expect(nextAnswer({ ...ask(...right), scope: [] })).toMatchObject({ status: 'stop', set: [] });
  });

  it('a meter that shows more than any amount explains never sends the amount up', () => {
    for (const db of [22, 34, 42, 55]) {
      const amount = set(ask(over(92, 45, 0.5, db)))['processor-level'];
      expect(amount === undefined || Number(amount) < 45, `${db} dB`).toBe(true);
    }
  });
});

describe('a level that does not grow with the gain', () => {
  const knot = parseRig(JSON.parse(readFileSync('demo/rigs/knot-5.json', 'utf8')));
  const at = (gain: number, alc: number): SeenOver => ({
    ...over(0, 0, alc, 0),
    compressionDb: null,
    card: { mode: 'usb', values: { ...factoryCard(knot, 'usb').values, speech: 'low', 'mic-gain': gain }, use: null },
  });

  it('is held, on a dial of ten steps as well, where the readings hardly scatter', () => {
    const held = heldAt(knot, [at(6, 0.45), at(7, 0.45), at(8, 0.45), at(9, 0.45)], []);
    expect(held).toBeCloseTo(0.45, 9);
    // They may grow a little, as little as they scatter.
    expect(heldAt(knot, [at(6, 0.45), at(7, 0.45), at(8, 0.5), at(9, 0.5)], [])).toBeCloseTo(0.5, 9);
  });

  it('is told on either side of the zone', () => {
    const answer = (alc: number) => {
      const overs = [9, 7, 5, 3, 1, 1].map((gain) => at(gain, alc));
      return nextAnswer({ ...ask(...overs), rig: knot, scope: [], school: { alcZone: [0.4, 0.6], compression: 'token' } });
    };
    expect(answer(0.8)).toMatchObject({ status: 'stop', goal: { alc: 'high' } });
    expect(answer(0.8).why).toMatch(/^The ALC stays above the zone/);
    // While the gain has room left nobody says so.
    const room = [at(6, 0.85), at(5, 0.75), at(4, 0.7), at(4, 0.7), at(3, 0.75)];
    expect(heldAt(knot, room, [])).not.toBeNull();
    const further = nextAnswer({ ...ask(...room), rig: knot, scope: [], school: { alcZone: [0.5, 0.67], compression: 'token' } });
    expect(further.goal.alc).toBe('high');
    expect(further.status).not.toBe('stop');
    expect(answer(0.2)).toMatchObject({ status: 'stop', goal: { alc: 'low' } });
    expect(answer(0.2).why).toMatch(/^The ALC stays below the zone/);
  });

  it('is not where they scatter as those of talk do, or grow as they should', () => {
    expect(heldAt(knot, [at(6, 0.35), at(7, 0.55), at(8, 0.4), at(9, 0.5)], [])).toBeNull();
    expect(heldAt(knot, [at(6, 0.3), at(7, 0.4), at(8, 0.55), at(9, 0.65)], [])).toBeNull();
    // Too near each other to tell.
    expect(heldAt(knot, [at(6, 0.45), at(7, 0.45), at(6, 0.45), at(7, 0.45)], [])).toBeNull();
  });
});
