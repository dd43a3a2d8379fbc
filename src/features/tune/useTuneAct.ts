'use client';
/** Does something with the run; what the server refuses is said on the page. */
import { useState } from 'react';
import { asked } from '@/client/asked.ts';
import type { TuneAct } from '@/core/tune/index.ts';
import { actInTune } from '@/server/tune/actions.ts';

export type DoAct = (act: TuneAct) => Promise<string | null>;

/** @returns what does it, one after another; its promise is the refusal, or null */
export function useTuneAct(tuneRunId: number): DoAct {
  const [line] = useState<{ last: Promise<unknown> }>(() => ({ last: Promise.resolve() }));
  return (act) => {
    const turn = line.last.then(async () => {
      const { kind } = act;
      const request = 'id' in act ? { tuneRunId, kind, task: act.id } : { tuneRunId, kind, step: act.step };
      const answer = await asked(actInTune(request));
      return answer.ok ? null : answer.message;
    });
    line.last = turn;
    return turn;
  };
}
