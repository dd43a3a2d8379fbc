'use client';
/** What the model says of a card, worked out in the model's worker whenever the card or the voice changes. */
import { useEffect, useState } from 'react';
import type { JudgedCard } from '@/core/hearing/cardJudge.ts';
import type { Card } from '@/core/station/card.ts';
import type { BenchView } from '@/server/bench.ts';
import { modelWork } from '@/workers/coreWork.ts';
import type { ModelVoice } from '@/workers/model.worker.ts';

export type Judged =
  | { readonly kind: 'none' | 'working' }
  | { readonly kind: 'done'; readonly judged: JudgedCard }
  | { readonly kind: 'impossible'; readonly why: string };

/** The voice that the model works with: the over the card is judged by. Null when there is none with a recording. */
export function modelVoiceOf({ card, over }: Pick<BenchView, 'card' | 'over'>): ModelVoice | null {
  if (!over?.measured || !over.capture) return null;
  const { stripActive, stripSeconds } = over.measured.detail;
  return {
    captureId: over.capture.id,
    bytes: over.capture.bytes,
    detail: { stripActive, stripSeconds },
    rig: card.rig.profile,
    heardWith: { mode: card.mode, values: over.revision.values },
    microphone: card.microphone.profile,
    use: card.revisions[0].use,
    alcReading: over.alcReading,
  };
}

/** A dial in motion is judged once it rests. */
const REST_MS = 200;

export function useJudged(voice: ModelVoice | null, card: Card): Judged {
  const [state, setState] = useState<Judged>({ kind: voice ? 'working' : 'none' });
  const key = JSON.stringify([voice?.captureId, voice?.heardWith, voice?.use, voice?.alcReading, card]);
  // the key stands for voice and card, which are new objects at every render
  useEffect(() => {
    if (!voice) return setState({ kind: 'none' });
    let isCurrent = true;
    const timer = setTimeout(() => {
      modelWork()
        .judge(voice, [{ key: 'card', name: 'card', card }])
        .then(
          ([{ judged }]) =>
            isCurrent && setState(typeof judged === 'string' ? { kind: 'impossible', why: judged } : { kind: 'done', judged }),
          (error: Error) => isCurrent && setState({ kind: 'impossible', why: `The model failed: ${error.message}` }),
        );
    }, REST_MS);
    return () => {
      isCurrent = false;
      clearTimeout(timer);
    };
  }, [key]);
  return state;
}
