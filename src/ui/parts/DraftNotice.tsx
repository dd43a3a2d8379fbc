/** What a form says of its draft: typed text that came back, and another tab that was faster. */
import { utc } from '../utc.ts';
import { Button } from './Button.tsx';
import { Notice } from './Notice.tsx';

export function RestoredNotice({ at, onDiscard }: { at: string | null; onDiscard: () => void }) {
  if (at === null) return null;
  return (
    <Notice>
      <span>Your unsaved changes from {utc(at)} UTC are back.</span>
      <Button onPress={onDiscard}>Discard</Button>
    </Notice>
  );
}

interface FormRefusal {
  readonly text: string;
  /** Somebody else changed the same thing meanwhile. */
  readonly isOvertaken: boolean;
}

export function RefusalNotice({ refusal, onForce }: { refusal: FormRefusal | null; onForce: () => void }) {
  if (!refusal) return null;
  return (
    <Notice tone="fault">
      <span>{refusal.text}</span>
      {refusal.isOvertaken && <Button onPress={onForce}>Save mine anyway</Button>}
    </Notice>
  );
}
