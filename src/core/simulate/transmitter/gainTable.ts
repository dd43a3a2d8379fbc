/** A gain law as a table, over power or decibels: stages look it up instead of taking roots and powers per sample. */
import type { Power } from '../../units/index.ts';

const STEPS = 8192;

/** A gain over power, as a table. */
export interface GainTable {
  readonly values: Float64Array;
  /** Steps per unit. */
  readonly scale: number;
  readonly law: (power: Power) => number;
}

/** @param law smooth function over 0 to `top`; above it is evaluated exactly */
export const gainTable = (law: (power: Power) => number, top: Power): GainTable => ({
  law,
  scale: STEPS / top,
  values: Float64Array.from({ length: STEPS + 1 }, (_, k) => law((k * top) / STEPS)),
});

/** The law at a power, by straight lines between the steps. */
export function lookUp(table: GainTable, power: Power): number {
  const at = power * table.scale;
  // Also where it is no number at all.
  if (!(at < STEPS)) return table.law(power);
  const k = at | 0;
  const low = table.values[k];
  return low + (at - k) * (table.values[k + 1] - low);
}
