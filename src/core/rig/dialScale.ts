/** The positions a dial can stand at. */
import { type Fraction, plainNumber } from '../units/index.ts';
import type { Dial, DialScale, DialValue } from './rig.ts';

const MOST_POSITIONS = 100_001;

/** Whether `max` is reached from `min` in whole steps (to a millionth of a step). */
export function dividesEvenly({ min, max, step }: Extract<DialScale, { kind: 'steps' }>): boolean {
  const count = (max - min) / step;
  return Math.abs(count - Math.round(count)) < 1e-6 && count < MOST_POSITIONS;
}

/** Asked for over and over: they are laid out once for each scale, which nobody changes. */
const laidOut = new WeakMap<DialScale, readonly DialValue[]>();

/** Every position, in the order of the dial. */
export function positionsOf(scale: DialScale): readonly DialValue[] {
  if (scale.kind === 'values') return scale.values;
  if (scale.kind === 'options') return scale.options;
  const known = laidOut.get(scale);
  if (known) return known;
  const count = Math.floor((scale.max - scale.min) / scale.step + 1e-6);
  const positions = Array.from({ length: count + 1 }, (_, i) => roundAway(scale.min + i * scale.step));
  laidOut.set(scale, positions);
  return positions;
}

/** Where a value stands on its dial, 0 to 1: by number where the scale has numbers, else by position. */
export function shareOf({ scale }: Pick<Dial, 'scale'>, value: DialValue): Fraction {
  const positions = positionsOf(scale);
  const [first, last] = [positions[0], positions[positions.length - 1]];
  if (scale.kind === 'options' || typeof value !== 'number') return positions.indexOf(value) / Math.max(1, positions.length - 1);
  return last === first ? 0 : (value - Number(first)) / (Number(last) - Number(first));
}

/** Whether a gain dial stands all the way off: its lowest position is silence where it says 0, and a gain like any other where it says 1. */
export const isTurnedOff = (dial: Pick<Dial, 'scale'>, value: DialValue): boolean => shareOf(dial, value) <= 0 && !(Number(value) > 0);

/** Drops what binary fractions add: 0.1 + 0.2 is 0.3 on a dial. */
const roundAway = (value: number): number => Number(value.toFixed(9)) + 0;

/** Whether the dial has that position. */
export const isOnScale = (scale: DialScale, value: DialValue): boolean => positionsOf(scale).includes(value);

/** The position nearest to a value that may not be on the dial; the factory value where nearness means nothing. */
export function nearestOn({ scale, rest }: Pick<Dial, 'scale' | 'rest'>, value: DialValue): DialValue {
  if (isOnScale(scale, value)) return value;
  if (scale.kind === 'options' || typeof value !== 'number') return rest;
  const distance = (each: DialValue) => Math.abs(Number(each) - value);
  return positionsOf(scale).reduce((best, each) => (distance(each) < distance(best) ? each : best));
}

/** Where a dial stands when nobody says: 0 where it has one, else its first position. */
export function restOf(scale: DialScale): DialValue {
  const positions = positionsOf(scale);
  return positions.includes(0) ? 0 : positions[0];
}

/** How the range is told to people. */
export function rangeText({ scale, unit }: Pick<Dial, 'scale' | 'unit'>): string {
  const suffix = unit ? ` ${unit}` : '';
  if (scale.kind === 'options') return scale.options.join(', ');
  if (scale.kind === 'values') {
    const { values } = scale;
    return values.length <= 8
      ? `${values.join(', ')}${suffix}`
      : `${values[0]} to ${values[values.length - 1]}${suffix} in ${values.length} positions`;
  }
  return `${scale.min} to ${scale.max}${suffix} in steps of ${scale.step}`;
}

const byNumber = new Intl.Collator('en', { numeric: true });

/** Orders menu addresses as a person does: 4.2 before 4.10; front knobs (no address) first. */
export const compareMenu = (a: Pick<Dial, 'menu'>, b: Pick<Dial, 'menu'>): number => byNumber.compare(a.menu, b.menu);

/** The position some steps up or down the dial, stopping at its ends. */
export function stepFrom(scale: DialScale, value: DialValue, steps: number): DialValue {
  const positions = positionsOf(scale);
  const at = positions.indexOf(value);
  return positions[Math.max(0, Math.min(positions.length - 1, at + steps))] ?? value;
}

/** What someone typed as a position of the dial ("+3 dB", "−8", "1,5"); null when it is none. */
export function parseDialText(scale: DialScale, text: string): DialValue | null {
  const words = text.trim();
  if (scale.kind === 'options') return scale.options.find((option) => option.toLowerCase() === words.toLowerCase()) ?? null;
  const number = /^([+−-]?\d+(?:[.,]\d+)?)\s*[a-zA-Z%]*$/.exec(words)?.[1];
  if (number === undefined) return null;
  const value = Number(plainNumber(number)) + 0;
  return isOnScale(scale, value) ? value : null;
}
