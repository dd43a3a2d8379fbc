'use client';
/** Measures an over anew, with other settings if wanted. */
import { useState, useTransition } from 'react';
import type { CaptureSettings } from '@/server/db/models.ts';
import { judgeAllAgain, measureCaptureAgain, measureCaptureAs } from '@/server/measuring/actions.ts';
import type { OverView } from '@/server/overs/overView.ts';
import type { Answer } from '@/server/requests/answer.ts';
import { asked } from './asked.ts';

export interface MeasureAgain {
  /** With these settings changed; as before when left out. */
  readonly measure: (change?: CaptureSettings) => void;
  readonly measureAll: () => void;
  readonly isSending: boolean;
  /** Why it was refused. */
  readonly message: string | null;
}

export function useMeasureAgain({ capture }: Pick<OverView, 'capture'>): MeasureAgain {
  const [message, setMessage] = useState<string | null>(null);
  const [isSending, start] = useTransition();
  const send = (work: () => Promise<Answer<unknown>>) =>
    start(async () => {
      const answer = await asked(work());
      setMessage(answer.ok ? null : answer.message);
    });
  return {
    measure(change) {
      if (!capture) return;
      const { id: captureId, kind, settings } = capture;
      if (!change) return send(() => measureCaptureAgain({ captureId }));
      send(() => measureCaptureAs({ captureId, kind, settings: { ...settings, ...change } }));
    },
    measureAll: () => send(() => judgeAllAgain({})),
    isSending,
    message,
  };
}
