import { describe, expect, it } from 'vitest';
import { solveSymmetric } from './linear.ts';
import { gaussian, seededRandom } from './random.ts';

describe('a symmetric system', () => {
  it.each([1, 2, 5, 12])('of %i equations is solved, for several right-hand sides', (n) => {
    const normal = gaussian(seededRandom(n));
    const root = Array.from({ length: n }, () => Array.from({ length: n }, () => normal()));
    // A = R R' + I is positive definite.
    const a = root.map((row, i) => root.map((other, j) => row.reduce((sum, x, k) => sum + x * other[k], i === j ? 1 : 0)));
    const truth = [0, 1].map(() => Array.from({ length: n }, () => normal()));
    const sides = truth.map((x) => a.map((row) => row.reduce((sum, value, k) => sum + value * x[k], 0)));
    solveSymmetric(a, sides).forEach((solution, s) => {
      solution.forEach((value, k) => {
        expect(value).toBeCloseTo(truth[s][k], 8);
      });
    });
  });

  it('that is not positive definite is refused', () => {
    expect(() => solveSymmetric([[0]], [[1]])).toThrow(RangeError);
    expect(() =>
      solveSymmetric(
        [
          [1, 2],
          [2, 1],
        ],
        [[1, 1]],
      ),
    ).toThrow(RangeError);
  });
});
