/** What keys do to a number: arrows 10, Page keys 100, Home and End to the ends of the range. */

const STEPS: Record<string, number> = { ArrowUp: 10, ArrowRight: 10, ArrowDown: -10, ArrowLeft: -10, PageUp: 100, PageDown: -100 };

/** The number after a key, kept in its range; null for a key that does nothing here. */
export function steppedBy(key: string, value: number, [least, most]: readonly [number, number]): number | null {
  const step = STEPS[key];
  return step === undefined ? null : Math.min(most, Math.max(least, Math.round(value) + step));
}
