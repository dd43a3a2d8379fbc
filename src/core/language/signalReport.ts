/** Readability and strength as they are given: "59", "five and nine plus twenty", "S7", "20 over", "Q5". */
import type { Decibels } from '../units/index.ts';

/** Readability 1 to 5, strength in S units 1 to 9, decibels over S9; null where not given. */
export interface SignalReport {
  readonly readability: number | null;
  readonly strength: number | null;
  readonly overS9Db: Decibels | null;
}

const DIGIT = '(?:[1-9]|one|two|three|four|five|fife|six|seven|eight|nine|niner)';
const NAMES: Readonly<Record<string, number>> = {
  one: 1,
  two: 2,
  three: 3,
  four: 4,
  five: 5,
  fife: 5,
  six: 6,
  seven: 7,
  eight: 8,
  nine: 9,
  niner: 9,
};
const DECIBELS: Readonly<Record<string, number>> = {
  five: 5,
  ten: 10,
  fifteen: 15,
  twenty: 20,
  thirty: 30,
  forty: 40,
  fifty: 50,
  sixty: 60,
};
const OVER_WORDS = `(\\d{1,2}|${Object.keys(DECIBELS).join('|')})`;
const JOINT = String.raw`(?:\s*(?:\/|-|by|x|and|plus|for|an|&)\s*|\s+|)`;
const OVER = String.raw`(?:\s*(?:(?:plus|\+|and)\s*${OVER_WORDS}|${OVER_WORDS}\s*(?:db\s*)?(?:over|plus))(?:\s*db)?(?:\s*over(?:\s*(?:s\s*)?(?:9|nine))?)?|\s*(plus))?`;

const digit = (text: string): number => NAMES[text] ?? Number(text);
const decibels = (text: string | undefined): number | null => (text === undefined ? null : (DECIBELS[text] ?? Number(text)));

/** Spellings, the surest first. */
const FORMS: readonly { readonly form: RegExp; readonly read: (match: RegExpExecArray) => SignalReport | null }[] = [
  {
    // "R5 S9", "readability 5, strength 7"
    form: new RegExp(`\\b(?:r|readability)\\s*(${DIGIT})\\W{0,3}(?:and\\s+)?(?:s|strength)\\s*(${DIGIT})\\b${OVER}`),
    read: ([, r, s, a, b]) => rs(digit(r), digit(s), decibels(a ?? b)),
  },
  {
    // "59", "5/9", "5 by 7", "five nine plus ten"; a third 9 is a tone that voice has not
    form: new RegExp(
      `(?<![\\d.+-])\\b([1-5]|one|two|three|four|five|fife)${JOINT}(${DIGIT})(?:9|\\s*nine)?\\b(?!\\s*(?:\\.\\d|\\d|k\\b|hz|khz|db|watt|w\\b|%|feet|cm|inch|minutes|percent|hundred|thousand|clicks?|notch))${OVER}`,
    ),
    read: ([, r, s, a, b]) => rs(digit(r), digit(s), decibels(a ?? b)),
  },
  {
    // "20 over 9", "ten over", "20 dB over S9"
    form: new RegExp(`\\b${OVER_WORDS}\\s*(?:db\\s*)?(?:over|above)(?:\\s*(?:s\\s*)?(?:9|nine))?\\b`),
    read: ([, over]) => ({ readability: null, strength: 9, overS9Db: decibels(over) }),
  },
  {
    // "S7", "S9 plus 20", "strength 8"
    form: new RegExp(`\\b(?:s|strength)\\s*-?(${DIGIT})\\b${OVER}`),
    read: ([, s, a, b]) => rs(null, digit(s), decibels(a ?? b)),
  },
  {
    form: /\b(?:q|readability|r)\s*-?([1-5]|one|two|three|four|five)\b/,
    read: ([, r]) => rs(digit(r), null, null),
  },
];

function rs(readability: number | null, strength: number | null, over: number | null): SignalReport | null {
  if (over !== null && (over > 80 || (strength !== null && strength !== 9))) return { readability, strength, overS9Db: null };
  return { readability, strength, overS9Db: over };
}

/**
 * @param text in lower case
 * @returns the report and the text without it, so that its digits are read as nothing else
 */
export function signalIn(text: string): { signal: SignalReport | null; rest: string } {
  for (const { form, read } of FORMS) {
    const match = form.exec(text);
    const signal = match && read(match);
    if (match && signal) return { signal, rest: `${text.slice(0, match.index)} ${text.slice(match.index + match[0].length)}` };
  }
  return { signal: null, rest: text };
}
