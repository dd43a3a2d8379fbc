/** Everything that was seen and heard of a card, for the advisors: overs with what was said of them, deviations and depths, each with the dials it was made with. */
import type { DeviationHeard, HeardThrough, ModulationHeard, SeenOver } from '@/core/advice/index.ts';
import type { CardView } from '../cards/cards.ts';
import { listOvers } from '../overs/overs.ts';
import { capturesOfOvers } from '../overs/overView.ts';
import { historyOf } from './history.ts';

export interface CardEvidence {
  /** Oldest first. */
  readonly history: readonly SeenOver[];
  /** Usual peak deviations of FM overs, newest first. */
  readonly deviations: readonly (DeviationHeard & HeardOver)[];
  /** How deep AM overs were modulated, newest first; those that noise hides are left out. */
  readonly modulations: readonly (ModulationHeard & HeardOver)[];
}

interface HeardOver extends HeardThrough {
  readonly overId: number;
}

const RADIO_OVERS = 40;

export async function cardEvidence(card: Pick<CardView, 'id' | 'mode'>): Promise<CardEvidence> {
  const [history, deviations, modulations] = await Promise.all([
    historyOf(card),
    card.mode === 'fm' ? deviationsOf(card.id) : [],
    card.mode === 'am' ? modulationsOf(card.id) : [],
  ]);
  return { history, deviations, modulations };
}

/** Newest first. */
async function radioCaptures(cardId: number, kind: 'am' | 'fm') {
  const ids = (await listOvers({ cardId, kind, limit: RADIO_OVERS })).map(({ id }) => id);
  return (await capturesOfOvers(ids)).sort((a, b) => b.madeAt.localeCompare(a.madeAt));
}

async function modulationsOf(cardId: number): Promise<CardEvidence['modulations']> {
  return (await radioCaptures(cardId, 'am')).flatMap(({ id, evidence, card, revision }) => {
    const result = evidence?.result;
    if (result?.kind !== 'am' || result.notes.modulationDepth !== undefined) return [];
    const { positive: up, negative: down } = result.modulationDepthUsual;
    if (up === null || down === null) return [];
    const isCutOff = result.findings.some(({ code, severity }) => code === 'over-modulated' && severity !== 'ok');
    return [{ card: { mode: card.mode, values: revision.values }, modulation: { up, down, isCutOff }, use: revision.use, overId: id }];
  });
}

async function deviationsOf(cardId: number): Promise<CardEvidence['deviations']> {
  return (await radioCaptures(cardId, 'fm')).flatMap(({ id, evidence, card, revision }) => {
    const peakHz = evidence?.result.kind === 'fm' ? evidence.result.peakDeviationUsualHz : null;
    return peakHz === null ? [] : [{ card: { mode: card.mode, values: revision.values }, peakHz, use: revision.use, overId: id }];
  });
}
