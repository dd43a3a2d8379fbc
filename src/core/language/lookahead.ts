/** What stands at a place of the line, and after it. */
import type { Dial } from '../rig/index.ts';
import { type Names, simple } from './clause.ts';
import { type Item, phrasesAt } from './phrases.ts';
import type { NumberToken, Token } from './tokens.ts';

const LONGEST_LABEL = 7;
const LONGEST_OPTION = 4;

const textOf = (tokens: readonly Token[], at: number, length: number): string =>
  tokens
    .slice(at, at + length)
    .map(({ text }) => text)
    .join(' ');

/** The dial whose label begins here. */
export function labelAt(tokens: readonly Token[], at: number, names: Names): { dial: Dial; length: number } | null {
  for (let length = Math.min(LONGEST_LABEL, tokens.length - at); length >= 1; length--) {
    const dial = names.labelled(textOf(tokens, at, length));
    if (dial) return { dial, length };
  }
  return null;
}

/** One of a dial's named positions. */
export function optionAt(tokens: readonly Token[], at: number, options: readonly string[]): { text: string; length: number } | null {
  for (let length = Math.min(LONGEST_OPTION, tokens.length - at); length >= 1; length--) {
    const words = simple(textOf(tokens, at, length));
    const text = options.find((each) => simple(each) === words);
    if (text) return { text, length };
  }
  return null;
}

/** Where the next thing stands that says something. */
function skip(tokens: readonly Token[], at: number): number {
  let k = at;
  for (let [phrase] = phrasesAt(tokens, k); phrase?.item.kind === 'filler'; [phrase] = phrasesAt(tokens, k)) k += phrase.length;
  return k;
}

export const aheadOf = (tokens: readonly Token[], at: number): Token | undefined => tokens[skip(tokens, at)];

const isAt = (tokens: readonly Token[], at: number, kinds: readonly Item['kind'][]): boolean =>
  kinds.includes(phrasesAt(tokens, at)[0]?.item.kind ?? 'filler');

/** Whether a name comes next. */
export const isNameAt = (tokens: readonly Token[], at: number): boolean => isAt(tokens, skip(tokens, at), ['place', 'region', 'which']);

/** Whether a bare number comes next, or "level" and one: "processor on, level 30". */
export function isLevelAhead(tokens: readonly Token[], at: number): boolean {
  const k = isAt(tokens, at, ['part']) ? at + 1 : at;
  const token = aheadOf(tokens, k);
  return (
    token?.kind === 'number' &&
    token.sign === 0 &&
    token.unit !== 'hz' &&
    token.unit !== 'khz' &&
    token.value < 101 &&
    !isAmountAt(tokens, k + 1, false, token)
  );
}

/** Whether what comes next turns or places the number before: "2.4 up 3", "2.4 +3", "2.4 is at minus 3", "2.4 at max". */
export const isTurnedAt = (tokens: readonly Token[], at: number): boolean =>
  aheadOf(tokens, at)?.kind === 'number' ||
  isAt(tokens, at, ['turn', 'vague', 'value', 'to']) ||
  (isAt(tokens, at, ['at']) && isAt(tokens, at + 1, ['value']));

/**
 * "2 up at 300", "4 dB more on the bass": an amount, whatever the menu has there.
 * @param at     behind the number
 * @param isVerb whether a verb stands before it: "add 2 at 300"
 */
export function isAmountAt(tokens: readonly Token[], at: number, isVerb: boolean, { unit }: Pick<NumberToken, 'unit'>): boolean {
  if (unit !== null && unit !== 'khz') return true;
  const [turned] = phrasesAt(tokens, at);
  const isTurned = turned?.item.kind === 'turn' && !turned.item.isVerb;
  if (!isTurned && !isVerb) return false;
  return isAt(tokens, at + (isTurned ? turned.length : 0), ['at', 'on the', 'off the', 'in', 'region']);
}
