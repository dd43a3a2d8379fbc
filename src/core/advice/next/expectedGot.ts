/** Whether what was expected of the last move came true. */

import { valueOn } from '../../rig/index.ts';
import { type Decibels, decibels, type Fraction, fixed } from '../../units/index.ts';
import { nextChannelOf } from './drive.ts';
import { nextAnswer } from './engine.ts';
import { cardOf, type GoalState, type NextInput, type Setting } from './seen.ts';

/** One number that was expected, 10th, 50th and 90th percentile, and what was seen. */
export interface Came<T> {
  readonly expected: readonly [T, T, T];
  readonly got: T;
  readonly isInside: boolean;
}

/** What the last move was, and what came of it. */
export interface ExpectedGot {
  readonly set: readonly Setting[];
  readonly alc: Came<Fraction> | null;
  readonly compressionDb: Came<Decibels> | null;
  readonly toneErrorDb: Came<Decibels> | null;
  readonly adjacentDb: Came<Decibels> | null;
}

/**
 * @param input history up to the newest over
 * @param goal  how things stand after it, as `nextAnswer` has it
 * @returns null where the newest over was not made with what was proposed before it
 */
export function expectedGot(input: NextInput, { toneErrorDb }: Pick<GoalState, 'toneErrorDb'>): ExpectedGot | null {
  const last = input.overs.at(-1);
  if (!last || input.overs.length < 2) return null;
  const { set, expected } = nextAnswer({ ...input, overs: input.overs.slice(0, -1) });
  const before = input.overs[input.overs.length - 2];
  const wanted = {
    mode: input.mode,
    values: { ...cardOf(before).values, ...Object.fromEntries(set.map(({ dial, to }) => [dial.id, to])) },
  };
  const isAsProposed = set.length > 0 && input.rig.dials.every((dial) => valueOn(wanted, dial) === valueOn(cardOf(last), dial));
  if (!isAsProposed) return null;
  return {
    set,
    alc: came(expected.alc, last.alc),
    compressionDb: came(expected.compressionDb, last.compressionDb, EYE_DB),
    toneErrorDb: came(expected.toneErrorDb, toneErrorDb),
    adjacentDb: came(expected.adjacentDb, nextChannelOf(last)),
  };
}

/** The compression meter is read to a decibel. */
const EYE_DB: Decibels = 0.5;

function came(expected: readonly [number, number, number] | null, got: number | null, readTo = 1e-9): Came<number> | null {
  if (!expected || got === null) return null;
  return { expected, got, isInside: got >= expected[0] - readTo && got <= expected[2] + readTo };
}

/** "about −44 dB (−52 to −38)": a level that is to be expected, and its range. */
export const rangeAbout = ([low, likely, high]: readonly [Decibels, Decibels, Decibels]): string =>
  `about ${decibels(likely, 0)} (${[low, high].map((db) => fixed(db, 0)).join(' to ')})`;

/** "Compression: expected about 14 dB (11 to 18), got 15 dB." */
export function compressionCameText({ expected, got, isInside }: Came<Decibels>): string {
  return `Compression: expected ${rangeAbout(expected)}, got ${decibels(got, 0)}${isInside ? '' : ', which was not expected'}.`;
}

/** "Next channel: expected about −44 dB (−52 to −38), got −45 dB." */
export function nextChannelCameText({ expected, got, isInside }: Came<Decibels>): string {
  return `Next channel: expected ${rangeAbout(expected)}, got ${decibels(got, 0)}${isInside ? '' : ', which was not expected'}.`;
}

/** "Tone expected 1.4 dB off target (0.9 to 2.0), got 1.6." */
export function toneCameText({ expected: [low, likely, high], got, isInside }: Came<Decibels>): string {
  return `Tone: expected ${decibels(likely, 1)} off target (${fixed(low, 1)} to ${fixed(high, 1)}), got ${decibels(got, 1)}${isInside ? '' : ', which was not expected'}.`;
}
