'use client';
/** Which radio: from a profile somebody has made, or from the closest kind. */
import { useState } from 'react';
import { FileTrigger } from 'react-aria-components';
import { asked } from '@/client/asked.ts';
import { useDraft } from '@/client/useDraft.ts';
import { MOST_BANDS, SHAPE_LABELS, SHAPES, type Shape, startRig } from '@/core/rig/index.ts';
import { neededNumber } from '@/core/units/index.ts';
import { saveRig } from '@/server/station/actions.ts';
import { Bar, Button } from '@/ui/parts/Button.tsx';
import { Check } from '@/ui/parts/Check.tsx';
import { Field } from '@/ui/parts/Field.tsx';
import { Notice } from '@/ui/parts/Notice.tsx';
import { Picker } from '@/ui/parts/Picker.tsx';
import { StepForm } from './StepForm.tsx';

const MOST_BYTES = 1_000_000;

export function RadioStep() {
  const draft = useDraft('welcome radio', { name: '', shape: 'parametric' as Shape, bands: '3', hasTwoBanks: false });
  const { name, shape, bands, hasTwoBanks } = draft.value;
  const most = shape === 'graphic' ? MOST_BANDS.graphic : MOST_BANDS.parametric;
  const hasBands = shape === 'parametric' || shape === 'graphic';
  const count = hasBands ? neededNumber(bands, 1, most) : 1;
  const isCount = count !== null && Number.isInteger(count);
  return (
    <>
      <StepForm
        question="Which radio?"
        why="Start from the closest kind: mic gain, processor, filter and equalizer with usual ranges. On the Station page you correct every dial, range and menu address from the manual."
        draft={draft}
        isReady={name.trim() !== '' && isCount}
        save={() => saveRig({ text: JSON.stringify(startRig({ shape, name: name.trim(), bands: count ?? 1, hasTwoBanks })) })}
      >
        <Field label="What you call the radio" value={name} onChange={(text) => draft.set({ name: text })} maxLength={60} autoFocus />
        <Picker
          label="Its equalizer for the transmitted voice"
          value={shape}
          choices={SHAPES.map((id) => ({ id, ...SHAPE_LABELS[id] }))}
          onChange={(id) => draft.set({ shape: id as Shape, bands: id === 'graphic' ? '8' : '3' })}
        />
        {hasBands && (
          <Field
            label={shape === 'graphic' ? 'How many sliders' : 'How many bands in a bank'}
            value={bands}
            onChange={(text) => draft.set({ bands: text })}
            inputMode="numeric"
            error={isCount ? undefined : `1 to ${most}.`}
          />
        )}
        {shape === 'parametric' && (
          <Check isSelected={hasTwoBanks} onChange={(isOn) => draft.set({ hasTwoBanks: isOn })}>
            two banks: one for the processor off, one for on
          </Check>
        )}
      </StepForm>
      <FromFile />
    </>
  );
}

function FromFile() {
  const [message, setMessage] = useState<string | null>(null);
  const read = async (file: File | undefined) => {
    if (!file) return;
    if (file.size > MOST_BYTES) return setMessage('The file is too large for a radio.');
    const answer = await asked(saveRig({ text: await file.text() }));
    setMessage(answer.ok ? null : answer.message);
  };
  return (
    <div style={{ maxWidth: 560, marginTop: 22 }}>
      <p className="soft">Or take a radio that somebody has described already:</p>
      <Bar>
        <FileTrigger acceptedFileTypes={['.json']} onSelect={(files) => void read(files?.[0])}>
          <Button>Import a rig profile</Button>
        </FileTrigger>
      </Bar>
      {message && <Notice tone="fault">{message}</Notice>}
    </div>
  );
}
