/** Whether what was expected of the last move came true. */

import { valueOn } from '../../rig/index.ts';
import type { Decibels, Fraction } from '../../units/index.ts';
import type { Came } from './cameText.ts';
import { nextChannelOf } from './drive.ts';
import { nextAnswer } from './engine.ts';
import { cardOf, type GoalState, type NextInput, type Setting } from './seen.ts';

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
