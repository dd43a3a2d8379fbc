/** A line of advice cut into words, numbers and marks; numbers in any spelling, with their sign and unit. */
import { spokenNumber } from './numberWords.ts';

export type NumberUnit = 'hz' | 'khz' | 'db' | '%' | 'clicks' | 'w' | 's';

/** A number as it stands in the line. */
export interface NumberToken {
  readonly kind: 'number';
  readonly text: string;
  /** Magnitude; kilohertz are in hertz already. */
  readonly value: number;
  /** 0 where there is none. */
  readonly sign: -1 | 0 | 1;
  readonly unit: NumberUnit | null;
  /** A part of a whole: "half", "6 out of 10". */
  readonly isPart: boolean;
  /** Where the radio has a menu address of this spelling. */
  readonly isAddress: boolean;
}

export interface WordToken {
  readonly kind: 'word';
  readonly text: string;
  readonly isAddress: boolean;
}

/** Marks: `,` `;` `:` `=` `>` (to), `~` (a range), and the end of a line. */
export interface MarkToken {
  readonly kind: 'mark';
  readonly text: ',' | ';' | ':' | '=' | '>' | '~' | '\n';
}

export type Token = NumberToken | WordToken | MarkToken;

const UNITS: Readonly<Record<string, NumberUnit>> = {
  hz: 'hz',
  hertz: 'hz',
  cycles: 'hz',
  k: 'khz',
  kay: 'khz',
  khz: 'khz',
  kc: 'khz',
  kilohertz: 'khz',
  db: 'db',
  dbs: 'db',
  decibel: 'db',
  decibels: 'db',
  '%': '%',
  percent: '%',
  pct: '%',
  click: 'clicks',
  clicks: 'clicks',
  notch: 'clicks',
  notches: 'clicks',
  step: 'clicks',
  steps: 'clicks',
  tick: 'clicks',
  ticks: 'clicks',
  position: 'clicks',
  positions: 'clicks',
  w: 'w',
  watt: 'w',
  watts: 'w',
};

/** "Best 73": the end of a contact, no number; "menu 73 to 5" is one. */
const CLOSING = /(?<=^\s*|\b(?:best|many|my|thanks|and|very)\s+)(?:73|88)s?\b(?!\s*(?:[-+:=.\d]|(?:to|up|down|is|at|hz|k|plus|minus)\b))/g;

/** "Take half of that back", "come back halfway": said with a number, and none. */
const HALF_BACK =
  /\b(?:(?:take |go |come )?(?:half ?way|half)(?: (?:of )?(?:that|it))? back|(?:go |come )?back (?:half ?way|half(?: (?:of )?(?:that|it))?))\b/g;

