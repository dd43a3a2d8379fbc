/**
 * The dial line: advice typed as it is heard ("2500 +3", "mic 30", "comp off", "four clicks up at 2.4k") read as
 * moves on a card's dials, with a sentence on what will happen.
 */
import {
  type Card,
  type Dial,
  type DialValue,
  dialOf,
  effective,
  fullScale,
  nameOf,
  ofScale,
  positionsOf,
  type RigProfile,
  rangeText,
  readingText,
  stepFrom,
  valueOn,
  valueText,
} from '../rig/index.ts';
import { type Amount, parseAmount, parseHertz, tidy } from './amounts.ts';
import { dialAt, dialNamed, equalizerSwitch, liveBands, type NamedDial, NotUnderstood } from './dialNamed.ts';

/** One dial, from where to where. */
export interface LineMove {
  readonly dial: Dial;
  readonly from: DialValue;
  readonly to: DialValue;
}

/** What a line means. */
export type DialLine =
  | {
      readonly kind: 'moves';
      readonly moves: readonly LineMove[];
      /** What will happen, one sentence each. */
      readonly explained: readonly string[];
      /** What to mind: a dead dial, a stop at the end of the scale. */
      readonly warnings: readonly string[];
    }
  /** An ALC reading, as a fraction of the meter's scale. */
  | { readonly kind: 'alc'; readonly reading: number; readonly explained: readonly string[] }
  | { readonly kind: 'undo'; readonly explained: readonly string[] }
  | { readonly kind: 'problem'; readonly text: string }
  | { readonly kind: 'empty' };

const LONGEST = 200;

/** Reads one line of advice for a card. Never throws. */
export function readDialLine(text: string, rig: RigProfile, card: Card): DialLine {
  if (text.trim() === '') return { kind: 'empty' };
  if (text.length > LONGEST) return { kind: 'problem', text: `Too long: ${LONGEST} characters are the most.` };
  const words = tidy(text);
  if (words === 'undo') return { kind: 'undo', explained: ["Back to the revision before this card's last change."] };
  try {
    const alc = /^alc (.+)$/.exec(words);
    if (alc) return readAlc(alc[1], rig);
    return readMoves(words, rig, card);
  } catch (error) {
    if (error instanceof NotUnderstood) return { kind: 'problem', text: error.message };
    throw error;
  }
}

function readAlc(words: string, rig: RigProfile): DialLine {
  const number = /^(\d*\.?\d+) ?(%?)$/.exec(words);
  if (!number) throw new NotUnderstood('An ALC reading is a number: alc .6, alc 60%.');
  const full = fullScale(rig.alc);
  const value = Number(number[1]);
  const reading = number[2] ? value / 100 : value < 1 && full > 1 && words.includes('.') ? value : value / full;
  if (reading > 1) throw new NotUnderstood(`${words} is beyond the end of the scale (${full}).`);
  const [low, high] = rig.alc.zone;
  const verdict = reading > high ? 'above the zone: mic gain down' : reading < low ? 'below the zone: mic gain up' : 'in the zone';
  return {
    kind: 'alc',
    reading,
    explained: [`Notes an ALC reading of ${readingText(rig.alc, reading)} ${ofScale(rig.alc)} on the over in view: ${verdict}.`],
  };
}

function readMoves(words: string, rig: RigProfile, card: Card): DialLine {
  const steps: { moves: LineMove[]; explained: string[]; warnings: string[] } = { moves: [], explained: [], warnings: [] };
  let now = card;
  for (const part of words.split(/\s*(?:;|, (?=\S)|,(?=[a-z]|\d{3})|\band\b)\s*/).filter((each) => each !== '')) {
    for (const move of readPart(part, rig, now, steps)) {
      now = { ...now, values: { ...now.values, [move.dial.id]: move.to } };
      const earlier = steps.moves.findIndex(({ dial }) => dial.id === move.dial.id);
      if (earlier >= 0) steps.moves.splice(earlier, 1, { ...steps.moves[earlier], to: move.to });
      else steps.moves.push(move);
    }
  }
  const moves = steps.moves.filter(({ from, to }) => from !== to);
  if (moves.length === 0) throw new NotUnderstood(steps.warnings[0] ?? `${steps.explained[0] ?? 'Nothing changes.'}`);
  const dead = deadWarnings(rig, now, moves);
  return { kind: 'moves', ...steps, moves, warnings: [...steps.warnings, ...dead] };
}

