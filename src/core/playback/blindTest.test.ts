import { describe, expect, it } from 'vitest';
import { binomialTail } from '../dsp/statistics/statistics.ts';
import { beginTest, blindStep, chanceOfGuessing, drawChoice, verdict } from './blindTest.ts';

describe('the binomial tail', () => {
  it('agrees with the sum by definition', () => {
    const choose = (n: number, k: number): number => (k === 0 ? 1 : (choose(n - 1, k - 1) * n) / k);
    for (const [n, k, p] of [
      [10, 8, 0.5],
      [16, 12, 0.5],
      [7, 0, 0.3],
      [5, 5, 0.2],
    ]) {
      let sum = 0;
      for (let j = k; j <= n; j++) sum += choose(n, j) * p ** j * (1 - p) ** (n - j);
      expect(binomialTail(n, k, p)).toBeCloseTo(sum, 12);
    }
    expect(binomialTail(0, 0, 0.5)).toBe(1);
  });
});

describe('a blind test', () => {
  it('counts right answers and draws anew', () => {
    let test = beginTest('A');
    test = blindStep(test, { kind: 'answer', said: 'A', next: 'B' });
    test = blindStep(test, { kind: 'answer', said: 'A', next: 'A' });
    expect(test).toEqual({ x: 'A', trials: 2, right: 1 });
    expect(blindStep(test, { kind: 'begin', x: 'B' })).toEqual({ x: 'B', trials: 0, right: 0 });
    expect([drawChoice(0), drawChoice(0.499), drawChoice(0.5)]).toEqual(['A', 'A', 'B']);
  });

  it('says what the score means: 9 of 10 is heard, 6 of 10 is not, 3 of 3 is too early', () => {
    // 9 or more of 10 by guessing: 11/1024.
    expect(chanceOfGuessing({ x: 'A', trials: 10, right: 9 })).toBeCloseTo(11 / 1024, 12);
    expect(verdict({ x: 'A', trials: 10, right: 9 })).toMatch(/hear a difference.*1\.1 %/);
    expect(verdict({ x: 'A', trials: 10, right: 6 })).toMatch(/Not told apart.*38 %/);
    expect(verdict({ x: 'A', trials: 3, right: 3 })).toMatch(/2 more trials/);
  });
});
