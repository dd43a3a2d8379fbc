/**
 * An air check as it goes on: lines typed as they are heard, sorted into dials, readings and remarks, and what they
 * come to on the card. Everything follows from the lines, in their order; nothing else is kept.
 */
import { type LineMove, type MeterReading, type Remark, readDialLine, readReport, type SignalReport } from '../language/index.ts';
import { type Card, type Dial, type DialValue, type RigProfile, valueOn } from '../rig/index.ts';
import type { Said, StandingCard } from './alcStanding.ts';

/** Which end of a check this station is: checked, or the one that listens and advises. */
export const CHECK_SIDES = ['checked', 'checking'] as const;
export type CheckSide = (typeof CHECK_SIDES)[number];

/** A line as it was typed. */
export interface CheckLine {
  readonly id: number;
  readonly text: string;
  /** Taken back: it stays in the log and counts for nothing. */
  readonly isUndone: boolean;
}

/** What a line was understood as. */
export interface CheckStep {
  readonly line: CheckLine;
  readonly kind: 'dials' | 'reading' | 'remark' | 'note' | 'undo';
  readonly moves: readonly LineMove[];
  readonly reading: MeterReading | null;
  readonly remarks: readonly Remark[];
  readonly signal: SignalReport | null;
  /** Vague advice in a remark, as a line that can be taken up. */
  readonly offers: readonly string[];
  /** What will be done, or why nothing is. */
  readonly explained: readonly string[];
  readonly warnings: readonly string[];
  /** Number of dial changes of the check that stood when it was said. */
  readonly after: number;
  /** The card as it stood then, with what the line itself did. */
  readonly card: Card;
}

export interface AirCheck {
  readonly steps: readonly CheckStep[];
  readonly card: Card;
  /** What the next line may refer to. */
  readonly context: { readonly lastMoves: readonly LineMove[]; readonly before: Card };
  readonly changed: readonly { readonly dial: Dial; readonly from: DialValue; readonly to: DialValue }[];
  /** Dials moved since the ALC was read last; null before any reading. */
  readonly movedSinceAlc: number | null;
}

const NOTHING = { moves: [], reading: null, remarks: [], signal: null, offers: [], explained: [], warnings: [] } as const;

/**
 * @param base  the card as the check began, with how the microphone is used
 * @param lines in the order in which they were typed
 */
export function airCheck(rig: RigProfile, base: StandingCard, lines: readonly CheckLine[]): AirCheck {
  const start: Card = { mode: base.mode, values: base.values };
  const history: Card[] = [start];
  const steps: CheckStep[] = [];
  let [lastMoves, movedSince]: [readonly LineMove[], number | null] = [[], null];
  for (const line of lines) {
    const now = history[history.length - 1];
    if (line.isUndone) {
      steps.push({ ...NOTHING, line, kind: 'note', after: history.length - 1, card: now });
      continue;
    }
    const said = understood(line, rig, now, { lastMoves, before: history.at(-2) ?? start });
    if (said.kind === 'undo' && history.length > 1) history.pop();
    if (said.moves.length > 0) {
      history.push({ ...now, values: { ...now.values, ...Object.fromEntries(said.moves.map(({ dial, to }) => [dial.id, to])) } });
      lastMoves = said.moves;
      if (movedSince !== null) movedSince += said.moves.length;
    }
    if (said.reading?.alc !== undefined) movedSince = 0;
    steps.push({ ...said, line, after: history.length - 1, card: history[history.length - 1] });
  }
  const card = history[history.length - 1];
  const changed = rig.dials
    .map((dial) => ({ dial, from: valueOn(start, dial), to: valueOn(card, dial) }))
    .filter(({ from, to }) => from !== to);
  const context = { lastMoves, before: history.at(-2) ?? start };
  return { steps, card, context, changed, movedSinceAlc: movedSince };
}

/** What a line would be understood as, before it is entered. */
export const meaningOf = (rig: RigProfile, { card, context }: AirCheck, text: string): Understood =>
  understood({ text }, rig, card, context);

