/** The menu-order sheet: what must change on the radio between two cards of one rig. */
import { type Card, valueOn } from './card.ts';
import { compareMenu } from './dialScale.ts';
import { type DeadReason, effective } from './effective.ts';
import type { Dial, DialValue, RigProfile } from './rig.ts';

export interface SheetLine {
  readonly dial: Dial;
  readonly from: DialValue;
  readonly to: DialValue;
  /** Set when the dial does nothing on the wanted card: it can wait. */
  readonly dead: DeadReason | null;
}

/** Changed dials in menu order. */
export function sheet(rig: RigProfile, from: Card, to: Card): SheetLine[] {
  const states = new Map(effective(rig, to).dials.map((state) => [state.dial.id, state]));
  return rig.dials
    .filter((dial) => valueOn(from, dial) !== valueOn(to, dial))
    .sort(compareMenu)
    .map((dial) => ({ dial, from: valueOn(from, dial), to: valueOn(to, dial), dead: states.get(dial.id)?.dead ?? null }));
}

/** A dial value as an operator reads it: sign for levels in dB, a real minus, the unit. */
export function valueText({ unit, scale }: Pick<Dial, 'unit' | 'scale'>, value: DialValue): string {
  if (typeof value === 'string') return value;
  const signed = unit === 'dB' && scale.kind !== 'options' && value > 0;
  const digits = String(Math.abs(value));
  return `${value < 0 ? '−' : signed ? '+' : ''}${digits}${unit ? ` ${unit}` : ''}`;
}
