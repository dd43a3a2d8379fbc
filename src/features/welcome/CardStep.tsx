'use client';
/** What for: the first card, with the numbers that the radio shows now. */
import { useDraft } from '@/client/useDraft.ts';
import { MODE_LABELS, type Mode, PURPOSE_LABELS, PURPOSES, type Purpose } from '@/core/rig/index.ts';
import { makeCard } from '@/server/cards/actions.ts';
import type { Station } from '@/server/station/station.ts';
import { Field } from '@/ui/parts/Field.tsx';
import { Picker } from '@/ui/parts/Picker.tsx';
import { StepForm } from './StepForm.tsx';

export function CardStep({ station: { operators, rigs, microphones } }: { station: Station }) {
  const [[operator], [rig], [microphone]] = [operators, rigs, microphones];
  const draft = useDraft('welcome card', { name: 'Everyday', mode: rig.profile.modes[0], purpose: 'balanced' as Purpose });
  const { name, mode, purpose } = draft.value;
  return (
    <StepForm
      question="What is the first card for?"
      why={`A card holds every dial of ${rig.name} for ${operator.name} with ${microphone.name}, one mode and one purpose. It starts at factory values; on its page you copy in what your radio shows.`}
      draft={draft}
      isReady={name.trim() !== ''}
      save={() => makeCard({ name, operatorId: operator.id, rigId: rig.id, microphoneId: microphone.id, mode, purpose })}
    >
      <Field label="Name of the card" value={name} onChange={(text) => draft.set({ name: text })} maxLength={80} autoFocus />
      <Picker
        label="Mode"
        value={mode}
        choices={rig.profile.modes.map((id) => ({ id, text: MODE_LABELS[id] }))}
        onChange={(id) => draft.set({ mode: id as Mode })}
      />
      <Picker
        label="For"
        value={purpose}
        choices={PURPOSES.map((id) => ({ id, text: PURPOSE_LABELS[id] }))}
        onChange={(id) => draft.set({ purpose: id as Purpose })}
      />
    </StepForm>
  );
}
