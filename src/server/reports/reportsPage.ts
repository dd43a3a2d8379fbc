/** A page of reports with what can be said of the card in work. */
import type { Finding } from '@/core/findings/index.ts';
import { type CardSummary, listCards } from '../cards/cardList.ts';
import { judgedOver } from '../overs/overs.ts';
import { workingCard } from '../requests/preferences.ts';
import { countReports, listReports, type ReportView } from './reports.ts';

export interface ReportsFound {
  readonly reports: readonly ReportView[];
  readonly total: number;
  readonly cards: readonly CardSummary[];
  readonly card: CardSummary | null;
  /** Reports of that card's newest revision. */
  readonly ofCard: readonly ReportView[];
  readonly findings: readonly Finding[] | null;
  readonly isOneCard: boolean;
}

const CARDS = 100;
const WEIGHED = 50;

interface Asked {
  readonly cardId?: number;
  readonly overId?: number;
  readonly search?: string;
}

/** @param offsetOf where the page that is asked for begins in a list of that length */
export async function loadReports(query: Asked, limit: number, offsetOf: (total: number) => number): Promise<ReportsFound> {
  const total = await countReports(query);
  const [reports, cards, inWork] = await Promise.all([
    listReports({ ...query, limit, offset: offsetOf(total) }),
    listCards({ limit: CARDS }),
    workingCard(),
  ]);
  const wanted = query.cardId ?? reports.find(() => query.overId !== undefined)?.card.id ?? inWork;
  const asked = wanted === undefined ? [] : await listCards({ id: wanted, withRetired: true, limit: 1 });
  const card = asked[0] ?? cards[0] ?? null;
  const all = card && cards.every(({ id }) => id !== card.id) ? [card, ...cards] : cards;
  const [ofCard, over] = card ? await Promise.all([listReports({ cardId: card.id, limit: WEIGHED }), judgedOver(card.id)]) : [[], null];
  return {
    reports,
    total,
    cards: all,
    card,
    ofCard: ofCard.filter(({ revision }) => revision === card?.revision),
    findings: over && over.revision.number === card?.revision ? (over.measured?.result.findings ?? null) : null,
    isOneCard: query.cardId !== undefined,
  };
}
