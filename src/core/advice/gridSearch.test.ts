/** The search by itself, on grids small enough to try everything. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { gaussian, seededRandom } from '../dsp/statistics/random.ts';
import { type Slot, searchGrid } from './gridSearch.ts';

const WIDTH = 6;

function randomSlot(options: number, random: () => number): Slot {
  const normal = gaussian(random);
  const vectors = Float64Array.from({ length: options * WIDTH }, () => 3 * normal());
  // Option 0 adds nothing and costs nothing: leaving the dial alone.
  vectors.fill(0, 0, WIDTH);
  const costs = Float64Array.from({ length: options }, (_, option) => (option === 0 ? 0 : 0.5 * random()));
  return { vectors, costs, present: 0, flat: 0 };
}

/** Squared distance plus costs, by definition. */
function scoreOf(base: Float64Array, slots: readonly Slot[], choice: readonly number[]): number {
  let score = choice.reduce((sum, option, s) => sum + slots[s].costs[option], 0);
  for (let i = 0; i < WIDTH; i++) {
    const left = choice.reduce((sum, option, s) => sum + slots[s].vectors[option * WIDTH + i], base[i]);
    score += left * left;
  }
  return score;
}

function everyChoice(slots: readonly Slot[]): number[][] {
  return slots.reduce<number[][]>((rows, slot) => rows.flatMap((row) => Array.from(slot.costs, (_, option) => [...row, option])), [[]]);
}

function problem(seed: number, sizes: readonly number[]) {
  const random = seededRandom(seed);
  const normal = gaussian(random);
  const base = Float64Array.from({ length: WIDTH }, () => 5 * normal());
  return { base, slots: sizes.map((size) => randomSlot(size, random)) };
}

describe('grid search', () => {
  it.each([[[30, 30]], [[12, 12, 12]], [[6, 6, 6, 6]], [[200]], [[2, 2, 2, 2, 2, 2]]])('finds the very best of grids %j', (sizes) => {
    for (let seed = 1; seed <= 25; seed++) {
      const { base, slots } = problem(seed, sizes);
      const [best] = searchGrid(base, slots, seededRandom(1));
      const least = everyChoice(slots).reduce((best, choice) => Math.min(best, scoreOf(base, slots, choice)), Infinity);
      expect(best.score).toBeCloseTo(scoreOf(base, slots, best.choice), 9);
      expect(best.score).toBeCloseTo(least, 9);
    }
  });

  it('comes near the best of grids too large to try out, even where neighbours have nothing to do with each other', () => {
    const random = seededRandom(9);
    for (let seed = 1; seed <= 5; seed++) {
      const { base, slots } = problem(seed, [400, 400]);
      const least = everyChoice(slots).reduce((best, choice) => Math.min(best, scoreOf(base, slots, choice)), Infinity);
      expect(Math.sqrt(searchGrid(base, slots, random)[0].score) - Math.sqrt(least)).toBeLessThan(0.3);
    }
  });

  it('is never worse than leaving everything where it is, and ranks what it found', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 1e6 }),
        fc.array(fc.integer({ min: 1, max: 40 }), { minLength: 1, maxLength: 5 }),
        (seed, sizes) => {
          const { base, slots } = problem(seed, sizes);
          const found = searchGrid(base, slots, seededRandom(1));
          expect(found[0].score).toBeLessThanOrEqual(
            scoreOf(
              base,
              slots,
              slots.map(({ present }) => present),
            ) + 1e-9,
          );
          const scores = found.map(({ score }) => score);
          expect([...scores].sort((a, b) => a - b)).toEqual(scores);
          expect(new Set(found.map(({ choice }) => choice.join())).size).toBe(found.length);
          for (const { choice } of found) {
            choice.forEach((option, s) => {
              expect(option).toBeGreaterThanOrEqual(0);
              expect(option).toBeLessThan(sizes[s]);
            });
          }
        },
      ),
      { numRuns: 40 },
    );
  });

  it('looks at large grids too: a needle among thousands of options', () => {
    const { base, slots } = problem(3, [4000, 4000]);
    // One pair takes the whole base away; each half of it alone makes things worse.
    for (let i = 0; i < WIDTH; i++) {
      slots[0].vectors[1234 * WIDTH + i] = -base[i] / 2;
      slots[1].vectors[987 * WIDTH + i] = -base[i] / 2;
    }
    slots[0].costs[1234] = 0;
    slots[1].costs[987] = 0;
    const [best] = searchGrid(base, slots, seededRandom(1));
    // Thousands of random vectors leave little to win; the needle must not be missed by much.
    expect(best.score).toBeLessThan(1);
  });

  it('says the same for the same seed', () => {
    const { base, slots } = problem(11, [60, 60, 60]);
    expect(searchGrid(base, slots, seededRandom(4))).toEqual(searchGrid(base, slots, seededRandom(4)));
  });

  it('does nothing where nothing is wrong', () => {
    const { slots } = problem(5, [20, 20]);
    expect(searchGrid(new Float64Array(WIDTH), slots, seededRandom(1))[0]).toEqual({ choice: [0, 0], score: 0 });
  });
});
