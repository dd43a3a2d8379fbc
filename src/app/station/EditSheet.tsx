'use client';
/** A sheet with fields that stays open until the server has taken them. */
import { type ReactNode, useState, useTransition } from 'react';
import type { Answer } from '@/server/answer.ts';
import { Bar, Button } from '@/ui/parts/Button.tsx';
import { Dialog } from '@/ui/parts/Dialog.tsx';
import { Notice } from '@/ui/parts/Notice.tsx';

export function EditSheet({
  title,
  save,
  isReady,
  onClose,
  children,
}: {
  title: string;
  save: () => Promise<Answer<unknown>>;
  isReady: boolean;
  onClose: () => void;
  children: ReactNode;
}) {
  const [message, setMessage] = useState<string | null>(null);
  const [isSaving, start] = useTransition();
  const submit = () =>
    start(async () => {
      const answer = await save().catch(() => ({
        ok: false as const,
        message: 'The server did not answer. Nothing was saved; please try again.',
      }));
      setMessage(answer.ok ? null : answer.message);
      if (answer.ok) onClose();
    });
  return (
    <Dialog title={title} isOpen onClose={onClose}>
      <form
        style={{ display: 'grid', gap: 12, marginTop: 10 }}
        onSubmit={(event) => {
          event.preventDefault();
          if (isReady) submit();
        }}
      >
        {children}
        {message && <Notice tone="fault">{message}</Notice>}
        <Bar>
          <Button primary type="submit" isDisabled={!isReady || isSaving}>
            Keep it
          </Button>
          <Button onPress={onClose}>Leave it</Button>
        </Bar>
      </form>
    </Dialog>
  );
}
