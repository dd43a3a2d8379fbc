/** Everything that was seen and heard of a card, for the advisors: overs, words and deviations, each with the dials it was made with. */
import type { SeenOver } from '@/core/advice/index.ts';
import type { Remark } from '@/core/language/index.ts';
import type { Card } from '@/core/rig/index.ts';
import type { CardView } from '../cards/cards.ts';
import { listOvers } from '../overs/overs.ts';
import { capturesOfOvers } from '../overs/overView.ts';
import { historyOf, reportsOf } from './history.ts';

export interface CardEvidence {
  /** Oldest first. */
  readonly history: readonly SeenOver[];
  readonly reports: readonly { readonly card: Card; readonly remarks: readonly Remark[] }[];
  /** Usual peak deviations of FM overs, newest first. */
  readonly deviations: readonly { readonly card: Card; readonly peakHz: number; readonly overId: number }[];
}

const FM_OVERS = 12;

export async function cardEvidence(card: Pick<CardView, 'id' | 'mode'>): Promise<CardEvidence> {
  const [history, reports, deviations] = await Promise.all([
    historyOf(card),
    reportsOf(card),
    card.mode === 'fm' ? deviationsOf(card.id) : [],
  ]);
  return { history, reports: reports.map(({ card: then, report }) => ({ card: then, remarks: report.remarks })), deviations };
}

async function deviationsOf(cardId: number): Promise<CardEvidence['deviations']> {
  const ids = (await listOvers({ cardId, kind: 'fm', limit: FM_OVERS })).map(({ id }) => id);
  const captures = (await capturesOfOvers(ids)).sort((a, b) => b.madeAt.localeCompare(a.madeAt));
  return captures.flatMap(({ id, evidence, card, revision }) => {
    const peakHz = evidence?.result.kind === 'fm' ? evidence.result.peakDeviationUsualHz : null;
    return peakHz === null ? [] : [{ card: { mode: card.mode, values: revision.values }, peakHz, overId: id }];
  });
}
