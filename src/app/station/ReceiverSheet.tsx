'use client';
/** A receiver: where a signal is judged, what it lets through, and how far to trust it. */
import { useState } from 'react';
import type { ReceiverView } from '@/server/station/station.ts';
import { Field } from '@/ui/parts/Field.tsx';
import { Picker } from '@/ui/parts/Picker.tsx';
import { saveReceiver } from '../actions.ts';
import { EditSheet } from './EditSheet.tsx';
import { RECEIVER_KINDS, type ReceiverKind } from './receiverKinds.ts';

const TRUST = [
  { id: 'high', text: 'high', note: 'known and steady' },
  { id: 'medium', text: 'medium', note: 'usable for comparing' },
  { id: 'low', text: 'low', note: 'fading, noise reduction, unknown settings' },
] as const;

export function ReceiverSheet({ receiver, isCopy, onClose }: { receiver?: ReceiverView; isCopy: boolean; onClose: () => void }) {
  const [name, setName] = useState(receiver ? (isCopy ? `${receiver.name}, copy` : receiver.name) : '');
  const [kind, setKind] = useState<ReceiverKind>(receiver?.kind ?? 'local');
  const [low, setLow] = useState(String(receiver?.lowHz ?? 100));
  const [high, setHigh] = useState(String(receiver?.highHz ?? 3500));
  const [agc, setAgc] = useState(receiver?.agc ?? '');
  const [path, setPath] = useState(receiver?.path ?? '');
  const [trust, setTrust] = useState<ReceiverView['trust']>(receiver?.trust ?? 'medium');
  const [note, setNote] = useState(receiver?.note ?? '');
  const [lowHz, highHz] = [Number(low), Number(high)];
  const isGood = lowHz >= 10 && highHz <= 20000 && lowHz < highHz;
  const isNew = !receiver || isCopy;
  return (
    <EditSheet
      title={isNew ? 'Add a receiver' : `Edit ${receiver.name}`}
      isReady={name.trim() !== '' && isGood}
      save={() => saveReceiver({ ...(isNew ? {} : { id: receiver.id }), name, kind, lowHz, highHz, agc, path, trust, note })}
      onClose={onClose}
    >
      <Field label="Name" value={name} onChange={setName} maxLength={80} autoFocus />
      <Picker label="Kind" choices={RECEIVER_KINDS} value={kind} onChange={(id) => setKind(id as ReceiverKind)} />
      <Field label="Lowest frequency it lets through, Hz" value={low} onChange={setLow} />
      <Field
        label="Highest, Hz"
        value={high}
        onChange={setHigh}
        error={isGood ? undefined : 'From 10 to 20000 Hz, the lowest below the highest.'}
      />
      <Field label="AGC, for example slow" value={agc} onChange={setAgc} maxLength={60} />
      <Field label="Path, for example 140 km over water" value={path} onChange={setPath} maxLength={200} />
      <Picker label="How far to trust it" choices={TRUST} value={trust} onChange={(id) => setTrust(id as ReceiverView['trust'])} />
      <Field label="Note" value={note} onChange={setNote} maxLength={1000} />
    </EditSheet>
  );
}
