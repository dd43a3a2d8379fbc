/** Where a dial ends up when it is turned as a clause says. */
import {
  type Card,
  type Dial,
  type DialValue,
  nameOf,
  positionsOf,
  type RigProfile,
  rangeText,
  stepFrom,
  valueOn,
  valueText,
} from '../rig/index.ts';
import { withMinus } from '../units/index.ts';
import type { Clause } from './clause.ts';
import { NotUnderstood, OffTheScale } from './dialNamed.ts';
import type { NumberToken } from './tokens.ts';

/** What is said of a line: what will happen, and what to mind. */
export interface Told {
  readonly explained: string[];
  readonly warnings: string[];
}

/** What a clause says of one dial. */
export interface Amount {
  readonly clause: Clause;
  readonly number: NumberToken | null;
  /** The number is where the dial goes, whatever its sign. */
  readonly isAbsolute: boolean;
  /** No direction means more: "some top". */
  readonly isMore?: boolean;
}

const VAGUE_DB = 2;
const VAGUE_CLICKS = 2;

/**
 * @param before where the dial stood before, for "back to what it was"
 * @throws NotUnderstood when it can't get there
 */
export function landing(dial: Dial, from: DialValue, amount: Amount, before: DialValue | null, told: Told): DialValue {
  const { clause, number } = amount;
  if (clause.option !== null) return optionOf(dial, clause.option);
  if (clause.value !== null) return worded(dial, from, clause.value, before);
  if (number) return numbered(dial, from, number, amount, told);
  if (clause.sign === 0 && !amount.isMore) throw new NotUnderstood(`${nameOf(dial)}: up or down?`);
  const sign = clause.sign === 0 ? 1 : clause.sign;
  if (clause.vague > 0) return vaguely(dial, from, sign * clause.vague, told);
  return stopping(dial, from, sign, told);
}

function worded(dial: Dial, from: DialValue, value: Clause['value'], before: DialValue | null): DialValue {
  const positions = positionsOf(dial.scale);
  const has = (each: DialValue): DialValue | undefined => (positions.includes(each) ? each : undefined);
  switch (value) {
    case 'keep':
      return from;
    case 'min':
      return positions[0];
    case 'max':
      return positions[positions.length - 1];
    case 'half again':
      return nearest(dial, Number(from) / 2);
    case 'before':
      if (before === null) throw new NotUnderstood(`Where ${nameOf(dial)} was before is not known here.`);
      return before;
    case 'narrowest':
    case 'widest':
      return optionOf(dial, value === 'widest' ? 'wide' : 'narrow');
    case 'in the zone':
    case 'end of the zone':
    case 'at rest':
    case 'just moves':
    case 'pinned':
      throw new NotUnderstood(`${nameOf(dial)} is no meter: give a value, or + or - steps.`);
    default: {
      // Where "on" has several strengths the least of them is meant.
      const wanted = value === 'on' ? (has('on') ?? leastOn(positions)) : (has('off') ?? has('none') ?? has(0));
      if (wanted !== undefined) return wanted;
      throw new OffTheScale(`${nameOf(dial)} can't be ${value}; it goes ${rangeText(dial)}.`);
    }
  }
}

/** "off, low, high": low. */
const leastOn = (positions: readonly DialValue[]): DialValue | undefined => (positions[0] === 'off' ? positions[1] : undefined);

const tidyOption = (text: string): string => text.toLowerCase().replace(/[−–—]/g, '-').replace(/\s+/g, '');

function optionOf(dial: Dial, text: string): DialValue {
  const options = dial.scale.kind === 'options' ? dial.scale.options : [];
  const option =
    options.find((each) => tidyOption(each) === tidyOption(text)) ?? options.find((each) => tidyOption(each).startsWith(tidyOption(text)));
  if (option === undefined) throw new NotUnderstood(`${nameOf(dial)} has no position "${text}": ${rangeText(dial)}.`);
  return option;
}

/** A frequency dial is turned in hertz, or in kilohertz as people say them. */
const inHertz = (dial: Dial, number: NumberToken): NumberToken =>
  dial.unit.toLowerCase() === 'hz' &&
  number.unit === null &&
  number.sign === 0 &&
  number.value < 10 &&
  Number(positionsOf(dial.scale)[0]) >= 50
    ? { ...number, value: number.value * 1000, unit: 'khz' }
    : number;

