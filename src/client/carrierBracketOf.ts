/** The carrier offsets that a card has been heard with, sharp to mellow. */
import { type CarrierBracket, offsetsOf } from '@/core/advice/index.ts';
import type { BenchView } from '@/server/bench/bench.ts';
import type { CardEvidence } from '@/server/bench/cardEvidence.ts';

/** Null where the radio has no such dial in this mode. */
export const carrierBracketOf = ({ card, target }: BenchView, { history }: CardEvidence): CarrierBracket | null =>
  offsetsOf(card.rig.profile, { mode: card.mode, values: card.revisions[0].values }, history, target);
