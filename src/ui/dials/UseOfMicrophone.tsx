'use client';
/** How the microphone is used on a card: switch position, what is fitted, distance. */
import styled from 'styled-components';
import type { Microphone, MicrophoneUse } from '@/core/rig/index.ts';
import { proximityDb } from '@/core/simulate/index.ts';
import { useDistance } from '../distance.ts';
import { Check } from '../parts/Check.tsx';
import { DistanceField } from '../parts/DistanceField.tsx';
import { Picker } from '../parts/Picker.tsx';

const Row = styled.div`display: flex; gap: 12px 22px; align-items: end; flex-wrap: wrap;`;

const RANGE_CM = [0.5, 200] as const;

export function UseOfMicrophone({
  microphone,
  use,
  onChange,
}: {
  microphone: Microphone;
  use: MicrophoneUse;
  onChange: (use: MicrophoneUse) => void;
}) {
  const distance = useDistance();
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
        <DistanceField
          label="Talking distance"
          cm={use.distanceCm}
          rangeCm={RANGE_CM}
          onChange={(distanceCm) => onChange({ ...use, distanceCm })}
        />
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
          ? `At ${distance.text(use.distanceCm)} this ${microphone.pattern} capsule lifts 200 Hz by ${bass.toFixed(1)} dB against far away (proximity effect of a point source on the axis)${
              microphone.curveDistanceCm === undefined
                ? ''
                : `; its curve, taken at ${distance.text(microphone.curveDistanceCm)}, has its share of that in it`
            }. Keep the distance.`
          : 'No noticeable proximity effect. Keep the distance anyway: it sets the level.'}
      </p>
    </>
  );
}
