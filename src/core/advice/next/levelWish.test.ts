import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { factoryCard, parseRig } from '../../rig/index.ts';
import { keptLevel, wantedLevel } from './levelWish.ts';
import type { GoalState, NextInput, SeenOver } from './seen.ts';

const rig = parseRig(JSON.parse(readFileSync('demo/rigs/fulmar-8.json', 'utf8')));
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

describe('a level that the equalizer is asked for', () => {
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
  it('is the one there is where the gain has no room to make up for a tone, on any equalizer', () => {
    for (const radio of [tern, rig]) {
      const of = (gain: number, changeDb: number) => {
        const values = { ...factoryCard(radio, 'usb').values, 'mic-gain': gain };
        return keptLevel({ rig: radio, mode: 'usb' }, { card: { mode: 'usb', values, use: null } } as unknown as SeenOver, changeDb);
      };
      expect([of(100, -4)?.levelDb, of(0, 4)?.levelDb]).toEqual([0, 0]);
      expect([of(100, 4), of(0, -4), of(100, -1), of(50, -8)]).toEqual([null, null, null, null]);
    }
  });
});
