import { describe, expect, it } from 'vitest';
import { watts } from './rows.tsx';

describe('watts in words', () => {
  it.each([
    [100, '100 W'],
    [0.99999, '1 W'],
    [1.2345, '1.23 W'],
    [0.0254, '25.4 mW'],
    [0.00099999, '1 mW'],
    [2.5e-5, '25 µW'],
    [3e-9, '3 nW'],
  ])('%f', (value, text) => {
    expect(watts(value)).toBe(text);
  });
});
