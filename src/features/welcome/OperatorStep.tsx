'use client';
/** Who talks. */
import { useDraft } from '@/client/useDraft.ts';
import { saveOperator } from '@/server/station/actions.ts';
import { Field } from '@/ui/parts/Field.tsx';
import { StepForm } from './StepForm.tsx';

const CALL = /^[A-Za-z0-9/]{3,20}$/;

export function OperatorStep() {
  const draft = useDraft('welcome operator', { name: '', callsign: '' });
  const { name, callsign } = draft.value;
  return (
    <StepForm
      question="Who talks?"
      why="Every over and every card belongs to a voice. More operators can share the station later."
      draft={draft}
      isReady={name.trim() !== '' && CALL.test(callsign)}
      save={() => saveOperator({ name, callsign, note: '' })}
    >
      <Field label="Name" value={name} onChange={(text) => draft.set({ name: text })} maxLength={80} autoFocus />
      <Field
        label="Callsign"
        value={callsign}
        onChange={(text) => draft.set({ callsign: text })}
        maxLength={20}
        error={callsign !== '' && !CALL.test(callsign) ? 'Letters, digits and /, at least three.' : undefined}
      />
    </StepForm>
  );
}