/** Lower case, plain quotes and minus signs, thousands and decimals in one spelling. */
export function plain(text: string): string {
  return text
    .normalize('NFKC')
    .toLowerCase()
    .replace(/[‘’`´]/g, "'")
    .replace(/[“”«»]/g, '"')
    .replace(/[−–—‐‑]/g, '-')
    .replace(/->|=>|→/g, '>')
    .replace(/\b([1-9]),(\d{3})(?!\d)/g, '$1$2')
    .replace(/(\d),(\d{1,2})(?=\s?(?:k|khz|db)\b)/g, '$1.$2')
    .replace(/\bper cent\b/g, 'percent')
    .replace(/\bmid[- ]?scale\b/g, 'half scale')
    .replace(CLOSING, ' ')
    .replace(HALF_BACK, ' halfback ')
    .replace(/\bgo back one(?: step)?\b(?! (?:click|notch|db|tick|on|at)\b)/g, 'go back')
    .replace(/\b(twenty|thirty|forty|fifty|sixty|seventy|eighty|ninety)-(?=[a-z])/g, '$1 ')
    .replace(/(^|\s)'em\b/g, '$1them')
    .replace(/\bto the (?=half\b|halfway\b)/g, 'to ')
    .replace(/^\s*(?:no|nope|nah)\s*,/, '')
    .replace(/'s\b/g, '')
    .replace(/[!?"()[\]]/g, ' , ')
    .replace(/@/g, ' at ')
    .replace(/\.{2,}/g, ' to ')
    .replace(/\p{Extended_Pictographic}|\p{Emoji_Modifier}|\u200d|\ufe0f/gu, ' ');
}

/** A chunk of letters, digits and what menus put between them; a sign; a bare fraction; anything else alone. */
const PIECE = /(#?[\p{L}0-9][\p{L}0-9./-]*)|\.\d+|\S/uy;
const NUMBER = /^(\d+(?:\.\d+)?)(k\d*|hz|khz|db|w|%)?$/;

type Raw = { readonly text: string; readonly gap: boolean; readonly isAddress: boolean };

/** Cuts at blanks and marks; what the radio's menu spells as one stays one. */
function pieces(text: string, isAddress: (text: string) => boolean): Raw[] {
  const found: Raw[] = [];
  let at = 0;
  while (at < text.length) {
    const blank = /^[^\S\n]*/.exec(text.slice(at))?.[0].length ?? 0;
    at += blank;
    if (text[at] === '\n') {
      found.push({ text: '\n', gap: true, isAddress: false });
      at++;
      continue;
    }
    PIECE.lastIndex = at;
    const piece = PIECE.exec(text);
    if (!piece) break;
    const isChunk = piece[1] !== undefined;
    const word = isChunk ? shortened(piece[0].replace(/[./-]+$/, ''), isAddress) : piece[0];
    const gap = blank > 0 || found.length === 0 || found.at(-1)?.text === '\n';
    found.push({ text: word, gap, isAddress: isChunk && isAddress(word.replace(/^#/, '')) });
    at += word.length;
    // A stop that ends a sentence says no more than a comma.
    const stop = isChunk ? /^[./-]+(?=\s|$)/.exec(text.slice(at)) : null;
    if (stop) {
      found.push({ text: ',', gap: false, isAddress: false });
      at += stop[0].length;
    }
  }
  return found;
}

/** As much of a piece as is one token: an address whole, else a number with its unit, or a word. */
function shortened(word: string, isAddress: (text: string) => boolean): string {
  const bare = word.replace(/^#/, '');
  if (isAddress(bare)) return word;
  const number = /^\d+(?:\.\d+)?(?:k\d+(?!z)|khz|k(?![a-z])|hz|db|w(?![a-z])|%)?(?![a-z])/.exec(bare);
  if (number) return number[0];
  const plainWord = /^\p{L}+\d*/u.exec(bare);
  return plainWord ? plainWord[0] : bare;
}

export const unitOf = (text: string | undefined): NumberUnit | null =>
  text !== undefined && Object.hasOwn(UNITS, text) ? UNITS[text] : null;

/**
 * Cuts a line into tokens.
 * @param isAddress whether the radio's menu has an address of that spelling
 */
export function tokens(text: string, isAddress: (text: string) => boolean = () => false): Token[] {
  const raw = pieces(plain(text).replace(/([a-z])'(?=[a-z])/g, '$1'), isAddress);
  const words = raw.map((each) => each.text);
  const out: Token[] = [];
  let k = 0;
  while (k < raw.length) {
    const sign = signAt(raw, k, out);
    if (sign !== 0) {
      const number = numberAt(words, raw, k + 1, sign);
      if (number) {
        out.push(number.token);
        k = number.next;
        continue;
      }
    }
    const number = numberAt(words, raw, k, 0);
    if (number) {
      out.push(number.token);
      k = number.next;
      continue;
    }
    out.push(markOrWord(raw[k], out));
    k++;
  }
  return out;
}

const isMark = (text: string): text is MarkToken['text'] => /^[,;:=>~\n]$/.test(text);

function markOrWord({ text, isAddress }: Raw, before: readonly Token[]): Token {
  if (isMark(text)) return { kind: 'mark', text };
  if (text === '/' || text === '|') return { kind: 'mark', text: ',' };
  if (text === '-') return before.at(-1)?.kind === 'number' ? { kind: 'mark', text: '~' } : { kind: 'mark', text: ',' };
  return { kind: 'word', text, isAddress };
}

/** A plus or minus that belongs to the number after it; "200-2900" is a range, "2400-3" three less. */
function signAt(raw: readonly Raw[], k: number, before: readonly Token[]): -1 | 0 | 1 {
  const { text, gap } = raw[k];
  const after = raw[k + 1];
  if (!after) return 0;
  if (text === '+' || text === 'plus') return 1;
  if (text === 'minus' || text === 'negative') return -1;
  if (text !== '-') return 0;
  const last = before.at(-1);
  const next = NUMBER.exec(after.text) ?? /^(\.\d+)$/.exec(after.text);
  if (!next) return last ? 0 : -1;
  if (last?.kind !== 'number') return -1;
  if (gap && !after.gap) return -1;
  const value = hertzOf(Number(next[1]), next[2]);
  return value > last.value ? 0 : -1;
}

/** "2k4" is 2400, "2.4k" too; other units leave the number as it is. */
function hertzOf(value: number, suffix: string | undefined): number {
  if (!suffix?.startsWith('k')) return value;
  const inside = /^k(\d+)$/.exec(suffix)?.[1];
  return Math.round((inside ? Number(`${value}.${inside}`) : value) * 1e6) / 1e3;
}

function numberAt(
  words: readonly string[],
  raw: readonly Raw[],
  at: number,
  sign: -1 | 0 | 1,
): { token: NumberToken; next: number } | null {
  const piece = raw[at];
  if (!piece || (piece.text === 'one' && PRONOUN.test(words[at - 1] ?? '') && !isCounted(words, at))) return null;
  if ((piece.text === 'a' || piece.text === 'an') && unitOf(words[at + 1]) && !/^[kw]$/.test(words[at + 1]))
    return counted(words[at + 1], at, sign);
  const digits = NUMBER.exec(piece.text) ?? /^(\.\d+)()$/.exec(piece.text);
  const spoken = digits ? null : spokenNumber(words, at);
  if (!digits && !spoken) return null;
  let next = at + (spoken?.length ?? 1);
  let value = spoken?.value ?? Number(digits?.[1]);
  let isPart = spoken?.isPart ?? false;
  let unit: NumberUnit | null = digits?.[2] ? (digits[2].startsWith('k') ? 'khz' : unitOf(digits[2])) : null;
  if (digits?.[2]) value = hertzOf(value, digits[2]);
  // "half a click", "two and a half of a dB"
  if (isPart && words[next] === 'a' && unitOf(words[next + 1]) && unitOf(words[next + 1]) !== 'khz') {
    next++;
    isPart = false;
  }
  if (unit === null && !(piece.isAddress && words[next] === 'k')) {
    unit = unitOf(words[next]);
    // "2.4 k" but not the k of the next word
    if (unit !== null) next++;
    if (unit === 'khz') value = hertzOf(value, 'k');
    if (unit !== null && unit !== 'khz' && isPart && unit !== '%') isPart = false;
  }
  if (digits && unit === null && /^(?:hundred|thousand)$/.test(words[next] ?? '')) value *= words[next++] === 'hundred' ? 100 : 1000;
  if (isPart) next += scaleAfter(words, next);
  const whole = /^(?:out|of|\/)$/.test(words[next] ?? '') ? wholeAfter(words, next) : null;
  if (whole && unit === null) {
    value /= whole.value;
    isPart = true;
    next = whole.next;
  }
  const text = raw
    .slice(at, next)
    .map((each) => each.text)
    .join(' ');
  return { token: { kind: 'number', text, value, sign, unit, isPart, isAddress: piece.isAddress && sign === 0 }, next };
}

/** "half scale", "a third of the way": how many words say no more than that. */
function scaleAfter(words: readonly string[], at: number): number {
  const isScale = (k: number) => /^(?:scale|way|meter|range|dial|travel)$/.test(words[k] ?? '');
  if (isScale(at)) return 1;
  if (words[at] === 'of' && isScale(at + 1)) return 2;
  return /^(?:of|up)$/.test(words[at] ?? '') && words[at + 1] === 'the' && isScale(at + 2) ? 3 : 0;
}

/** "The low one": no number. */
const PRONOUN =
  /^(?:low|lowest|bottom|bass|mid|middle|high|highest|top|treble|last|first|second|third|fourth|fifth|sixth|wide|widest|narrow|narrowest|this|that|which|other|left|leftmost|rightmost)$/;
const isCounted = (words: readonly string[], at: number): boolean => unitOf(words[at + 1]) !== null;

/** "A click", "a dB". */
const counted = (unit: string, at: number, sign: -1 | 0 | 1): { token: NumberToken; next: number } => ({
  token: { kind: 'number', text: `a ${unit}`, value: 1, sign, unit: unitOf(unit), isPart: false, isAddress: false },
  next: at + 2,
});

/** "out of ten", "of 10", "/10" after a number. */
function wholeAfter(words: readonly string[], at: number): { value: number; next: number } | null {
  const start = words[at] === 'out' ? (words[at + 1] === 'of' ? at + 2 : -1) : at + 1;
  if (start < 0) return null;
  const spoken = spokenNumber(words, start);
  const digits = /^\d+$/.test(words[start] ?? '') ? Number(words[start]) : null;
  const value = digits ?? (spoken && !spoken.isPart ? spoken.value : null);
  return value !== null && value > 2 && value <= 100 ? { value, next: start + (digits !== null ? 1 : (spoken?.length ?? 1)) } : null;
}
