'use client';
/** Everything that was seen and heard of a card, fetched when an advisor asks for it. */
import { useQuery } from '@tanstack/react-query';
import type { BenchView } from '@/server/bench/bench.ts';
import type { CardEvidence } from '@/server/bench/cardEvidence.ts';

/** Stands for all of it: with anything new it is another. */
export const evidenceKey = ({ card, overs, heard, radio, response, readings, reports }: BenchView): readonly unknown[] => [
  card.id,
  card.revisions[0].id,
  overs.map(({ id, status }) => [id, status]),
  [...heard, radio, response].map((over) => over?.measurement?.id),
  readings[0]?.takenAt,
  readings.length,
  reports[0]?.id,
  reports.length,
];

/** Null until it is there. @param given what the page has of it already */
export const useCardEvidence = (bench: BenchView, given?: CardEvidence): CardEvidence | null => useEvidence(bench, given).evidence;

/** The same, and whether it can't be had. */
export function useEvidence(
  bench: BenchView,
  given?: CardEvidence,
): { readonly evidence: CardEvidence | null; readonly isMissing: boolean } {
  const { data, isError } = useQuery({
    queryKey: ['evidence', ...evidenceKey(bench)],
    enabled: given === undefined,
    queryFn: async ({ signal }): Promise<CardEvidence> => {
      const response = await fetch(`/api/cards/${bench.card.id}/evidence`, { signal });
      if (!response.ok) throw new Error('The evidence of this card could not be loaded.');
      return response.json();
    },
  });
  return { evidence: given ?? data ?? null, isMissing: isError };
}
