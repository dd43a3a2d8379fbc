'use client';
/** What the model says of a card, worked out in the model's worker whenever the card or the voice changes. */
import { useEffect, useState } from 'react';
import type { Elsewhere, Where } from '@/core/advice/index.ts';
import type { JudgedCard } from '@/core/intelligibility/index.ts';
import { type Card, isSameUse } from '@/core/rig/index.ts';
import type { BenchView } from '@/server/bench/bench.ts';
import type { CardView } from '@/server/cards/cards.ts';
import { modelWork } from './workers/coreWork.ts';
import type { ModelVoice } from './workers/model.worker.ts';

export type Judged =
  | { readonly kind: 'none' | 'working' }
  | { readonly kind: 'done'; readonly judged: JudgedCard }
  | { readonly kind: 'impossible'; readonly why: string };

/** The voice that the model works with. Null when the operator has no recording yet. */
export function modelVoiceOf({ voice }: Pick<BenchView, 'voice'>): ModelVoice | null {
  if (!voice) return null;
  const { over, microphone, use } = voice;
  const { capture, measured } = over;
  if (!capture || !measured) return null;
  const { stripActive, stripSeconds } = measured.detail;
  return {
    captureId: capture.id,
    bytes: capture.bytes,
    detail: { stripActive, stripSeconds },
    rig: over.rig.profile,
    heardWith: { mode: over.card.mode, values: over.revision.values },
    microphone,
    use,
    alcReading: over.alcReading,
  };
}

/** Where a card stands, if that is not where the voice was recorded: other radio, other microphone, or used otherwise. */
export function elsewhereOf(bench: Pick<BenchView, 'voice'>, card: CardView): Elsewhere | undefined {
  const { over, microphone, use } = bench.voice ?? {};
  const [newest] = card.revisions;
  const isThere =
    over?.rig.id === card.rig.id && microphone?.name === card.microphone.profile.name && use !== undefined && isSameUse(use, newest.use);
  return isThere
    ? undefined
    : { rig: card.rig.profile, microphone: card.microphone.profile, use: newest.use, driven: { mode: card.mode, values: newest.values } };
}

/** A dial in motion is judged once it rests. */
const REST_MS = 200;

/** @param where see `elsewhereOf` */
export function useJudged(voice: ModelVoice | null, card: Card, where: Where): Judged {
  const [state, setState] = useState<Judged>({ kind: voice ? 'working' : 'none' });
  const key = JSON.stringify([voice?.captureId, voice?.heardWith, voice?.use, voice?.alcReading, card, where]);
  // the key stands for voice and card, which are new objects at every render
  useEffect(() => {
    if (!voice) return setState({ kind: 'none' });
    let isCurrent = true;
    const timer = setTimeout(() => {
      modelWork()
        .judge(voice, [{ key: 'card', name: 'card', card, ...where }])
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