/** One sentence a reason, however many dials it stops. */
function deadWarnings(rig: RigProfile, after: Card, moves: readonly LineMove[]): string[] {
  const states = effective(rig, after).dials;
  const byReason = new Map<string, string[]>();
  for (const { dial } of moves) {
    const state = states.find((each) => each.dial.id === dial.id);
    const reason = state?.dead ? `${state.dead.text} ${state.dead.enable}` : state?.remark;
    if (reason) byReason.set(reason, [...(byReason.get(reason) ?? []), nameOf(dial)]);
  }
  return [...byReason].map(([reason, names]) => `${names.join(', ')}: ${reason}`);
}

type Told = { explained: string[]; warnings: string[] };

function readPart(part: string, rig: RigProfile, card: Card, told: Told): LineMove[] {
  const band = /^(?:bw|filter|passband|width|tx filter) (\d\S*) ?(?:-|to) ?(\d\S*)$/.exec(part);
  if (band) return passbandMoves(rig, card, parseHertz(band[1]), parseHertz(band[2]), told);
  const { named, amount } = split(part, rig, card);
  const from = valueOn(card, named.dial);
  const to = landing(named.dial, from, amount, told);
  if (named.remark) told.explained.push(named.remark);
  const moves = [...enablingMoves(rig, card, named.dial, told), ...named.also.map((each) => ({ ...each, from: valueOn(card, each.dial) }))];
  moves.push({ dial: named.dial, from, to });
  for (const move of moves) told.explained.push(sentence(move));
  return moves;
}

/** With the equalizer off, advice on a band switches it on: that is what was meant. */
function enablingMoves(rig: RigProfile, card: Card, dial: Dial, told: Told): LineMove[] {
  const master = equalizerSwitch(rig);
  const isBand = liveBands(rig, card).some((band) => [band.level, band.centre, band.width].includes(dial.id));
  const need = dial.needs?.find((each) => each.dial === master?.id);
  if (!master || !need || !isBand || need.is.includes(valueOn(card, master))) return [];
  told.warnings.push(`${nameOf(master)} was ${valueOn(card, master)}; it is switched ${need.is[0]} as well.`);
  return [{ dial: master, from: valueOn(card, master), to: need.is[0] }];
}

const sentence = ({ dial, from, to }: LineMove): string =>
  from === to ? `${nameOf(dial)} stays at ${valueText(dial, to)}.` : `${nameOf(dial)}: ${valueText(dial, from)} → ${valueText(dial, to)}.`;

function split(part: string, rig: RigProfile, card: Card): { named: NamedDial; amount: Amount } {
  // "4 clicks up at 2.4k", "3 db down at 400"
  const turned = /^(.+?) (?:at|on|around|for) (.+)$/.exec(part);
  if (turned) {
    const amount = parseAmount(turned[1]);
    if (amount && (amount.kind !== 'to' || typeof amount.value === 'number')) return { named: find(rig, card, turned[2], amount), amount };
  }
  // The name is what leaves a sensible amount behind: the longest first.
  const pieces = part
    .replace(/([+=]|(?<=\s)-)/g, ' $1')
    .split(' ')
    .filter((each) => each !== '');
  let problem: NotUnderstood | null = null;
  for (let n = pieces.length - 1; n >= 1; n--) {
    const amount = parseAmount(pieces.slice(n).join(' '));
    if (!amount) continue;
    try {
      return { named: find(rig, card, pieces.slice(0, n).join(' '), amount), amount };
    } catch (error) {
      if (!(error instanceof NotUnderstood)) throw error;
      problem ??= error;
    }
  }
  if (problem) throw problem;
  throw new NotUnderstood(
    pieces.length === 1
      ? `What should I do with ${part}? Give a value, or + or - steps.`
      : `"${part}" is not understood. Try: 2500 +3, mic 30, comp off, bw 200-2900, alc .6, undo.`,
  );
}

function find(rig: RigProfile, card: Card, words: string, amount: Amount): NamedDial {
  const hz = /^(\d|\.)/.test(words) ? parseHertz(words) : null;
  const addressed = rig.dials.find((dial) => dial.menu !== '' && dial.menu.toLowerCase() === words);
  const isMenu = addressed !== undefined && (hz === null || hz < 50);
  if (hz !== null && !isMenu) {
    if (hz < 50 || hz > 6000) throw new NotUnderstood(`${words} is neither a frequency of the voice nor a menu address of ${rig.name}.`);
    const named = dialAt(rig, card, hz);
    if (!addressed) return named;
    const which = `${words} is read as a frequency; for ${addressed.label} type menu ${words}.`;
    return { ...named, remark: named.remark ? `${which} ${named.remark}` : which };
  }
  return dialNamed(rig, card, words, amount.kind === 'to' ? String(amount.value) : '');
}

