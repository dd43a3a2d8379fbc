/** Reach and naturalness in words that operators use. */
import { type Decibels, decibels } from '../units/index.ts';
import type { JudgedCard } from './cardJudge.ts';

const signed = (value: Decibels): string => `${value < 0 ? '' : '+'}${decibels(value)}`;
/** Differences smaller than this nobody hears. */
const SAME_SCORE = 4;
const SAME_DB: Decibels = 0.5;

/** "Reach +3.2 ± 0.4 dB, naturalness 61 of 100." */
export function cardWords({ reach: { reachDb, uncertaintyDb }, naturalness }: JudgedCard): string {
  const reach =
    reachDb === null
      ? 'Not readable: too much distortion or room noise'
      : `Reach ${signed(reachDb)}${uncertaintyDb === null ? '' : ` (± ${uncertaintyDb.toFixed(1)} dB)`} against the flat voice`;
  return `${reach}, naturalness ${Math.round(naturalness.score)} of 100.`;
}

/** A card's numbers for a comparison in words. */
export interface Standing {
  readonly name: string;
  readonly reachDb: Decibels | null;
  readonly uncertaintyDb: Decibels | null;
  readonly score: number;
}

/** "Card B is heard 3.1 dB further and sounds noticeably less like you." */
export function comparisonWords(a: Standing, b: Standing): string {
  return `${b.name} ${reachWords(a, b)} ${soundWords(b.score - a.score)} than ${a.name}.`.replace(
    'as much like you than',
    'as much like you as',
  );
}

function reachWords(a: Standing, b: Standing): string {
  if (a.reachDb === null || b.reachDb === null)
    return b.reachDb === null ? 'is not readable at all and sounds' : 'is readable at all and sounds';
  const moreDb = b.reachDb - a.reachDb;
  const doubt = Math.max(SAME_DB, Math.hypot(a.uncertaintyDb ?? 0, b.uncertaintyDb ?? 0));
  if (Math.abs(moreDb) < doubt) return 'is heard about as far and sounds';
  return `is heard ${Math.abs(moreDb).toFixed(1)} dB ${moreDb > 0 ? 'further' : 'less far'} and sounds`;
}

function soundWords(score: number): string {
  const size = Math.abs(score);
  if (size < SAME_SCORE) return 'as much like you';
  const how = size < 10 ? 'a little' : size < 22 ? 'noticeably' : 'much';
  return `${how} ${score > 0 ? 'more' : 'less'} like you`;
}
