'use client';
/** What the model says of a card, worked out in the model's worker whenever the card or the voice changes. */
import { useQuery } from '@tanstack/react-query';
import type { Driven, Elsewhere, Where } from '@/core/advice/index.ts';
import type { JudgedCard } from '@/core/intelligibility/index.ts';
import { type Card, isSameUse, type MicrophoneUse } from '@/core/rig/index.ts';
import type { BenchView } from '@/server/bench/bench.ts';
import type { CardView } from '@/server/cards/cards.ts';
import { inTurn, modelWork } from './workers/coreWork.ts';
import type { ModelVoice } from './workers/model.worker.ts';

export type Judged =
  | { readonly kind: 'none' | 'working' }
  | { readonly kind: 'done'; readonly judged: JudgedCard }
  | { readonly kind: 'impossible'; readonly why: string };

/** What the ALC of a card was read as last, with the dials that it was read with; null where nobody read it as the microphone is used now. */
function lastRead({ card, readings }: Pick<BenchView, 'card' | 'readings'>, use: MicrophoneUse): Driven | null {
  const read = readings.find(({ alc, revision }) => alc !== null && (revision.use === null || isSameUse(revision.use, use)));
  return read ? { card: { mode: card.mode, values: read.revision.values }, alc: read.alc } : null;
}

/** The voice that the model works with. Null when the operator has no recording yet. */
export function modelVoiceOf(bench: Pick<BenchView, 'voice' | 'card' | 'readings'>): ModelVoice | null {
  const { voice } = bench;
  if (!voice) return null;
  const { over, microphone, use } = voice;
  const { capture, measured } = over;
  if (!capture || !measured) return null;
  const { stripActive, stripSeconds } = measured.detail;
  const heardWith = { mode: over.card.mode, values: over.revision.values };
  return {
    captureId: capture.id,
    bytes: capture.bytes,
    detail: { stripActive, stripSeconds },
    rig: over.rig.profile,
    heardWith,
    microphone,
    use,
    driven: (isThere(bench, bench.card) ? lastRead(bench, use) : null) ?? { card: heardWith, alc: over.alcReading },
  };
}

/** Where a card stands, if that is not where the voice was recorded: other radio, other microphone, or used otherwise. */
export function elsewhereOf(bench: Pick<BenchView, 'voice' | 'card' | 'readings'>, card: CardView): Elsewhere | undefined {
  if (isThere(bench, card)) return undefined;
  const [{ values, use }] = card.revisions;
  const read = card.id === bench.card.id ? lastRead(bench, use) : null;
  return {
    rig: card.rig.profile,
    microphone: card.microphone.profile,
    use,
    driven: read ?? { card: { mode: card.mode, values }, alc: null },
  };
}

/** Whether a card stands where the voice was recorded. */
function isThere({ voice }: Pick<BenchView, 'voice'>, card: CardView): boolean {
  const { over, microphone, use } = voice ?? {};
  const [newest] = card.revisions;
  return (
    over?.rig.id === card.rig.id && microphone?.name === card.microphone.profile.name && use !== undefined && isSameUse(use, newest.use)
  );
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
  queryKey: ['judged', voice?.captureId, voice?.heardWith, voice?.use, voice?.driven, card, where],
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
