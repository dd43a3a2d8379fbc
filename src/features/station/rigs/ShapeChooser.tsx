'use client';
/** The first question about a radio: what kind of equalizer it has. */
import { useState } from 'react';
import { Label, Radio, RadioGroup } from 'react-aria-components';
import styled from 'styled-components';
import { MOST_BANDS, type RigProfile, SHAPE_LABELS, SHAPES, type Shape, startRig } from '@/core/rig/index.ts';
import { Bar, Button, ButtonLink } from '@/ui/parts/Button.tsx';
import { Check } from '@/ui/parts/Check.tsx';
import { Field } from '@/ui/parts/Field.tsx';
import { Page, Shell } from '@/ui/shell/Shell.tsx';
import { RigEditor } from './RigEditor.tsx';

const Choices = styled(RadioGroup)`
  display: grid; gap: 8px; margin: 12px 0; max-width: 560px;
  .choice { border: 1px solid var(--line); border-radius: 4px; padding: 9px 14px; background: var(--sheet); cursor: pointer; display: block; }
  .choice[data-selected] { border-color: var(--signal); box-shadow: inset 4px 0 0 var(--signal); font-weight: 700; }
  .choice[data-focus-visible] { outline: 3px solid var(--signal); outline-offset: 2px; }
  small { display: block; color: var(--soft); font-size: 13.5px; font-weight: 400; }`;
const Fields = styled.div`display: grid; gap: 12px; max-width: 440px;`;

export function ShapeChooser() {
  const [shape, setShape] = useState<Shape>('parametric');
  const [name, setName] = useState('');
  const [bands, setBands] = useState('3');
  const [hasTwoBanks, setHasTwoBanks] = useState(true);
  const [start, setStart] = useState<RigProfile | null>(null);
  if (start) return <RigEditor start={start} />;
  const hasBands = shape === 'parametric' || shape === 'graphic';
  const most = shape === 'graphic' ? MOST_BANDS.graphic : MOST_BANDS.parametric;
  const count = Number(bands);
  const isCount = Number.isInteger(count) && count >= 1 && count <= most;
  return (
    <Shell>
      <Page>
        <h1>Describe a radio</h1>
        <p className="soft">Start from the closest kind. Then correct every dial, number and address from the manual's table.</p>
        <form
          onSubmit={(event) => {
            event.preventDefault();
            if (name.trim() !== '' && (isCount || !hasBands)) setStart(startRig({ shape, name: name.trim(), bands: count, hasTwoBanks }));
          }}
        >
          <Fields>
            <Field label="What you call the radio" value={name} onChange={setName} maxLength={60} autoFocus />
          </Fields>
          <Choices
            value={shape}
            onChange={(value) => {
              setShape(value as Shape);
              setBands(value === 'graphic' ? '8' : '3');
            }}
          >
            <Label>Its equalizer for the transmitted voice</Label>
            {SHAPES.map((each) => (
              <Radio key={each} value={each} className="choice">
                {SHAPE_LABELS[each].text}
                <small>{SHAPE_LABELS[each].note}</small>
              </Radio>
            ))}
          </Choices>
          <Fields>
            {hasBands && (
              <Field
                label={shape === 'graphic' ? 'How many sliders' : 'How many bands in a bank'}
                value={bands}
                onChange={setBands}
                inputMode="numeric"
                error={isCount ? undefined : `1 to ${most}.`}
              />
            )}
            {shape === 'parametric' && (
              <Check isSelected={hasTwoBanks} onChange={setHasTwoBanks}>
                two banks: one for the processor off, one for on
              </Check>
            )}
          </Fields>
          <Bar>
            <Button primary type="submit" isDisabled={name.trim() === '' || (hasBands && !isCount)}>
              Start
            </Button>
            <ButtonLink href="/station">Cancel</ButtonLink>
          </Bar>
        </form>
      </Page>
    </Shell>
  );
}
