'use client';
/** A receiver: where a signal is judged, what it lets through, and how far to trust it. */
import { useDraft } from '@/client/useDraft.ts';
import { RECEIVER_KINDS, type ReceiverKind } from '@/core/measure/index.ts';
import { saveReceiver } from '@/server/station/actions.ts';
import type { ReceiverView } from '@/server/station/station.ts';
import { Field } from '@/ui/parts/Field.tsx';
import { Picker } from '@/ui/parts/Picker.tsx';
import { EditSheet } from '@/ui/shell/EditSheet.tsx';

const TRUST = [
  { id: 'high', text: 'high', note: 'known and steady' },
  { id: 'medium', text: 'medium', note: 'usable for comparing' },
  { id: 'low', text: 'low', note: 'fading, noise reduction, unknown settings' },
] as const;

/** Numbers are kept as they are typed. */
const fieldsOf = (receiver: ReceiverView | undefined, isCopy: boolean) => ({
  name: receiver ? (isCopy ? `${receiver.name}, copy` : receiver.name) : '',
  kind: receiver?.kind ?? ('local' as ReceiverKind),
  low: String(receiver?.lowHz ?? 100),
  high: String(receiver?.highHz ?? 3500),
  agc: receiver?.agc ?? '',
  path: receiver?.path ?? '',
  trust: receiver?.trust ?? ('medium' as ReceiverView['trust']),
  note: receiver?.note ?? '',
});

const valuesOf = ({ low, high, ...rest }: ReturnType<typeof fieldsOf>) => ({ ...rest, lowHz: Number(low), highHz: Number(high) });

export function ReceiverSheet({ receiver, isCopy, onClose }: { receiver?: ReceiverView; isCopy: boolean; onClose: () => void }) {
  const isNew = !receiver || isCopy;
  const draft = useDraft(`receiver ${isNew ? 'new' : receiver.id}`, fieldsOf(receiver, isCopy));
  const { name, kind, low, high, agc, path, trust, note } = draft.value;
  const { lowHz, highHz } = valuesOf(draft.value);
  const isGood = lowHz >= 10 && highHz <= 20000 && lowHz < highHz;
  return (
    <EditSheet
      title={isNew ? 'Add a receiver' : `Edit ${receiver.name}`}
      draft={draft}
      isReady={name.trim() !== '' && isGood}
      save={(base) =>
        saveReceiver({ ...valuesOf(draft.value), ...(isNew ? {} : { id: receiver.id, ...(base && { base: valuesOf(base) }) }) })
      }
      onClose={onClose}
    >
      <Field label="Name" value={name} onChange={(text) => draft.set({ name: text })} maxLength={80} autoFocus />
      <Picker label="Kind" choices={RECEIVER_KINDS} value={kind} onChange={(id) => draft.set({ kind: id as ReceiverKind })} />
      <Field label="Lowest frequency it lets through, Hz" value={low} onChange={(text) => draft.set({ low: text })} />
      <Field
        label="Highest, Hz"
        value={high}
        onChange={(text) => draft.set({ high: text })}
        error={isGood ? undefined : 'From 10 to 20000 Hz, the lowest below the highest.'}
      />
      <Field label="AGC, for example slow" value={agc} onChange={(text) => draft.set({ agc: text })} maxLength={60} />
      <Field label="Path, for example 140 km over water" value={path} onChange={(text) => draft.set({ path: text })} maxLength={200} />
      <Picker
        label="How far to trust it"
        choices={TRUST}
        value={trust}
        onChange={(id) => draft.set({ trust: id as ReceiverView['trust'] })}
      />
      <Field label="Note" value={note} onChange={(text) => draft.set({ note: text })} maxLength={1000} />
    </EditSheet>
  );
}
