'use client';
/** What the model says of a card, worked out in the model's worker whenever the card or the voice changes. */
import { useQuery } from '@tanstack/react-query';
import type { Elsewhere, Where } from '@/core/advice/index.ts';
import type { JudgedCard } from '@/core/intelligibility/index.ts';
import { type Card, isSameUse } from '@/core/rig/index.ts';
import type { BenchView } from '@/server/bench/bench.ts';
import type { CardView } from '@/server/cards/cards.ts';
import { inTurn, modelWork } from './workers/coreWork.ts';
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

const rest = (signal: AbortSignal): Promise<void> =>
  new Promise((done, gone) => {
    const timer = setTimeout(done, REST_MS);
    signal.addEventListener('abort', () => {
      clearTimeout(timer);
      gone(signal.reason);
    });
  });

/** One judgement of the model, known by all it is made from. @param where see `elsewhereOf` */
export const judgement = (voice: ModelVoice | null, card: Card, where: Where, waits = false) => ({
  queryKey: ['judged', voice?.captureId, voice?.heardWith, voice?.use, voice?.alcReading, card, where],
  enabled: voice !== null,
  queryFn: async ({ signal }: { signal: AbortSignal }): Promise<JudgedCard | string> => {
    if (!voice) throw new Error('there is no voice');
    if (waits) await rest(signal);
    return inTurn(async () => modelWork().judge(voice, card, where));
  },
});

export function useJudged(voice: ModelVoice | null, card: Card, where: Where): Judged {
  const { data, error } = useQuery(judgement(voice, card, where, true));
  if (!voice) return { kind: 'none' };
  if (error) return { kind: 'impossible', why: `The model failed: ${error.message}` };
  if (data === undefined) return { kind: 'working' };
  return typeof data === 'string' ? { kind: 'impossible', why: data } : { kind: 'done', judged: data };
}
