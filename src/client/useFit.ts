'use client';
/** The fit for the card on the Bench, worked out in the page's worker whenever card, over or target change. */
import { useEffect, useState } from 'react';
import type { FitAnswer } from '@/core/advice/index.ts';
import type { BenchView } from '@/server/bench/bench.ts';
import { coreWork } from './workers/coreWork.ts';

export type FitState =
  | { readonly kind: 'none' | 'working' }
  | { readonly kind: 'done'; readonly answer: FitAnswer }
  | { readonly kind: 'impossible'; readonly why: string };

export function useFit({ card, over, others, target }: BenchView): FitState {
  const [state, setState] = useState<FitState>({ kind: over?.measured ? 'working' : 'none' });
  const key = JSON.stringify([card.revisions[0].id, over?.id, over?.measurement?.id, others.length, target]);
  // the key stands for card, over and target, which are new objects at every render
  useEffect(() => {
    if (!over?.measured) return setState({ kind: 'none' });
    let isCurrent = true;
    setState({ kind: 'working' });
    coreWork()
      .fit({
        rig: card.rig.profile,
        card: { mode: card.mode, values: card.revisions[0].values },
        heardWith: { mode: card.mode, values: over.revision.values },
        voice: over.measured.detail,
        others,
        target,
        receiverPassbandHz: [over.receiver.lowHz, over.receiver.highHz],
      })
      .then(
        (answer) => isCurrent && setState(typeof answer === 'string' ? { kind: 'impossible', why: answer } : { kind: 'done', answer }),
        (error: Error) => isCurrent && setState({ kind: 'impossible', why: `The fit failed: ${error.message}` }),
      );
    return () => {
      isCurrent = false;
    };
  }, [key]);
  return state;
}
