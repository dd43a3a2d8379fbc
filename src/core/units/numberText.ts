/** Numbers as operators read them: real minus sign, unit, few digits. The only place with a minus sign. */
import type { Decibels, Fraction, Hertz, Seconds } from './units.ts';

const MINUS = '−';

/** A number as it stands, with a real minus sign; text that holds none stays as it is. */
export const withMinus = (value: number | string): string => String(value).replace('-', MINUS);

/** The same text as a program reads it: a hyphen for the minus, a point for the decimal comma. */
export const plainNumber = (text: string): string => text.replace(MINUS, '-').replace(',', '.');

/** Fixed digits; a value that rounds to zero has no sign. */
export function fixed(value: number, digits = 1): string {
  const text = Math.abs(value).toFixed(digits);
  return value < 0 && Number(text) !== 0 ? `${MINUS}${text}` : text;
}

/** With a plus sign too. */
export function signed(value: number, digits: number): string {
  const text = fixed(value, digits);
  return value > 0 && Number(Math.abs(value).toFixed(digits)) !== 0 ? `+${text}` : text;
}

/** −12.3 dB; null is not measurable. */
export const decibels = (value: Decibels | null, digits = 1): string => (value === null ? 'not measurable' : `${fixed(value, digits)} dB`);

/** 850 Hz, 2750 Hz. */
export const hertz = (hz: Hertz): string => `${fixed(hz, 0)} Hz`;

/** 850 Hz, 2.75 kHz. */
export const frequency = (hz: Hertz): string => (hz < 1000 ? hertz(hz) : `${Number((hz / 1000).toFixed(2))} kHz`);

/** A share as percent. */
export const percent = (share: Fraction, digits = 0): string => `${fixed(100 * share, digits)} %`;

/** Two digits; all of them from 100 % on. */
export const roughPercent = (share: Fraction): string => `${share < 0.995 ? (100 * share).toPrecision(2) : Math.round(100 * share)} %`;

/** 1 min 05 s, 8.4 s. */
export function duration(seconds: Seconds): string {
  if (seconds < 60) return `${seconds.toFixed(1)} s`;
  const whole = Math.round(seconds);
  return `${Math.floor(whole / 60)} min ${String(whole % 60).padStart(2, '0')} s`;
}

/** 812 bytes, 34 kB, 5.6 MB. */
export function bytes(count: number): string {
  if (count < 1000) return `${count} bytes`;
  if (count < 1e6) return `${(count / 1e3).toFixed(0)} kB`;
  return `${(count / 1e6).toFixed(1)} MB`;
}
