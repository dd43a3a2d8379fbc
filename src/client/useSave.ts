'use client';
/** Puts dial values on the Bench's card as a new revision; keeps the one message when it is refused. */
import { useState, useTransition } from 'react';
import type { DialValues, MicrophoneUse } from '@/core/rig/index.ts';
import type { BenchView } from '@/server/bench/bench.ts';
import { saveRevision } from '@/server/cards/actions.ts';
import { asked } from './asked.ts';
import type { FormRefusal } from './useForm.ts';

export interface Change {
  readonly values: DialValues;
  readonly reason: string;
  readonly use?: MicrophoneUse;
  readonly why?: Readonly<Record<string, string>>;
}

const CONFLICT = 409;

export function useSave({ card, over }: Pick<BenchView, 'card' | 'over'>) {
  const [refusal, setRefusal] = useState<FormRefusal | null>(null);
  const [isSaving, start] = useTransition();
  /** A refusal is kept until the next try; what was being changed stays as it is. */
  const save = (change: Change, done: () => void = () => {}) =>
    start(async () => {
      const { values, reason, why, use } = change;
      const answer = await asked(
        saveRevision({
          cardId: card.id,
          baseRevisionId: card.revisions[0].id,
          values: { ...values },
          reason,
          ...(use ? { use } : {}),
          ...(why ? { why: { ...why } } : {}),
          ...(over?.measured ? { overId: over.id } : {}),
        }),
      );
      setRefusal(answer.ok ? null : { text: answer.message, isOvertaken: answer.status === CONFLICT });
      if (answer.ok) done();
    });
  return { save, isSaving, refusal, forget: () => setRefusal(null) };
}
