/** The carrier offsets that a card has been heard with, sharp to mellow. */
import { type CarrierBracket, carrierBracket } from '@/core/advice/index.ts';
import type { BenchView } from '@/server/bench/bench.ts';
import type { CardEvidence } from '@/server/bench/cardEvidence.ts';

/** Null where the radio has no such dial in this mode. */
export function carrierBracketOf({ card, target }: BenchView, { history, reports }: CardEvidence): CarrierBracket | null {
  const [{ values }] = card.revisions;
  const heard = [
    ...history.map(({ card: then, voices }) => ({ card: then, voice: voices[0]?.detail ?? null, remarks: [] })),
    ...reports.map(({ card: then, remarks }) => ({ card: then, voice: null, remarks })),
  ];
  return carrierBracket(card.rig.profile, { mode: card.mode, values }, heard, target);
}
