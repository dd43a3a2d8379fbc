'use client';
/** An operator: name and callsign. */
import { useDraft } from '@/client/useDraft.ts';
import { saveOperator } from '@/server/station/actions.ts';
import type { OperatorView } from '@/server/station/station.ts';
import { Field } from '@/ui/parts/Field.tsx';
import { EditSheet } from '@/ui/shell/EditSheet.tsx';

export function OperatorSheet({ operator, isCopy, onClose }: { operator?: OperatorView; isCopy: boolean; onClose: () => void }) {
  const isNew = !operator || isCopy;
  const draft = useDraft(`operator ${isNew ? 'new' : operator.id}`, {
    name: operator ? (isCopy ? `${operator.name}, copy` : operator.name) : '',
    callsign: operator && !isCopy ? operator.callsign : '',
    note: operator?.note ?? '',
  });
  const { name, callsign, note } = draft.value;
  const isCall = /^[A-Za-z0-9/]{3,20}$/.test(callsign);
  return (
    <EditSheet
      title={isNew ? 'Add an operator' : `Edit ${operator.name}`}
      draft={draft}
      isReady={name.trim() !== '' && isCall}
      save={(base) => saveOperator({ ...draft.value, ...(isNew ? {} : { id: operator.id, ...(base && { base }) }) })}
      onClose={onClose}
    >
      <Field label="Name" value={name} onChange={(text) => draft.set({ name: text })} maxLength={80} autoFocus />
      <Field
        label="Callsign"
        value={callsign}
        onChange={(text) => draft.set({ callsign: text })}
        maxLength={20}
        error={callsign !== '' && !isCall ? 'Letters, digits and /, at least three.' : undefined}
      />
      <Field label="Note, for example the kind of voice" value={note} onChange={(text) => draft.set({ note: text })} maxLength={1000} />
    </EditSheet>
  );
}
