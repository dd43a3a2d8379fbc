/** Numbers and small words of advice as operators type and hear them. */

const COUNTS = ['zero', 'one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine', 'ten', 'eleven', 'twelve'];

/** How a value is told: to a value, by an amount in the dial's unit, or by so many positions. */
export type Amount =
  | { readonly kind: 'to'; readonly value: number | string }
  | { readonly kind: 'by'; readonly amount: number }
  | { readonly kind: 'clicks'; readonly count: number };

/** Lower case, one kind of minus and plus, number words as digits, phrases that say nothing left out. */
export function tidy(text: string): string {
  return text
    .toLowerCase()
    .replace(/[−–—](?=\s*\d)/g, '-')
    .replace(/(?<=\d),(?=\d{1,2}(?!\d))/g, '.')
    .replace(/\b(from where it is( now)?|please|set|turn|put|the|your|dial|about|try|give me|a bit of)\b/g, ' ')
    .replace(/\ba (click|notch|step|db)/g, '1 $1')
    .replace(new RegExp(`\\b(${COUNTS.join('|')})\\b`, 'g'), (word) => String(COUNTS.indexOf(word)))
    .replace(/\s+/g, ' ')
    .trim();
}

/** "2.4k", "2k4", "2400", "2400 hz", "2.4 khz" in Hz; null for anything else. */
export function parseHertz(text: string): number | null {
  const words = text.replace(/\s+/g, '').replace(/hz$/, '');
  const inside = /^(\d+)k(\d+)$/.exec(words);
  if (inside) return Number(`${inside[1]}.${inside[2]}`) * 1000;
  const plain = /^(\d+(?:\.\d+)?)(k?)$/.exec(words);
  return plain ? Number(plain[1]) * (plain[2] ? 1000 : 1) : null;
}

const CLICKS = '(?:clicks?|notch(?:es)?|steps?|positions?)';
const UNITS = '(?:db|hz|%|w|watts?)';
const NUMBER = String.raw`(\d+(?:\.\d+)?|\.\d+)`;

/**
 * What is to be done: "+3", "-2 clicks", "3 up", "up 3", "down", "to -4", "=3", "30", "on". A bare number is where
 * the dial goes; a sign says by how much.
 * @returns null when the words are no amount
 */
export function parseAmount(text: string): Amount | null {
  const words = text.trim();
  const signed = new RegExp(`^([+-]) ?${NUMBER} ?(${CLICKS})? ?${UNITS}?$`).exec(words);
  if (signed) return by((signed[1] === '-' ? -1 : 1) * Number(signed[2]), signed[3]);
  const worded = new RegExp(`^${NUMBER} ?(${CLICKS})? ?${UNITS}? ?(up|down|more|less)$`).exec(words);
  if (worded) return by((isDown(worded[3]) ? -1 : 1) * Number(worded[1]), worded[2]);
  const wordFirst = new RegExp(`^(up|down|more|less)(?: by)?(?: ${NUMBER} ?(${CLICKS})? ?${UNITS}?)?$`).exec(words);
  if (wordFirst) {
    const sign = isDown(wordFirst[1]) ? -1 : 1;
    return wordFirst[2] === undefined ? { kind: 'clicks', count: sign } : by(sign * Number(wordFirst[2]), wordFirst[3]);
  }
  const absolute = new RegExp(`^(?:to |= ?)?([+-]?) ?${NUMBER} ?${UNITS}?$`).exec(words);
  if (absolute) return { kind: 'to', value: (absolute[1] === '-' ? -1 : 1) * Number(absolute[2]) };
  const name = /^(?:to |= ?)?([a-z0-9][a-z0-9 .–-]*)$/.exec(words)?.[1];
  return name === undefined ? null : { kind: 'to', value: name };
}

const by = (amount: number, clicks: string | undefined): Amount => (clicks ? { kind: 'clicks', count: amount } : { kind: 'by', amount });
const isDown = (word: string): boolean => word === 'down' || word === 'less';
