/** The blind listening test: X is A or B at random, the listener says which, chance is told from hearing. */
import { binomialTail } from '../dsp/index.ts';
import type { Fraction } from '../units/index.ts';

/** One of the two versions. */
export type Choice = 'A' | 'B';

/** A test under way: what X is, trials, right answers. */
export interface BlindTest {
  /** What X is now. */
  readonly x: Choice;
  readonly trials: number;
  readonly right: number;
}

/** What moves it on; randomness comes in with it. */
export type BlindAction =
  | { readonly kind: 'answer'; readonly said: Choice; readonly next: Choice }
  | { readonly kind: 'begin'; readonly x: Choice };

/** @param random in [0, 1) */
export const drawChoice = (random: number): Choice => (random < 0.5 ? 'A' : 'B');

/** A test without trials. */
export const beginTest = (x: Choice): BlindTest => ({ x, trials: 0, right: 0 });

/** The test after an action. */
export function blindStep(test: BlindTest, action: BlindAction): BlindTest {
  if (action.kind === 'begin') return beginTest(action.x);
  return { x: action.next, trials: test.trials + 1, right: test.right + (action.said === test.x ? 1 : 0) };
}

/** Chance that mere guessing does as well or better (binomial, p = 1/2); 1 before the first trial. */
export const chanceOfGuessing = ({ trials, right }: BlindTest): Fraction => binomialTail(trials, right, 0.5);

/** Usual in listening tests: under this, guessing is not believed. */
const SIGNIFICANT: Fraction = 0.05;
/** With fewer trials not even a clean sheet would be significant. */
export const LEAST_TRIALS = 5;

/** What the score means, in one sentence. */
export function verdict(test: BlindTest): string {
  if (test.trials < LEAST_TRIALS)
    return `${LEAST_TRIALS - test.trials} more ${LEAST_TRIALS - test.trials === 1 ? 'trial' : 'trials'} before the score can mean anything.`;
  const chance = chanceOfGuessing(test);
  if (chance < SIGNIFICANT) return `You hear a difference: guessing does as well only ${(100 * chance).toPrecision(2)} % of the time.`;
  return `Not told apart so far: guessing does as well ${(100 * chance).toFixed(0)} % of the time.`;
}
