import { describe, expect, it } from 'vitest';
import { utc, utcDay } from '../../ui/utc.ts';
import { bytes, decibels, duration, fixed, frequency, percent, signed } from './numberText.ts';

describe('numbers as operators read them', () => {
  it('have a real minus sign and no signed zero', () => {
    expect(fixed(-2.34, 1)).toBe('−2.3');
    expect(fixed(-0.04, 1)).toBe('0.0');
    expect(signed(2, 1)).toBe('+2.0');
    expect(signed(0.01, 1)).toBe('0.0');
    expect(decibels(-20)).toBe('−20.0 dB');
    expect(decibels(null)).toBe('not measurable');
  });

  it('carry their unit', () => {
    expect(frequency(315.4)).toBe('315 Hz');
    expect(frequency(2510)).toBe('2.51 kHz');
    expect(percent(0.835)).toBe('84 %');
    expect(duration(65)).toBe('1 min 05 s');
    expect(duration(8.44)).toBe('8.4 s');
    expect(bytes(999)).toBe('999 bytes');
    expect(bytes(222_694)).toBe('223 kB');
    expect(bytes(1e8)).toBe('100.0 MB');
  });

  it('times are UTC', () => {
    expect(utc('2026-03-05T23:59:00.000Z')).toBe('5 Mar 23:59');
    expect(utcDay('2026-12-31T00:00:00.000Z')).toBe('31 Dec');
  });
});