/** Where a dial ends up. @throws NotUnderstood when it can't get there */
function landing(dial: Dial, from: DialValue, amount: Amount, told: Told): DialValue {
  const { scale } = dial;
  if (amount.kind === 'clicks') return stopping(dial, from, amount.count, told);
  if (scale.kind === 'options') {
    if (amount.kind === 'by') return stopping(dial, from, amount.amount, told);
    const option = scale.options.find((each) => tidyOption(each) === tidyOption(String(amount.value)));
    if (option === undefined) throw new NotUnderstood(`${nameOf(dial)} has no position "${amount.value}": ${rangeText(dial)}.`);
    return option;
  }
  if (amount.kind === 'to' && typeof amount.value === 'string') {
    const words: Record<string, DialValue | undefined> = { flat: 0, off: 0, min: positionsOf(scale)[0], max: positionsOf(scale).at(-1) };
    const named = words[amount.value];
    if (named === undefined || !positionsOf(scale).includes(named)) {
      throw new NotUnderstood(`${nameOf(dial)} goes ${rangeText(dial)}; "${amount.value}" is no place on it.`);
    }
    return named;
  }
  const wanted = amount.kind === 'to' ? Number(amount.value) : Number(from) + amount.amount;
  return nearestPosition(dial, wanted, amount.kind === 'by', told);
}

const tidyOption = (text: string): string => text.toLowerCase().replace(/[−–—]/g, '-').replace(/\s+/g, '');

function stopping(dial: Dial, from: DialValue, clicks: number, told: Told): DialValue {
  if (!Number.isInteger(clicks)) throw new NotUnderstood('Clicks are whole numbers.');
  const to = stepFrom(dial.scale, from, clicks);
  const positions = positionsOf(dial.scale);
  if (positions.indexOf(to) - positions.indexOf(from) !== clicks) told.warnings.push(`${nameOf(dial)} stops at ${valueText(dial, to)}.`);
  return to;
}

function nearestPosition(dial: Dial, wanted: number, isRelative: boolean, told: Told): DialValue {
  const positions = positionsOf(dial.scale).map(Number);
  const [low, high] = [positions[0], positions[positions.length - 1]];
  if (wanted < low || wanted > high) {
    if (!isRelative) throw new NotUnderstood(`${nameOf(dial)} can't be ${wanted}; it goes ${rangeText(dial)}.`);
    told.warnings.push(`${nameOf(dial)} stops at ${valueText(dial, wanted < low ? low : high)}.`);
  }
  const nearest = positions.reduce((best, each) => (Math.abs(each - wanted) < Math.abs(best - wanted) ? each : best));
  if (Math.abs(nearest - wanted) > 1e-9 && wanted >= low && wanted <= high) {
    told.warnings.push(`${nameOf(dial)} has no ${Number(wanted.toFixed(3))}; ${valueText(dial, nearest)} is the nearest.`);
  }
  return nearest;
}

function passbandMoves(rig: RigProfile, card: Card, low: number | null, high: number | null, told: Told): LineMove[] {
  if (low === null || high === null || low >= high) throw new NotUnderstood('A passband is two edges, the lower first: bw 200-2900.');
  const passband = rig.passbands.find((each) => each.modes.includes(card.mode));
  if (!passband || passband.kind === 'fixed') throw new NotUnderstood(`The passband of ${rig.name} is fixed in this mode.`);
  const move = (dial: Dial, to: DialValue): LineMove => ({ dial, from: valueOn(card, dial), to });
  const moves =
    passband.kind === 'edges'
      ? [edgeMove(dialOf(rig, passband.low), low), edgeMove(dialOf(rig, passband.high), high)].map(([dial, to]) => move(dial, to))
      : [move(dialOf(rig, passband.dial), chosenPassband(passband.edges, low, high))];
  for (const each of moves) told.explained.push(sentence(each));
  return moves;
}

function edgeMove(dial: Dial, hz: number): [Dial, DialValue] {
  if (positionsOf(dial.scale).includes(hz)) return [dial, hz];
  throw new NotUnderstood(`${nameOf(dial)} has no ${hz} Hz: ${rangeText(dial)}.`);
}

function chosenPassband(edges: readonly (readonly [string, number, number])[], low: number, high: number): string {
  const found = edges.find(([, from, to]) => from === low && to === high);
  if (found) return found[0];
  throw new NotUnderstood(`There is no passband ${low}–${high} Hz: ${edges.map(([option]) => option).join(', ')}.`);
}
