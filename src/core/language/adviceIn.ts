/** Advice inside a report, as lines for the dial line; the rig is not known here. */
import { type Clause, hasAmount, type Names, type Target } from './clause.ts';
import { clausesOf } from './clauses.ts';
import { isQuestion, isTelling } from './notAdvice.ts';
import { tokens } from './tokens.ts';

/** A piece of advice: as it was said, and as a line that the dial line reads on any rig. */
export interface SpokenAdvice {
  readonly text: string;
  readonly line: string;
}

const NO_NAMES: Names = {
  labelled: () => undefined,
  hinted: () => undefined,
  addressed: () => undefined,
  banks: [],
  options: () => ['on', 'off'],
};

/** Words around advice that are no part of it. */
const AROUND =
  /\b(?:would|might|may|should|could) (?:help|be (?:nice|better|good|great)|do it|fix it|improve it|sound better|not hurt)\b|\band see\b.*$|\bsee (?:how|if|what)\b.*$|\bif you (?:can|like|want)\b|\bi would\b|\bid\b|\bi think\b|\bmy advice\b|\bwould be\b|\bhelps?\b/g;

const WANTS = /\b(?:needs?|wants?|could (?:use|do with|stand)|can use|lacks?|give (?:me|it|us))\b/;

/** Advice of one sentence: the longest stretches of it that can be read whole. */
export function adviceIn(sentence: string): SpokenAdvice[] {
  const parts = sentence.split(/(\s*,\s*|\s+\b(?:but|and|so|then|maybe|try|perhaps|just|with|because|though)\b\s+)/);
  const pieces = parts.filter((_, k) => k % 2 === 0);
  const joints = parts.filter((_, k) => k % 2 === 1);
  const found: SpokenAdvice[] = [];
  for (let from = 0; from < pieces.length; from++) {
    for (let to = pieces.length; to > from; to--) {
      const text = pieces.slice(from, to).reduce((whole, piece, k) => whole + (joints[from + k - 1] ?? '') + piece);
      const line = lineOf(text);
      if (line === null) continue;
      found.push({ text: text.trim(), line });
      from = to - 1;
      break;
    }
  }
  return found;
}

/** "taking up 4 kHz" tells how wide a signal is. */
const TELLS = /\b(?:taking|takes|occupying|occupies|using|filling|spreading|spread) (?:up|out|over)\b/;

function lineOf(text: string): string | null {
  if (TELLS.test(text) || isTelling(text) || isQuestion(text)) return null;
  const { clauses, unread } = clausesOf(tokens(text.replace(AROUND, ' ')), NO_NAMES);
  // "wants some body": more of it.
  if (WANTS.test(text)) for (const clause of clauses) if (clause.vague > 0 && clause.sign === 0) clause.sign = 1;
  if (unread.length > 0 || clauses.length === 0 || !clauses.every(isAdvice)) return null;
  return clauses.map(spelled).join(', ');
}

/** Something that can be turned, and how far. */
function isAdvice(clause: Clause): boolean {
  const { targets, numbers, sign, value, kind, isReading } = clause;
  if (kind !== 'do' || targets.length === 0 || !hasAmount(clause) || isReading || value === 'keep') return false;
  const isTurned = numbers.length > 0 || sign !== 0 || value !== null;
  return isTurned && targets.every((target) => isTurnable(target, clause));
}

function isTurnable(target: Target, { numbers, sign, value }: Clause): boolean {
  if (target.kind !== 'place' && (value === 'widest' || value === 'narrowest')) return false;
  switch (target.kind) {
    case 'hz':
      return (
        target.hz >= 80 && target.hz <= 6000 && (numbers.length > 0 || sign !== 0 || value === 'flat' || value === 'max' || value === 'min')
      );
    case 'meter':
      return false;
    case 'place':
      return target.place !== 'power' || numbers.length > 0;
    case 'region':
      return sign !== 0 || numbers.length > 0 || value === 'flat';
    default:
      return true;
  }
}

const nameOf = (target: Target): string => {
  switch (target.kind) {
    case 'hz':
      return `${target.hz}${target.part ? ` ${target.part}` : ''}`;
    case 'span':
      return target.low <= 0
        ? `everything below ${target.high}`
        : target.high >= 20_000
          ? `everything above ${target.low}`
          : `${target.low} to ${target.high}`;
    case 'region':
      return target.region;
    case 'which':
      return typeof target.which === 'number' ? `eq${target.which}` : `${target.which} band`;
    case 'place':
      return {
        mic: 'mic',
        compressor: 'comp',
        carrier: 'carrier',
        'fm width': 'fm width',
        power: 'power',
        equalizer: 'eq',
        passband: 'bw',
        'low cut': 'low cut',
        'high cut': 'high cut',
      }[target.place];
    default:
      return 'everything';
  }
};

/** In the dial line's own short form. */
function spelled({ targets, numbers, sign, isTo, value, option, vague, isRetune }: Clause): string {
  const names = targets.map(nameOf).join(' and ');
  const amounts = numbers.map(({ value: number, sign: own, unit, isPart }) => {
    const digits = isPart ? `${Math.round(100 * number)}%` : `${Number(number.toFixed(2))}${unit === '%' ? '%' : ''}`;
    const clicks = unit === 'clicks' ? ' clicks' : '';
    const direction = own !== 0 ? own : isTo ? 0 : sign;
    if (isTo) return `${own < 0 ? '-' : own > 0 ? '+' : ''}${digits}${clicks}`;
    return `${direction < 0 ? '-' : direction > 0 ? '+' : ''}${digits}${clicks}`;
  });
  if (amounts.length > 0) {
    const to = isTo && !(targets[0].kind === 'place' && targets[0].place === 'passband') ? 'to ' : '';
    return `${isRetune ? 'move ' : ''}${names} ${to}${amounts.join(amounts.length === 2 && targets[0].kind === 'place' ? '-' : ' ')}`;
  }
  if (option ?? value) return `${names} ${option ?? value}`;
  return `${names} ${sign < 0 ? 'down' : 'up'} ${vague === 2 ? 'a lot' : 'a bit'}`;
}
