import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { seededRandom, TWELFTH_CENTRES } from '../../dsp/index.ts';
import { type Card, factoryCard, parseRig } from '../../rig/index.ts';
import { type Decibels, dbToPower, type Hertz, powerToDb } from '../../units/index.ts';
import { type ComparableOver, equalizerBelief } from './equalizerBelief.ts';

const tern = parseRig(JSON.parse(readFileSync('demo/rigs/tern-100.json', 'utf8')));

type Band = (hz: Hertz, centre: Hertz, level: Decibels, octaves: number) => Decibels;
/** Both by equations of their own, none of the program's filters: a resonance beside the straight path, and a bump as wide either way. */
const resonance: Band = (hz, centre, level, octaves) => {
  const x = (Math.sqrt(2 ** octaves) / (2 ** octaves - 1)) * (hz / centre - centre / hz);
  const more = 10 ** (level / 20) - 1;
  return powerToDb((1 + more / (1 + x * x)) ** 2 + ((more * x) / (1 + x * x)) ** 2);
};
const bump: Band = (hz, centre, level, octaves) => level * Math.exp(-Math.LN2 * ((2 * Math.log2(hz / centre)) / octaves) ** 2);

/** Overs with the two lower bands turned ever further, through such a radio, third octaves scattering by 1 dB RMS. */
const overs = (band: Band, count: number, seed: number): ComparableOver[] =>
  [
    [0, 0],
    [-8, 6],
    [-14, 10],
    [10, -12],
    [-18, 8],
  ]
    .slice(0, count)
    .map(([low, mid], k) => {
      const set = { 'n-low-centre': 400, 'n-low-level': low, 'n-low-width': 2, 'n-mid-centre': 1500, 'n-mid-level': mid, 'n-mid-width': 2 };
      const card: Card = { mode: 'usb', values: { ...factoryCard(tern, 'usb').values, 'mic-eq': 'on', ...set } };
      const random = seededRandom(seed + k);
      const scatter = TWELFTH_CENTRES.map(() => 2 * Math.sqrt(3) * (random() - 0.5));
      const powers = TWELFTH_CENTRES.map((hz, i) => dbToPower(-30 + band(hz, 400, low, 2) + band(hz, 1500, mid, 2) + scatter[i - (i % 4)]));
      const detail = { speechPowers: powers, pausePowers: powers.map((power) => power / 1e6) };
      return {
        over: { card: { ...card, use: null } },
        voice: { tap: 'second', detail },
        weight: 1,
        isDead: false,
      } as unknown as ComparableOver;
    });

describe('what a width number tells of a band', () => {
  it.each([1, 20, 300])('cuts that are narrower than lifts are found, and mirrored ones are not taken for them (texts from %s)', (seed) => {
    expect(equalizerBelief(tern, overs(resonance, 5, seed)).resonance).toBeGreaterThan(0.85);
    expect(equalizerBelief(tern, overs(bump, 5, seed)).resonance).toBeLessThan(0.4);
  });

  it('before anything is turned it is open, and both ways are reckoned with for the level', () => {
    const { resonance: chance, possible, likely } = equalizerBelief(tern, overs(resonance, 1, 1));
    expect(chance).toBeCloseTo(0.4, 6);
    expect(possible.map(({ meaning, bells }) => `${meaning} ${bells}`).sort()).toEqual([
      'octaves mirrored',
      'octaves resonance',
      'q mirrored',
      'q resonance',
    ]);
    expect(likely.map(({ meaning, bells }) => `${meaning} ${bells}`)).toEqual(['octaves mirrored', 'q mirrored']);
    for (const all of [possible, likely]) expect(all.reduce((sum, { weight }) => sum + weight, 0)).toBeCloseTo(1, 9);
  });

  it('a profile that says which is believed sooner', () => {
    const told = { ...tern, equalizer: { ...tern.equalizer, bells: 'resonance' } } as typeof tern;
    expect(equalizerBelief(told, []).resonance).toBeCloseTo(0.65, 6);
  });

  it('sliders have none', () => {
    const fulmar = parseRig(JSON.parse(readFileSync('demo/rigs/fulmar-8.json', 'utf8')));
    expect(equalizerBelief(fulmar, []).resonance).toBeNull();
  });
});
