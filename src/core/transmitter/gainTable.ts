/** A gain law as a table over power: memoryless stages look it up instead of taking roots and powers per sample. */
import type { Power } from '../signal/units.ts';

const STEPS = 8192;

export interface GainTable {
  /** Highest power in the table; above it the law itself is asked. */
  readonly top: Power;
  readonly values: Float64Array;
  readonly law: (power: Power) => number;
}

/** @param law smooth function of the power, over 0 to `top` */
export const gainTable = (law: (power: Power) => number, top: Power): GainTable => ({
  top,
  law,
  values: Float64Array.from({ length: STEPS + 1 }, (_, k) => law((k * top) / STEPS)),
});

/** The law at a power, by straight lines between the steps. */
export function lookUp({ top, values, law }: GainTable, power: Power): number {
  if (!(power < top)) return law(power);
  const at = (power / top) * STEPS;
  const k = at | 0;
  return values[k] + (at - k) * (values[k + 1] - values[k]);
}
