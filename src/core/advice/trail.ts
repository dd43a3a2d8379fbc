/** Moves as they are told afterwards: what was made together is one entry, with one expectation and one outcome. */
import { type Decibels, decibels, frequency, type Hertz, signed } from '../units/index.ts';
import type { Expectation } from './nextMove.ts';

/** A move as it is kept. */
export interface KeptMove {
  readonly revision: number;
  readonly overId: number | null;
  readonly expected: Expectation | null;
  readonly outcome: { readonly overId: number; readonly changeDb: Decibels; readonly expectedDb: Decibels } | null;
}

/** All moves of one revision. */
export interface TrailGroup<M extends KeptMove> {
  readonly revision: number;
  readonly moves: readonly M[];
  /** The one that shows most: its band stands for all of them. Null where nothing was to be expected. */
  readonly telling: M | null;
}

/** Moves of one revision stand together. @param moves newest revision first */
export function groupMoves<M extends KeptMove>(moves: readonly M[]): TrailGroup<M>[] {
  const groups: { revision: number; moves: M[] }[] = [];
  for (const move of moves) {
    const last = groups.at(-1);
    if (last?.revision === move.revision) last.moves.push(move);
    else groups.push({ revision: move.revision, moves: [move] });
  }
  return groups.map((group) => ({ ...group, telling: tellingOf(group.moves) }));
}

function tellingOf<M extends KeptMove>(moves: readonly M[]): M | null {
  const [first, ...rest] = moves.filter(({ expected }) => expected !== null);
  if (!first) return null;
  // One that was checked tells more than one that was not.
  const size = ({ expected, outcome }: M) => Math.abs(expected?.changeDb ?? 0) + (outcome ? 100 : 0);
  return rest.reduce((best, move) => (size(move) > size(best) ? move : best), first);
}

const REGIONS: readonly (readonly [Hertz, string])[] = [
  [500, 'lows'],
  [1600, 'mids'],
  [Number.POSITIVE_INFINITY, 'highs'],
];

/** "+3.1 dB in the highs, at 2.5 kHz". */
export function expectedText({ expected, outcome }: KeptMove): string {
  if (!expected) return '';
  const region = REGIONS.find(([below]) => expected.hz < below)?.[1] ?? 'highs';
  return `${signed(outcome?.expectedDb ?? expected.changeDb, 1)} dB in the ${region}, at ${frequency(expected.hz)}`;
}

/** How an over was made and how loud it came in. */
export interface LevelOfOver {
  readonly overId: number;
  readonly levelDb: Decibels | null;
  readonly powerW: number | null;
}

/** A drop that no equalizer explains, and that somebody would hear. */
const DROP_DB: Decibels = 6;

/**
 * A drop of level between two overs of one card on one receiver, in words; null where there is none, or the power
 * explains it.
 * @param expectedDb change of level that the dials between them should make
 */
export function levelDropText(before: LevelOfOver, now: LevelOfOver, expectedDb: Decibels): string | null {
  if (before.levelDb === null || now.levelDb === null) return null;
  const power = before.powerW !== null && now.powerW !== null ? 10 * Math.log10(now.powerW / before.powerW) : 0;
  const drop = before.levelDb + Math.min(0, expectedDb) + Math.min(0, power) - now.levelDb;
  if (drop < DROP_DB) return null;
  return `Over ${now.overId} came in ${decibels(drop, 0)} quieter than over ${before.overId} on the same receiver and card: look at the distance, the mic’s switch and the receiver’s gain before a dial.`;
}
