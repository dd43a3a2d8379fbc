import { describe, expect, it } from 'vitest';
import { parseAlc, parseReading } from './alcReading.ts';

describe('readings typed by hand', () => {
  it.each([
    ['', 1, null],
    ['  ', 1, null],
    ['0.5', 1, 0.5],
    ['.5', 1, 0.5],
    ['0,47', 1, 0.47],
    ['0', 1, 0],
    ['0', 5000, undefined],
    ['1.2', 1, undefined],
    ['-1', 1, undefined],
    ['1e3', 5000, undefined],
    ['abc', 5000, undefined],
    ['100', 5000, 100],
  ])('%j up to %i', (text, most, value) => {
    expect(parseReading(text, most, most === 1)).toBe(value);
  });

  it('an ALC reading as the meter is marked becomes a fraction', () => {
    expect(parseAlc('4.5', 10)).toBeCloseTo(0.45, 12);
    expect(parseAlc('0', 10)).toBe(0);
    expect(parseAlc('11', 10)).toBeUndefined();
    expect(parseAlc(' ', 10)).toBeNull();
  });
});