function numbered(dial: Dial, from: DialValue, said: NumberToken, { clause, isAbsolute }: Amount, told: Told): DialValue {
  const { scale } = dial;
  const number = inHertz(dial, said);
  const isRelative = !isAbsolute && (number.sign !== 0 || clause.sign !== 0);
  const sign = number.sign !== 0 ? number.sign : clause.sign !== 0 && isRelative ? clause.sign : 1;
  if (isRelative && number.unit === 'clicks') return stopping(dial, from, sign * number.value, told);
  if (scale.kind === 'options') {
    if (isRelative) return stopping(dial, from, sign * number.value, told);
    return ofOptions(dial, number);
  }
  const positions = positionsOf(scale).map(Number);
  const span = positions[positions.length - 1] - positions[0];
  const isShare = number.isPart || (number.unit === '%' && dial.unit !== '%' && positions[positions.length - 1] !== 100);
  const share = number.unit === '%' ? number.value / 100 : number.value;
  if (isRelative) return nearestTold(dial, Number(from) + sign * (isShare ? share * span : number.value), true, told);
  if (isShare) {
    if (positions[0] < 0) throw new NotUnderstood(`${number.text} of ${nameOf(dial)} is not clear: it goes ${rangeText(dial)}.`);
    return nearest(dial, positions[0] + share * span);
  }
  return nearestTold(dial, sign * number.value, false, told);
}

/** A number on a dial of named positions: the one that reads so, or so far along it. */
function ofOptions(dial: Dial, number: NumberToken): DialValue {
  const options = positionsOf(dial.scale);
  if (number.isPart || number.unit === '%') {
    const share = number.unit === '%' ? number.value / 100 : number.value;
    return options[Math.round(share * (options.length - 1))];
  }
  const spelled = options.find(
    (each) =>
      Number.parseFloat(String(each).replace(/^\D+(?=\d)/, '')) === number.sign * number.value ||
      Number.parseFloat(String(each)) === number.value,
  );
  return spelled ?? optionOf(dial, `${number.sign < 0 ? '-' : ''}${number.value}`);
}

function vaguely(dial: Dial, from: DialValue, amount: number, told: Told): DialValue {
  // Of a few named strengths the next one is a bit more.
  if (dial.scale.kind === 'options') return stopping(dial, from, amount, told);
  if (dial.unit.toLowerCase() !== 'db') return stopping(dial, from, amount * VAGUE_CLICKS, told);
  const to = nearestTold(dial, Number(from) + amount * VAGUE_DB, true, told);
  return to === from ? stopping(dial, from, Math.sign(amount), told) : to;
}

function stopping(dial: Dial, from: DialValue, clicks: number, told: Told): DialValue {
  if (!Number.isInteger(clicks)) throw new NotUnderstood('Clicks are whole numbers.');
  const to = stepFrom(dial.scale, from, clicks);
  const positions = positionsOf(dial.scale);
  if (positions.indexOf(to) - positions.indexOf(from) !== clicks) told.warnings.push(`${nameOf(dial)} stops at ${valueText(dial, to)}.`);
  return to;
}

/** The position nearest to a number. */
export function nearest(dial: Dial, wanted: number): DialValue {
  return positionsOf(dial.scale)
    .map(Number)
    .reduce((best, each) => (Math.abs(each - wanted) < Math.abs(best - wanted) ? each : best));
}

function nearestTold(dial: Dial, wanted: number, isRelative: boolean, told: Told): DialValue {
  const positions = positionsOf(dial.scale).map(Number);
  const [low, high] = [positions[0], positions[positions.length - 1]];
  if (wanted < low || wanted > high) {
    if (!isRelative) throw new OffTheScale(`${nameOf(dial)} can't be ${withMinus(wanted)}; it goes ${rangeText(dial)}.`);
    told.warnings.push(`${nameOf(dial)} stops at ${valueText(dial, wanted < low ? low : high)}.`);
  }
  const to = nearest(dial, wanted);
  if (Math.abs(Number(to) - wanted) > 1e-9 && wanted >= low && wanted <= high)
    told.warnings.push(`${nameOf(dial)} has no ${withMinus(Number(wanted.toFixed(3)))}; ${valueText(dial, to)} is the nearest.`);
  return to;
}

/** Says it when the dial did not stand where the adviser thinks. */
export function checkFrom({ from }: Clause, dial: Dial, rig: RigProfile, card: Card, told: Told): void {
  if (!from) return;
  const said = from.sign < 0 ? -from.value : from.value;
  const is = valueOn(card, dial);
  if (typeof is === 'number' && is !== said)
    told.warnings.push(`${nameOf(dial)} is said to be at ${withMinus(said)}; the card of ${rig.name} has it at ${valueText(dial, is)}.`);
}
