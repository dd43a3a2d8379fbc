/** Numbers as people type them, read in one place: decimal comma or point, a real minus sign or a hyphen. */
import { plainNumber } from './numberText.ts';

const NUMBER = /^[-+]?(?:\d+\.?\d*|\.\d+)$/;

/** @returns null for an empty field, undefined for what is no number or lies outside the range */
export function typedNumber(text: string, least = Number.NEGATIVE_INFINITY, most = Number.POSITIVE_INFINITY): number | null | undefined {
  const words = plainNumber(text.trim());
  if (words === '') return null;
  const value = NUMBER.test(words) ? Number(words) : Number.NaN;
  return Number.isFinite(value) && value >= least && value <= most ? value : undefined;
}

/** The same where a field may not stay empty: null for anything that will not do. */
export const neededNumber = (text: string, least: number, most: number): number | null => typedNumber(text, least, most) ?? null;
