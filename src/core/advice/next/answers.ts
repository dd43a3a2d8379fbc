/** What answers are made of. */
import { type DialValues, type RigProfile, valueOn } from '../../rig/index.ts';
import type { GoalState, Learned, NextAnswer, SeenOver, Setting } from './seen.ts';

/** Before anything was read or heard. */
export const NOTHING_LEARNED: Learned = {
  alc: null,
  compression: null,
  drive: null,
  equalizer: null,
  filterEdgesHz: null,
  deadChance: 0,
  deadDials: [],
};
export const NOTHING_EXPECTED: NextAnswer['expected'] = {
  alc: null,
  compressionDb: null,
  toneErrorDb: null,
  adjacentDb: null,
  bandsDb: null,
};

export const EMPTY_GOAL: GoalState = { alc: 'unknown', drive: 'unknown', compression: 'unknown', toneErrorDb: null, bestToneErrorDb: null };
/** An answer that turns nothing. */
export const plain = (status: NextAnswer['status'], why: string, goal: GoalState, learned: Learned): NextAnswer => ({
  status,
  why,
  reasons: {},
  set: [],
  expected: NOTHING_EXPECTED,
  confidence: status === 'done' ? 0.8 : 0.9,
  runnersUp: [],
  goal,
  learned,
});

/** The dials to set, from the card of an over to these values. */
export const settingsOf = (rig: RigProfile, { card }: SeenOver, values: DialValues): Setting[] =>
  rig.dials.flatMap((dial): Setting[] => {
    const from = valueOn(card, dial);
    const to = values[dial.id] ?? from;
    return from === to ? [] : [{ dial, from, to }];
  });
