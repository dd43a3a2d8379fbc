/** Everything the Bench shows of one card. */
import type { CurvePoint } from '../core/formats/curve.ts';
import { type CardView, loadCard, type TrailEntry, trail } from './cards.ts';
import { judgedOver, listOvers, type OverSummary, type OverView } from './overs.ts';
import { aimFor } from './targets.ts';

export interface BenchView {
  readonly card: CardView;
  /** The over the card is judged by; null when it has none. */
  readonly over: OverView | null;
  /** The card's newest overs. */
  readonly overs: readonly OverSummary[];
  readonly aim: readonly CurvePoint[];
  readonly trail: readonly TrailEntry[];
}

const OVERS_TO_PICK = 20;
const TRAIL_ENTRIES = 40;

/** @returns null when there is no such card */
export async function loadBench(cardId: number, overId?: number): Promise<BenchView | null> {
  const card = await loadCard(cardId);
  if (!card) return null;
  const [over, overs, aim, entries] = await Promise.all([
    judgedOver(cardId, overId),
    listOvers({ cardId, limit: OVERS_TO_PICK }),
    aimFor(card.purpose),
    trail(cardId, TRAIL_ENTRIES),
  ]);
  return { card, over, overs, aim, trail: entries };
}
