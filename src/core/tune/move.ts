/** What to do next at a step: the engine asked for what the step turns, once the card as it stands has been transmitted. */
import { type ExpectedGot, expectedGot, type GoalState, type NextAnswer, type NextInput, nextAnswer } from '../advice/index.ts';
import { type Card, valueOn } from '../rig/index.ts';

/** What a page shows of it. */
export interface TuneMove {
  /** Dials were set since the last over: make one, and this is to be expected. */
  readonly kind: 'first-over' | 'make-over' | 'answer';
  readonly answer: NextAnswer | null;
  /** Whether the last move came true. */
  readonly came: ExpectedGot | null;
  readonly goal: GoalState | null;
}

/**
 * @param input history of the card, oldest over first, with what the step may turn
 * @param card  as it stands now
 */
export function tuneMove(input: NextInput, card: Card): TuneMove {
  const last = input.overs.at(-1);
  if (!last) return { kind: 'first-over', answer: null, came: null, goal: null };
  const answer = nextAnswer(input);
  const isMoved = input.rig.dials.some((dial) => valueOn(card, dial) !== valueOn({ mode: input.mode, values: last.card.values }, dial));
  if (!isMoved) return { kind: 'answer', answer, came: expectedGot(input, answer.goal), goal: answer.goal };
  const proposed = new Map(answer.set.map(({ dial, to }) => [dial.id, to]));
  const isAsProposed = input.rig.dials.every(
    (dial) => valueOn(card, dial) === (proposed.get(dial.id) ?? valueOn({ mode: input.mode, values: last.card.values }, dial)),
  );
  return { kind: 'make-over', answer: isAsProposed ? answer : null, came: null, goal: answer.goal };
}
