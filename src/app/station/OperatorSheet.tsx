'use client';
/** An operator: name and callsign. */
import { useState } from 'react';
import type { OperatorView } from '@/server/station/station.ts';
import { Field } from '@/ui/parts/Field.tsx';
import { saveOperator } from '../actions.ts';
import { EditSheet } from './EditSheet.tsx';

export function OperatorSheet({ operator, isCopy, onClose }: { operator?: OperatorView; isCopy: boolean; onClose: () => void }) {
  const [name, setName] = useState(operator ? (isCopy ? `${operator.name}, copy` : operator.name) : '');
  const [callsign, setCallsign] = useState(operator && !isCopy ? operator.callsign : '');
  const [note, setNote] = useState(operator?.note ?? '');
  const isCall = /^[A-Za-z0-9/]{3,20}$/.test(callsign);
  const isNew = !operator || isCopy;
  return (
    <EditSheet
      title={isNew ? 'Add an operator' : `Edit ${operator.name}`}
      isReady={name.trim() !== '' && isCall}
      save={() => saveOperator({ ...(isNew ? {} : { id: operator.id }), name, callsign, note })}
      onClose={onClose}
    >
      <Field label="Name" value={name} onChange={setName} maxLength={80} autoFocus />
      <Field
        label="Callsign"
        value={callsign}
        onChange={setCallsign}
        maxLength={20}
        error={callsign !== '' && !isCall ? 'Letters, digits and /, at least three.' : undefined}
      />
      <Field label="Note, for example the kind of voice" value={note} onChange={setNote} maxLength={1000} />
    </EditSheet>
  );
}
