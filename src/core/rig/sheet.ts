/** The menu-order sheet: what must change on the radio between two cards of one rig. */
import { withMinus } from '../units/index.ts';
import { type Card, valueOn } from './card.ts';
import { compareMenu } from './dialScale.ts';
import { type DeadReason, effective, nameOf } from './effective.ts';
import { equalizerBands } from './equalizer.ts';
import { type Dial, type DialValue, dialOf, type RigProfile } from './rig.ts';

/** A dial to be set; `from` is null where nobody knows how it stands. */
export interface SheetLine {
  readonly dial: Dial;
  /** What the radio holds; null when nobody knows. */
  readonly from: DialValue | null;
  readonly to: DialValue;
  /** Set when the dial does nothing on the wanted card: it can wait. */
  readonly dead: DeadReason | null;
  /** For a dial of one of two banks: which, and when that bank works. */
  readonly bank: string | null;
}

/** Changed dials in menu order. */
export function sheet(rig: RigProfile, from: Card, to: Card): SheetLine[] {
  return everyDial(rig, to)
    .map((line) => ({ ...line, from: valueOn(from, line.dial) }))
    .filter((line) => line.from !== line.to);
}

/** Every dial in menu order, for a radio of which nothing is known. */
export function everyDial(rig: RigProfile, to: Card): SheetLine[] {
  const states = new Map(effective(rig, to).dials.map((state) => [state.dial.id, state]));
  const banks = bankNames(rig);
  return [...rig.dials].sort(compareMenu).map((dial) => ({
    dial,
    from: null,
    to: valueOn(to, dial),
    dead: states.get(dial.id)?.dead ?? null,
    bank: banks.get(dial.id) ?? null,
  }));
}

/** "Bank P (Processor is on)" of every dial that belongs to one of two banks. */
function bankNames(rig: RigProfile): Map<string, string> {
  const names = new Map<string, string>();
  for (const band of equalizerBands(rig)) {
    if (band.bank === null) continue;
    const needs = dialOf(rig, band.level).needs?.filter((need) => dialOf(rig, need.dial).stage !== 'equalizer') ?? [];
    const when = needs.map((need) => `${nameOf(dialOf(rig, need.dial))} is ${need.is.join(' or ')}`).join(', ');
    const name = `Bank ${band.bank}${when ? ` (in use while ${when})` : ''}`;
    for (const part of [band.centre, band.level, band.width]) if (typeof part === 'string') names.set(part, name);
  }
  return names;
}

/** A dial value as an operator reads it: sign for levels in dB, a real minus, the unit. */
export function valueText({ unit, scale }: Pick<Dial, 'unit' | 'scale'>, value: DialValue): string {
  if (typeof value === 'string') return value;
  const plus = unit === 'dB' && scale.kind !== 'options' && value > 0 ? '+' : '';
  return `${plus}${withMinus(value)}${unit ? ` ${unit}` : ''}`;
}
