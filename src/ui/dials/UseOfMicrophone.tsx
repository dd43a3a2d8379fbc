'use client';
/** How the microphone is used on a card: switch position, what is fitted, distance. */
import { useState } from 'react';
import styled from 'styled-components';
import type { Microphone, MicrophoneUse } from '@/core/rig/index.ts';
import { proximityDb } from '@/core/simulate/index.ts';
import { neededNumber } from '@/core/units/index.ts';
import { Check } from '../parts/Check.tsx';
import { Field } from '../parts/Field.tsx';
import { Picker } from '../parts/Picker.tsx';

const Row = styled.div`display: flex; gap: 12px 22px; align-items: end; flex-wrap: wrap; .narrow { width: 150px; }`;

/** A distance as typed; null when it is none. */
export const parseCentimetres = (text: string): number | null => neededNumber(text.replace(/\s*cm\s*$/, ''), 0.5, 200);

export function UseOfMicrophone({
  microphone,
  use,
  onChange,
}: {
  microphone: Microphone;
  use: MicrophoneUse;
  onChange: (use: MicrophoneUse) => void;
}) {
  const [text, setText] = useState(String(use.distanceCm));
  const cm = parseCentimetres(text);
  const bass = proximityDb(microphone.pattern, use.distanceCm, 200);
  return (
    <>
      <Row>
        {microphone.positions.length > 0 && (
          <Picker
            label="Switch"
            choices={microphone.positions.map(({ name }) => ({ id: name, text: name }))}
            value={use.position}
            onChange={(position) => onChange({ ...use, position })}
          />
        )}
        <div className="narrow">
          <Field
            label="Talking distance, cm"
            value={text}
            onChange={(words) => {
              setText(words);
              const parsed = parseCentimetres(words);
              if (parsed !== null) onChange({ ...use, distanceCm: parsed });
            }}
            error={cm === null ? '0.5 to 200 cm.' : undefined}
          />
        </div>
        {microphone.accessories.map(({ name }) => (
          <Check
            key={name}
            isSelected={use.accessories.includes(name)}
            onChange={(isOn) =>
              onChange({ ...use, accessories: isOn ? [...use.accessories, name] : use.accessories.filter((each) => each !== name) })
            }
          >
            {name}
          </Check>
        ))}
      </Row>
      <p className="soft" style={{ marginTop: 6 }}>
        {bass > 0.5
          ? `At ${use.distanceCm} cm this ${microphone.pattern} capsule lifts 200 Hz by ${bass.toFixed(1)} dB against far away (proximity effect of a point source on the axis)${
              microphone.curveDistanceCm === undefined
                ? ''
                : `; its curve, taken at ${microphone.curveDistanceCm} cm, has its share of that in it`
            }. Keep the distance.`
          : 'No proximity effect to speak of. Keep the distance all the same: it sets the level.'}
      </p>
    </>
  );
}
