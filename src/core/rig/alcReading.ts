import { typedNumber } from '../units/index.ts';

/**
 * A number typed in a field that may stay empty: null when empty, undefined when it makes no sense.
 * @param isZeroGood whether nothing at all is a reading too
 */
export function parseReading(text: string, most: number, isZeroGood = false): number | null | undefined {
  const value = typedNumber(text, 0, most);
  return value === 0 && !isZeroGood ? undefined : value;
}

/** An ALC reading as the meter is marked, as a fraction of its scale. @param full what the end of the scale is marked */
export function parseAlc(text: string, full: number): number | null | undefined {
  const reading = parseReading(text, full, true);
  return reading === null || reading === undefined ? reading : reading / full;
}

/** Label of the field. */
export const alcLabel = (full: number): string => `ALC reading, 0 to ${full} of the scale`;
/** What is said of a number that is no reading. */
export const alcError = (full: number): string => `0 is no reading, ${full} the end of the scale.`;
