/** Numbers as people say them: "twenty five", "two and a half", "point four", "twelve hundred", "two thirds". */

const ONES: Readonly<Record<string, number>> = {
  zero: 0,
  oh: 0,
  nought: 0,
  nil: 0,
  one: 1,
  two: 2,
  three: 3,
  four: 4,
  five: 5,
  six: 6,
  seven: 7,
  eight: 8,
  nine: 9,
  niner: 9,
};
const TEENS: Readonly<Record<string, number>> = {
  ten: 10,
  eleven: 11,
  twelve: 12,
  thirteen: 13,
  fourteen: 14,
  fifteen: 15,
  sixteen: 16,
  seventeen: 17,
  eighteen: 18,
  nineteen: 19,
};
const TENS: Readonly<Record<string, number>> = {
  twenty: 20,
  thirty: 30,
  forty: 40,
  fourty: 40,
  fifty: 50,
  sixty: 60,
  seventy: 70,
  eighty: 80,
  ninety: 90,
};
/** Parts of one, as "two thirds" and "a quarter" name them. */
const PARTS: Readonly<Record<string, number>> = {
  half: 2,
  halves: 2,
  third: 3,
  thirds: 3,
  quarter: 4,
  quarters: 4,
  fifth: 5,
  fifths: 5,
  tenth: 10,
  tenths: 10,
};
const ROUND: Readonly<Record<string, number>> = { couple: 2, pair: 2, few: 3 };

/** A number found in words. */
export interface SpokenNumber {
  readonly value: number;
  /** How many words it takes. */
  readonly length: number;
  /** A part of something: "half", "two thirds". */
  readonly isPart: boolean;
}

/** Whether a word begins a number; "a" and "an" only together with what follows them. */
const small = (word: string | undefined): number | undefined =>
  word === undefined ? undefined : Object.hasOwn(ONES, word) ? ONES[word] : Object.hasOwn(TEENS, word) ? TEENS[word] : undefined;
const tens = (word: string | undefined): number | undefined => (word !== undefined && Object.hasOwn(TENS, word) ? TENS[word] : undefined);
const part = (word: string | undefined): number | undefined => (word !== undefined && Object.hasOwn(PARTS, word) ? PARTS[word] : undefined);
const whole = (value: number, length: number): SpokenNumber => ({ value, length, isPart: false });

/** Two digits: "twenty five", "twenty", "seven", "fifteen". */
function belowHundred(words: readonly string[], at: number): SpokenNumber | null {
  const ten = tens(words[at]);
  const one = small(words[at]);
  if (ten === undefined) return one === undefined ? null : whole(one, 1);
  const next = words[at + 1];
  return next !== undefined && Object.hasOwn(ONES, next) && ONES[next] > 0 ? whole(ten + ONES[next], 2) : whole(ten, 1);
}

/** Digits after "point": "point four", "point two five". */
function decimals(words: readonly string[], at: number): SpokenNumber | null {
  let digits = '';
  let k = at;
  while (Object.hasOwn(ONES, words[k] ?? '')) digits += ONES[words[k++]];
  return digits === '' ? null : whole(Number(`0.${digits}`), k - at);
}

/** @returns the number that begins at a word, or null */
export function spokenNumber(words: readonly string[], at: number): SpokenNumber | null {
  const word = words[at];
  if (word === 'point') {
    const after = decimals(words, at + 1);
    return after && whole(after.value, after.length + 1);
  }
  if (word === 'a' || word === 'an') return afterArticle(words, at);
  // "another couple"
  if (word === 'couple') return whole(2, words[at + 1] === 'of' ? 2 : 1);
  // "on the hundred"
  if (word === 'hundred') return whole(100, 1);
  if (word === 'thousand') return whole(1000, 1);
  if (part(word) === 2 || word === 'halfway') return { value: 0.5, length: 1, isPart: true };
  if (part(word) !== undefined && /^(?:scale|way|of)$/.test(words[at + 1] ?? ''))
    return { value: 1 / (part(word) ?? 1), length: 1, isPart: true };
  const first = belowHundred(words, at);
  if (!first) return null;
  const parts = part(words[at + first.length]);
  // "one third", "two thirds"; "the third band" begins with no number.
  if (parts !== undefined && first.value > 0 && first.value < parts)
    return { value: first.value / parts, length: first.length + 1, isPart: true };
  return withRest(words, at, first);
}

/** "a half", "a third", "a hundred", "a thousand", "a couple". */
function afterArticle(words: readonly string[], at: number): SpokenNumber | null {
  const next = words[at + 1];
  const parts = part(next);
  if (parts !== undefined) return { value: 1 / parts, length: 2, isPart: true };
  if (next === 'hundred' || next === 'thousand') {
    const rest = withRest(words, at + 1, whole(1, 0));
    return { ...rest, length: rest.length + 1 };
  }
  if (next !== undefined && Object.hasOwn(ROUND, next)) return whole(ROUND[next], words[at + 2] === 'of' ? 3 : 2);
  return null;
}

/** What may follow the first two digits: hundreds, thousands, a half, decimals, digits said in pairs. */
function withRest(words: readonly string[], at: number, first: SpokenNumber): SpokenNumber {
  let { value, length } = first;
  const next = () => words[at + length];
  if (next() === 'thousand') {
    length++;
    const below = belowHundred(words, at + length);
    value *= 1000;
    if (below && words[at + length + below.length] === 'hundred') {
      value += below.value * 100;
      length += below.length + 1;
    }
  } else if (next() === 'hundred') {
    length++;
    value *= 100;
  } else if (value > 0 && value < 30 && first.length > 0) {
    // "one fifty", "twelve fifty", "twenty four fifty"
    const pair = tens(next()) === undefined ? null : belowHundred(words, at + length);
    if (pair && (value < 20 || first.length === 2)) return whole(value * 100 + pair.value, length + pair.length);
  }
  if (value >= 100) {
    const skip = next() === 'and' ? 1 : 0;
    const below = belowHundred(words, at + length + skip);
    if (below && below.value >= 10) return whole(value + below.value, length + skip + below.length);
    return whole(value, length);
  }
  if (next() === 'and' && words[at + length + 1] === 'a' && part(words[at + length + 2]) !== undefined)
    return whole(value + 1 / (part(words[at + length + 2]) ?? 1), length + 3);
  if (next() === 'point') {
    const after = decimals(words, at + length + 1);
    if (after) return whole(Number((value + after.value).toFixed(9)), length + 1 + after.length);
  }
  return whole(value, length);
}
