'use client';
/** Which microphone: what is known of it, and no more. */
import { useDraft } from '@/client/useDraft.ts';
import { type Microphone, OUTPUT_LEVELS, PATTERN_LABELS, PATTERNS, type Pattern } from '@/core/rig/index.ts';
import { saveMicrophone } from '@/server/station/actions.ts';
import { DistanceField } from '@/ui/parts/DistanceField.tsx';
import { Field } from '@/ui/parts/Field.tsx';
import { Picker } from '@/ui/parts/Picker.tsx';
import { StepForm } from './StepForm.tsx';

const START = { name: '', kind: 'hand mic', pattern: 'cardioid' as Pattern, level: 'medium' as Microphone['level'], distanceCm: 5 };

export function MicrophoneStep() {
  const draft = useDraft('welcome microphone', START);
  const { name, kind, ...rest } = draft.value;
  const profile: Microphone = {
    format: 'dialtune-microphone',
    version: 1,
    name: name.trim(),
    kind: kind.trim(),
    ...rest,
    positions: [],
    accessories: [],
  };
  return (
    <StepForm
      question="Which microphone?"
      why="It decides most of the sound. Its response curve can be added later, from its data sheet or a test sweep."
      draft={draft}
      isReady={name.trim() !== '' && kind.trim() !== ''}
      save={() => saveMicrophone({ text: JSON.stringify(profile) })}
    >
      <Field label="Name" value={name} onChange={(text) => draft.set({ name: text })} maxLength={60} autoFocus />
      <Field label="Kind, for example dynamic boom mic" value={kind} onChange={(text) => draft.set({ kind: text })} maxLength={60} />
      <Picker
        label="Pattern"
        value={rest.pattern}
        choices={(Object.keys(PATTERNS) as Pattern[]).map((id) => ({ id, text: PATTERN_LABELS[id] }))}
        onChange={(id) => draft.set({ pattern: id as Pattern })}
      />
      <Picker
        label="Output level"
        value={rest.level}
        choices={OUTPUT_LEVELS.map((id) => ({ id, text: id }))}
        onChange={(id) => draft.set({ level: id as Microphone['level'] })}
      />
      <DistanceField
        label="Talking distance"
        cm={rest.distanceCm}
        rangeCm={[0.5, 200]}
        onChange={(distanceCm) => draft.set({ distanceCm })}
      />
    </StepForm>
  );
}
