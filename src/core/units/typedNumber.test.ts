import { describe, expect, it } from 'vitest';
import { neededNumber, typedNumber } from './typedNumber.ts';

describe('a typed number', () => {
  it.each([
    ['3', 3],
    [' 3,5 ', 3.5],
    ['−40', -40],
    ['-.5', -0.5],
    ['+7.', 7],
    ['', null],
    ['   ', null],
    ['3 dB', undefined],
    ['1e3', undefined],
    ['0x10', undefined],
    ['Infinity', undefined],
    ['1,2,3', undefined],
    ['--1', undefined],
  ])('%j is %s', (text, value) => {
    expect(typedNumber(text)).toBe(value);
    expect(neededNumber(text, -1000, 1000)).toBe(value ?? null);
  });

  it('must lie in its range, ends counted in', () => {
    expect([0, 5, 10].map((n) => typedNumber(String(n), 0, 10))).toEqual([0, 5, 10]);
    expect([-0.1, 10.01].map((n) => typedNumber(String(n), 0, 10))).toEqual([undefined, undefined]);
  });
});