/** A line as it was understood. */
export type Understood = Omit<CheckStep, 'line' | 'after' | 'card'>;

function understood({ text }: Pick<CheckLine, 'text'>, rig: RigProfile, card: Card, context: AirCheck['context']): Understood {
  const line = readDialLine(text, rig, card, context);
  if (line.kind === 'undo') return { ...NOTHING, kind: 'undo', explained: ['The last change is taken back.'] };
  if (line.kind === 'do') {
    const { moves, reading, explained, warnings } = line;
    return { ...NOTHING, kind: moves.length === 0 && reading ? 'reading' : 'dials', moves, reading, explained, warnings };
  }
  const { remarks, signal, advice } = readReport(text);
  // "mic gain down to 30" on a dial of ten is no remark on low audio.
  if (line.kind === 'problem' && line.isOffScale && line.unread.length === 0) return { ...NOTHING, kind: 'note', explained: [line.text] };
  if (remarks.length === 0 && signal === null) return { ...NOTHING, kind: 'note', explained: line.kind === 'problem' ? [line.text] : [] };
  // A number is an instruction; "some more top" is left to the operator.
  const told = advice.filter(({ line: words }) => /\d\s*(?:clicks|%)?$/.test(words));
  const offers = advice.filter((each) => !told.includes(each)).map(({ line: words }) => words);
  const done = told.length > 0 ? readDialLine(told.map(({ line: words }) => words).join(', '), rig, card, context) : null;
  const doing = done?.kind === 'do' ? { moves: done.moves, explained: done.explained, warnings: done.warnings } : {};
  return { ...NOTHING, ...doing, kind: 'remark', remarks, signal, offers };
}

/** Null once the ALC was read with the dials as they stand: then the engine has more to say. */
export function readingFirst({ movedSinceAlc: moved }: AirCheck): string | null {
  if (moved === null) return 'Talk 10 to 15 seconds, look at the ALC on speech peaks, and type what it shows: alc .4';
  return moved > 0 ? `Read the ALC again: ${moved === 1 ? 'one dial has' : `${moved} dials have`} moved since.` : null;
}

/** The operators' order of a check, with what was touched or read. */
export const CHECK_ORDER = ['passband', 'gain', 'compressor', 'equalizer', 'alc'] as const;

/** Which steps of the order are done; the ALC only while nothing moved since it was read. */
export function orderDone({ steps, movedSinceAlc }: AirCheck): ReadonlySet<(typeof CHECK_ORDER)[number]> {
  const moved = new Set(steps.flatMap(({ moves, line }) => (line.isUndone ? [] : moves.map(({ dial }) => dial.stage))));
  return new Set(CHECK_ORDER.filter((stage) => (stage === 'alc' ? movedSinceAlc === 0 : moved.has(stage))));
}

/** What was said into the microphone while a meter was read, as far as the line tells. */
export function saidIn(text: string): Said {
  if (/\b(?:vowel|sustained?|stretched|held|whistle|a+h+|o+h+)\b|\blong (?:word|tone|e|a|o)\b/i.test(text)) return 'sustained';
  return /\bcount(?:ing|ed)?\b/i.test(text) ? 'counting' : 'talk';
}

/** Which lines are of the card as it was, and which of the card as it is at the end; what lies between is of neither. */
export function linesOf(check: AirCheck): { readonly before: readonly CheckStep[]; readonly after: readonly CheckStep[] } {
  const counting = check.steps.filter(({ line }) => !line.isUndone);
  const last = counting.at(-1)?.after ?? 0;
  const lastMove = counting.findLastIndex(({ moves, kind }) => moves.length > 0 || kind === 'undo');
  const firstMove = counting.findIndex(({ moves, kind }) => moves.length > 0 || kind === 'undo');
  if (firstMove < 0 || check.changed.length === 0) return { before: counting, after: [] };
  // A remark that brought the last moves was of the card before them.
  return { before: counting.slice(0, firstMove), after: counting.slice(lastMove + 1).filter(({ after }) => after === last) };
}
