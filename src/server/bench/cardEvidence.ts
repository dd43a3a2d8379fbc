/** Everything that was seen and heard of a card, for the advisors: overs, words and deviations, each with the dials it was made with. */
import type { SeenOver } from '@/core/advice/index.ts';
import type { Remark } from '@/core/language/index.ts';
import type { Card } from '@/core/rig/index.ts';
import { type CardView, loadCard } from '../cards/cards.ts';
import { historyOf } from '../overs/history.ts';
import { capturesOfOvers, listOvers } from '../overs/overs.ts';
import { listReports } from '../reports/reports.ts';

export interface CardEvidence {
  /** Oldest first. */
  readonly history: readonly SeenOver[];
  readonly reports: readonly { readonly card: Card; readonly remarks: readonly Remark[] }[];
  /** Usual peak deviations of FM overs, newest first. */
  readonly deviations: readonly { readonly card: Card; readonly peakHz: number; readonly overId: number }[];
}

const REPORTS = 60;
const REVISIONS = 200;
const FM_OVERS = 12;

export async function cardEvidence({ id, mode }: Pick<CardView, 'id' | 'mode'>): Promise<CardEvidence> {
  const [history, reports, card, deviations] = await Promise.all([
    historyOf({ id, mode }),
    listReports({ cardId: id, limit: REPORTS }),
    loadCard(id, { revisions: REVISIONS }),
    mode === 'fm' ? deviationsOf(id) : [],
  ]);
  const values = new Map(card?.revisions.map((revision) => [revision.id, revision.values]));
  return {
    history,
    reports: reports.flatMap(({ revisionId, remarks }) => {
      const then = values.get(revisionId);
      return then ? [{ card: { mode, values: then }, remarks }] : [];
    }),
    deviations,
  };
}

async function deviationsOf(cardId: number): Promise<CardEvidence['deviations']> {
  const ids = (await listOvers({ cardId, kind: 'fm', limit: FM_OVERS })).map(({ id }) => id);
  const captures = (await capturesOfOvers(ids)).sort((a, b) => b.madeAt.localeCompare(a.madeAt));
  return captures.flatMap(({ id, evidence, card, revision }) => {
    const peakHz = evidence?.result.kind === 'fm' ? evidence.result.peakDeviationUsualHz : null;
    return peakHz === null ? [] : [{ card: { mode: card.mode, values: revision.values }, peakHz, overId: id }];
  });
}
