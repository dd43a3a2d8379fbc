'use client';
/** Everything that was seen and heard of a card, fetched when an advisor asks for it. */
import { useQuery } from '@tanstack/react-query';
import type { BenchView } from '@/server/bench/bench.ts';
import type { CardEvidence } from '@/server/bench/cardEvidence.ts';

/** Null until it is there. @param given what the page has of it already */
export function useCardEvidence({ card, overs, readings, reports }: BenchView, given?: CardEvidence): CardEvidence | null {
  const { data } = useQuery({
    queryKey: ['evidence', card.id, card.revisions[0].id, overs.map(({ id, status }) => [id, status]), readings.length, reports.length],
    enabled: given === undefined,
    queryFn: async ({ signal }): Promise<CardEvidence> => {
      const response = await fetch(`/api/cards/${card.id}/evidence`, { signal });
      if (!response.ok) throw new Error('The evidence of this card could not be loaded.');
      return response.json();
    },
  });
  return given ?? data ?? null;
}
