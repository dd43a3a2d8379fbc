/** Everything the Bench shows of one card. */

import type { HeardOver } from '../core/advice/toneEstimate.ts';
import type { CurvePoint } from '../core/formats/curve.ts';
import { type MeasurementKind, RADIO_KINDS } from '../core/measure/measurement.ts';
import { type CardView, loadCard } from './cards/cards.ts';
import { type TrailEntry, trail } from './cards/revisions.ts';
import { judgedOver, listOvers, loadOver, type OverSummary, type OverView } from './overs.ts';
import { oversLike } from './oversLike.ts';
import { aimFor } from './targets.ts';
import { type VoiceSource, voiceFor } from './voice.ts';

export interface BenchView {
  readonly card: CardView;
  /** The over the card is judged by; null when it has none. */
  readonly over: OverView | null;
  /** Further overs of the same operator, microphone, use and receiver: the fit takes them all. */
  readonly others: readonly HeardOver[];
  /** What the model works with: the voice of that over, or of another card's; null when the operator has none. */
  readonly voice: VoiceSource | null;
  /** The card's newest measured I/Q recording; null when it has none. */
  readonly radio: OverView | null;
  /** The card's newest measured test sweep or curve; null when it has none. */
  readonly response: OverView | null;
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
  const [over, radio, response, overs, aim, entries] = await Promise.all([
    judgedOver(cardId, overId),
    newestOf(cardId, RADIO_KINDS),
    newestOf(cardId, ['response']),
    listOvers({ cardId, kind: 'voice', limit: OVERS_TO_PICK }),
    aimFor(card.purpose),
    trail(cardId, TRAIL_ENTRIES),
  ]);
  return {
    card,
    over,
    others: over ? await oversLike(over) : [],
    voice: await voiceFor(card.operator.id, over),
    radio,
    response,
    overs,
    aim,
    trail: entries,
  };
}

async function newestOf(cardId: number, kinds: readonly MeasurementKind[]): Promise<OverView | null> {
  const found = await Promise.all(kinds.map((kind) => listOvers({ cardId, kind, limit: 5 })));
  const [newest] = found
    .flat()
    .filter(({ status }) => status === 'done')
    .sort((a, b) => b.madeAt.localeCompare(a.madeAt));
  return newest ? loadOver(newest.id) : null;
}
