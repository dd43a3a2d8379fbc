/** Looks up cards for a picker. */
import { findCards } from '@/server/cards/actions.ts';
import type { CardSummary } from '@/server/cards/cardList.ts';
import { asked } from './asked.ts';

const LONGEST = 100;

/** Cards that hold the words in their names, changed last first; null when the server is away. */
export async function cardsNamed(words: string): Promise<readonly CardSummary[] | null> {
  const answer = await asked(findCards({ search: words.slice(0, LONGEST) }));
  return answer.ok ? answer.value : null;
}
