/**
 * The dial line: advice typed as it is heard ("2500 +3", "four clicks up at 2.4k", "a bit more top", "alc is at
 * two thirds") read as moves on a card's dials and readings of its meters, with a sentence on what will happen.
 */
import type { Card, RigProfile } from '../rig/index.ts';
import { clausesOf } from './clauses.ts';
import { NotUnderstood, OffTheScale } from './dialNamed.ts';
import type { Told } from './landing.ts';
import type { DialLine, LineContext } from './line.ts';
import { LineMoves } from './lineMoves.ts';
import { isOfAnother, isQuestion, isTelling } from './notAdvice.ts';
import { addressed, namesOf } from './rigNames.ts';
import { tokens } from './tokens.ts';

/** A longer line is refused whole. */
export const LONGEST_LINE = 2000;

/** Reads one line of advice for a card. Never throws. */
export function readDialLine(text: string, rig: RigProfile, card: Card, context: LineContext = {}): DialLine {
  if (text.trim() === '') return { kind: 'empty' };
  const problem = (words: string, explained: readonly string[] = [], unread: readonly string[] = [], isOffScale = false): DialLine => ({
    kind: 'problem',
    text: words,
    explained,
    unread,
    isOffScale,
  });
  if (text.length > LONGEST_LINE) return problem(`Too long: ${LONGEST_LINE} characters are the most.`);
  const { clauses, unread } = clausesOf(
    tokens(text, (menu) => addressed(rig, menu) !== undefined),
    namesOf(rig, card),
  );
  const line = new LineMoves(rig, card, context);
  if (isQuestion(text)) return problem(line.answer(clauses));
  try {
    if (clauses.length === 1 && clauses[0].kind === 'undo' && unread.length === 0)
      return { kind: 'undo', explained: ["Back to the revision before this card's last change."] };
    for (const clause of clauses) line.take(clause);
    if (unread.length > 0) return problem(question(unread, line.told), line.told.explained, unread);
    const result = line.result(clauses);
    if (result.kind !== 'do') return result;
    return (result.reading === null ? isTelling(text) : isOfAnother(text))
      ? problem('This tells something and asks for no move: nothing is changed.')
      : result;
  } catch (error) {
    if (!(error instanceof NotUnderstood)) throw error;
    return problem(unread.length > 0 ? question(unread, line.told) : error.message, [], unread, error instanceof OffTheScale);
  }
}

function question(unread: readonly string[], { explained }: Told): string {
  const words = unread
    .slice(0, 5)
    .map((word) => `"${word}"`)
    .join(', ');
  if (explained.length === 0)
    return `${words} ${unread.length === 1 ? 'is' : 'are'} not understood. Try: 2500 +3, mic 30, comp off, bw 200-2900, alc .6, undo.`;
  return `Understood: ${explained.join(' ')} But what ${unread.length === 1 ? 'does' : 'do'} ${words} mean? Nothing is changed.`;
}
