'use client';
/** A sheet with fields that stays open until the server has taken them. Closed by Escape it keeps what was typed. */
import type { ReactNode } from 'react';
import type { Draft } from '@/client/useDraft.ts';
import { useForm } from '@/client/useForm.ts';
import type { Answer } from '@/server/requests/answer.ts';
import { Bar, Button } from '../parts/Button.tsx';
import { Dialog } from '../parts/Dialog.tsx';
import { RefusalNotice, RestoredNotice } from '../parts/DraftNotice.tsx';

interface EditSheetProps<T extends object, A> {
  readonly title: string;
  readonly draft: Draft<T>;
  /** Sends the draft; `base` is what it was made from. */
  readonly save: (base: T | undefined) => Promise<Answer<A>>;
  readonly isReady: boolean;
  readonly onClose: () => void;
  readonly onSaved?: (value: A) => void;
  readonly saveWords?: string;
  /** Beside the buttons. */
  readonly beside?: ReactNode;
  readonly children: ReactNode;
}

export function EditSheet<T extends object, A>({
  title,
  draft,
  save,
  isReady,
  onClose,
  onSaved = onClose,
  saveWords = 'Save',
  beside,
  children,
}: EditSheetProps<T, A>) {
  const { refusal, isSaving, submit, force } = useForm(draft, save, onSaved);
  return (
    <Dialog title={title} isOpen onClose={onClose}>
      <form
        style={{ display: 'grid', gap: 12, marginTop: 10 }}
        onSubmit={(event) => {
          event.preventDefault();
          if (isReady) submit();
        }}
      >
        <RestoredNotice at={draft.restoredAt} onDiscard={draft.discard} />
        {children}
        <RefusalNotice refusal={refusal} onForce={force} />
        <Bar>
          <Button primary type="submit" isDisabled={!isReady} isPending={isSaving}>
            {saveWords}
          </Button>
          <Button
            onPress={() => {
              draft.discard();
              onClose();
            }}
          >
            Cancel
          </Button>
          {beside}
        </Bar>
      </form>
    </Dialog>
  );
}
