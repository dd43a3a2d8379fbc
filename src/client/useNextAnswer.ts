'use client';
/** What the engine says to everything that was seen and heard of a card, worked out in the page's worker. */
import { useQuery } from '@tanstack/react-query';
import { type NextAnswer, SKIPS_COMPRESSION } from '@/core/advice/index.ts';
import type { BenchView } from '@/server/bench/bench.ts';
import { hasOwnLevel } from './cardStanding.ts';
import { evidenceKey, useEvidence } from './useCardEvidence.ts';
import { coreWork } from './workers/coreWork.ts';

/** `isThinking` while it is at work; null where there is nothing to answer to, or it failed. */
export function useNextAnswer(bench: BenchView): { readonly answer: NextAnswer | null; readonly isThinking: boolean } {
  const { card, school, target } = bench;
  const { evidence, isMissing } = useEvidence(bench);
  const history = evidence?.history ?? [];
  // Nobody is told to compress who never chose a school, or does not want to.
  const scope =
    school.isChosen && !card.setAside.includes(SKIPS_COMPRESSION)
      ? (['compression', 'tone', 'passband'] as const)
      : (['tone', 'passband'] as const);
  const { data, isPending, error } = useQuery({
    queryKey: ['next', ...evidenceKey(bench), card.purpose, school, scope, target],
    enabled: history.length > 0,
    queryFn: () =>
      coreWork().next({
        rig: card.rig.profile,
        mode: card.mode,
        purpose: card.purpose,
        school: school.wish,
        overs: history,
        target,
        scope,
        hasOwnLevel: hasOwnLevel(bench, evidence),
      }),
  });
  // What can't be had leaves the level to the readings, and the tone to the fit.
  const isThinking = evidence === null ? !isMissing : history.length > 0 && isPending && !error;
  return { answer: data ?? null, isThinking };
}
