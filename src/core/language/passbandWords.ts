/** Passbands as they are called: two edges, one of them, a width, or "the narrow one". */
import {
  type Card,
  type Dial,
  type DialValue,
  dialOf,
  isOnScale,
  nameOf,
  positionsOf,
  type RigProfile,
  rangeText,
  stepFrom,
  valueOn,
} from '../rig/index.ts';
import type { Hertz } from '../units/index.ts';
import type { Clause } from './clause.ts';
import { NotUnderstood } from './dialNamed.ts';
import type { NumberToken } from './tokens.ts';

/** A dial, and where it goes. */
export type DialTo = readonly [dial: Dial, to: DialValue];

type Choice = readonly (readonly [option: string, low: Hertz, high: Hertz])[];

/** @throws NotUnderstood when the radio has no such passband */
export function passbandTo(rig: RigProfile, card: Card, clause: Clause): DialTo[] {
  const passband = rig.passbands.find(({ modes }) => modes.includes(card.mode));
  if (!passband || passband.kind === 'fixed') throw new NotUnderstood(`The passband of ${rig.name} is fixed in this mode.`);
  const hz = clause.numbers.map(inHertz);
  if (passband.kind === 'edges') return edgesTo(card, dialOf(rig, passband.low), dialOf(rig, passband.high), clause, hz);
  const dial = dialOf(rig, passband.dial);
  if (clause.option !== null) return [[dial, clause.option]];
  return [[dial, choiceTo(passband.edges, String(valueOn(card, dial)), clause, hz)]];
}

/** "2.9" and "2.9k" are 2900 Hz; a passband has no edge under 20 Hz. */
const inHertz = ({ value, unit }: NumberToken): Hertz => (unit === null && value < 20 ? value * 1000 : value);

/** "Wider", "a bit narrower"; with a frequency said it is that edge which moves: "open it up to 2.9". */
function stepsOf({ value, sign, vague }: Clause, hz: readonly Hertz[]): number {
  if (hz.length > 0) return 0;
  return value === 'wider' ? 1 : value === 'narrower' ? -1 : sign !== 0 || vague > 0 ? sign || 1 : 0;
}

const widthOf = ([, low, high]: Choice[number]): Hertz => high - low;

function choiceTo(edges: Choice, now: string, clause: Clause, hz: readonly Hertz[]): string {
  const { value } = clause;
  const byWidth = [...edges].sort((a, b) => widthOf(a) - widthOf(b));
  const at = byWidth.findIndex(([option]) => option === now);
  const steps = stepsOf(clause, hz);
  if (value === 'narrowest' || value === 'min') return byWidth[0][0];
  if (value === 'widest' || value === 'max') return byWidth[byWidth.length - 1][0];
  if (steps !== 0) {
    const next = byWidth[at + steps];
    if (!next) throw new NotUnderstood(`${now} is the ${steps > 0 ? 'widest' : 'narrowest'} passband there is.`);
    return next[0];
  }
  const list = edges.map(([option]) => option).join(', ');
  if (hz.length === 2) {
    const found = edges.find(([, low, high]) => low === hz[0] && high === hz[1]);
    if (found) return found[0];
    if (hz[0] >= hz[1]) throw new NotUnderstood('A passband is two edges, the lower first: bw 200-2900.');
    throw new NotUnderstood(`There is no passband ${hz[0]}–${hz[1]} Hz: ${list}.`);
  }
  if (hz.length !== 1) throw new NotUnderstood(`Which passband? ${list}.`);
  return oneNumber(edges, now, hz[0], list);
}

/** One number: an edge that one passband alone has, or that only one has beside the other edge as it is; else a width. */
function oneNumber(edges: Choice, now: string, hz: Hertz, list: string): string {
  const is = edges.find(([option]) => option === now);
  const withEdge = edges.filter(([, low, high]) => low === hz || high === hz);
  const kept = withEdge.filter(([, low, high]) => is && ((high === hz && low === is[1]) || (low === hz && high === is[2])));
  const wide = edges.filter((each) => Math.abs(widthOf(each) - hz) < 1);
  const found = withEdge.length === 1 ? withEdge : kept.length === 1 ? kept : withEdge.length === 0 && wide.length === 1 ? wide : [];
  if (found.length === 1) return found[0][0];
  if (withEdge.length === 0 && wide.length === 0) throw new NotUnderstood(`There is no passband with ${hz} Hz: ${list}.`);
  throw new NotUnderstood(
    `Which passband with ${hz} Hz? ${(withEdge.length > 0 ? withEdge : wide).map(([option]) => option).join(' or ')}.`,
  );
}

function edgesTo(card: Card, low: Dial, high: Dial, clause: Clause, hz: readonly Hertz[]): DialTo[] {
  const { value } = clause;
  const ends = (dial: Dial): [DialValue, DialValue] => [positionsOf(dial.scale)[0], positionsOf(dial.scale).at(-1) ?? 0];
  if (value === 'widest' || value === 'max')
    return [
      [low, ends(low)[0]],
      [high, ends(high)[1]],
    ];
  if (value === 'narrowest' || value === 'min')
    return [
      [low, ends(low)[1]],
      [high, ends(high)[0]],
    ];
  const steps = stepsOf(clause, hz);
  if (steps !== 0)
    return [
      [low, stepFrom(low.scale, valueOn(card, low), -steps)],
      [high, stepFrom(high.scale, valueOn(card, high), steps)],
    ];
  if (hz.length === 2 && hz[0] >= hz[1]) throw new NotUnderstood('A passband is two edges, the lower first: bw 200-2900.');
  if (hz.length === 2) return [edge(low, hz[0]), edge(high, hz[1])];
  if (hz.length === 1) return [edge(hz[0] < 1000 ? low : high, hz[0])];
  throw new NotUnderstood('Which passband? Give its two edges: bw 200-2900.');
}

function edge(dial: Dial, hz: Hertz): DialTo {
  if (isOnScale(dial.scale, hz)) return [dial, hz];
  throw new NotUnderstood(`${nameOf(dial)} has no ${hz} Hz: ${rangeText(dial)}.`);
}
