/** Saving a form: one answer at a time, what was typed kept until the server has it, and the way past another tab. */
import { useState, useTransition } from 'react';
import type { Answer } from '@/server/requests/answer.ts';
import { OVERTAKEN } from '@/server/requests/refused.ts';
import { asked } from './asked.ts';
import type { Draft } from './useDraft.ts';

export interface FormRefusal {
  readonly text: string;
  /** Somebody else changed the same thing meanwhile. */
  readonly isOvertaken: boolean;
}

export interface Form {
  readonly refusal: FormRefusal | null;
  readonly isSaving: boolean;
  /** Sends what the form holds. */
  readonly submit: () => void;
  /** The same, over whatever another tab has saved. */
  readonly force: () => void;
  readonly forget: () => void;
}

/**
 * @param save sends the draft; `base` is what it was made from, undefined to send it regardless
 * @param done once the server has it
 */
export function useForm<T extends object, A>(
  draft: Pick<Draft<T>, 'base' | 'saved'>,
  save: (base: T | undefined) => Promise<Answer<A>>,
  done: (value: A) => void = () => {},
): Form {
  const [refusal, setRefusal] = useState<FormRefusal | null>(null);
  const [isSaving, start] = useTransition();
  const send = (base: T | undefined) =>
    start(async () => {
      const answer = await asked(save(base));
      setRefusal(answer.ok ? null : { text: answer.message, isOvertaken: answer.status === OVERTAKEN });
      if (!answer.ok) return;
      draft.saved();
      done(answer.value);
    });
  return { refusal, isSaving, submit: () => send(draft.base), force: () => send(undefined), forget: () => setRefusal(null) };
}
