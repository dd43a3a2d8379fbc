'use client';
/** Puts dial values on the Bench's card as a new revision; keeps the one message when it is refused. */
import { useState, useTransition } from 'react';
import type { DialValues } from '@/core/station/card.ts';
import type { BenchView } from '@/server/bench.ts';
import { saveRevision } from '../actions.ts';

export interface Change {
  readonly values: DialValues;
  readonly reason: string;
  readonly why?: Readonly<Record<string, string>>;
}

export function useSave({ card, over }: Pick<BenchView, 'card' | 'over'>) {
  const [message, setMessage] = useState<string | null>(null);
  const [isSaving, start] = useTransition();
  /** @returns nothing; a refusal shows as the message */
  const save = (change: Change, done: () => void = () => {}) =>
    start(async () => {
      const { values, reason, why } = change;
      const answer = await saveRevision({
        cardId: card.id,
        baseRevisionId: card.revisions[0].id,
        values: { ...values },
        reason,
        ...(why ? { why: { ...why } } : {}),
        ...(over?.measured ? { overId: over.id } : {}),
      }).catch(() => ({ ok: false as const, message: 'The server did not answer. Nothing was saved; please try again.' }));
      setMessage(answer.ok ? null : answer.message);
      if (answer.ok) done();
    });
  return { save, isSaving, message };
}
