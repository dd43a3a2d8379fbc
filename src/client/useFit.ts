'use client';
/** The fit for the card on the Bench, worked out in the page's worker for each card, over and target. */
import { useQuery } from '@tanstack/react-query';
import { type FitAnswer, tiltedTarget } from '@/core/advice/index.ts';
import type { BenchView } from '@/server/bench/bench.ts';
import { useNextAnswer } from './useNextAnswer.ts';
import { coreWork } from './workers/coreWork.ts';

export type FitState =
  | { readonly kind: 'none' | 'working' }
  | { readonly kind: 'done'; readonly answer: FitAnswer }
  | { readonly kind: 'impossible'; readonly why: string };

export function useFit(bench: BenchView): FitState {
  const { card, over, others } = bench;
  // A tone that must give way to the drive does so here too.
  const target = tiltedTarget(bench.target, useNextAnswer(bench).answer?.learned.drive?.tiltDb ?? 0);
  const { data, error } = useQuery({
    queryKey: ['fit', card.revisions[0].id, over?.id, over?.measurement?.id, others.length, target],
    enabled: over?.measured != null,
    queryFn: async (): Promise<FitAnswer | string> => {
      if (!over?.measured) throw new Error('nothing is measured');
      return coreWork().fit({
        rig: card.rig.profile,
        card: { mode: card.mode, values: card.revisions[0].values },
        heardWith: { mode: card.mode, values: over.revision.values },
        voice: over.measured.detail,
        others,
        target,
        receiverPassbandHz: [over.receiver.lowHz, over.receiver.highHz],
      });
    },
  });
  if (!over?.measured) return { kind: 'none' };
  if (error) return { kind: 'impossible', why: `The fit failed: ${error.message}` };
  if (data === undefined) return { kind: 'working' };
  return typeof data === 'string' ? { kind: 'impossible', why: data } : { kind: 'done', answer: data };
}
