'use client';
/** One step: its question, its fields, and one button; what was typed stays until the server has it. */
import type { ReactNode } from 'react';
import styled from 'styled-components';
import type { Draft } from '@/client/useDraft.ts';
import { useForm } from '@/client/useForm.ts';
import type { Answer } from '@/server/requests/answer.ts';
import { Bar, Button } from '@/ui/parts/Button.tsx';
import { RefusalNotice, RestoredNotice } from '@/ui/parts/DraftNotice.tsx';

const Form = styled.form`display: grid; gap: 12px; max-width: 560px; h2 { margin: 0; } > p { margin: 0; }`;

interface StepFormProps<T extends object> {
  readonly question: string;
  readonly why: string;
  readonly draft: Draft<T>;
  readonly isReady: boolean;
  readonly save: () => Promise<Answer<unknown>>;
  readonly onSaved?: (value: unknown) => void;
  readonly children: ReactNode;
}

export function StepForm<T extends object>({ question, why, draft, isReady, save, onSaved, children }: StepFormProps<T>) {
  const { refusal, isSaving, submit, force } = useForm(draft, save, onSaved);
  return (
    <Form
      onSubmit={(event) => {
        event.preventDefault();
        if (isReady) submit();
      }}
    >
      <h2>{question}</h2>
      <p className="soft">{why}</p>
      <RestoredNotice at={draft.restoredAt} onDiscard={draft.discard} />
      {children}
      <RefusalNotice refusal={refusal} onForce={force} />
      <Bar>
        <Button primary type="submit" isDisabled={!isReady} isPending={isSaving}>
          Next
        </Button>
      </Bar>
    </Form>
  );
}
