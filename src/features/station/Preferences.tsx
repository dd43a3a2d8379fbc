'use client';
/** What this browser is used by: who sits at the dials, and the unit of distances. */
import { useState, useTransition } from 'react';
import { asked } from '@/client/asked.ts';
import { DISTANCE_UNIT_LABELS, DISTANCE_UNITS, type DistanceUnit } from '@/core/units/index.ts';
import type { Answer } from '@/server/requests/answer.ts';
import { chooseDistance, chooseWho } from '@/server/station/actions.ts';
import type { OperatorView } from '@/server/station/station.ts';
import { useDistance } from '@/ui/distance.ts';
import { Notice } from '@/ui/parts/Notice.tsx';
import { Picker } from '@/ui/parts/Picker.tsx';

export function Preferences({ operators, who }: { operators: readonly OperatorView[]; who: string }) {
  const { unit } = useDistance();
  const [message, setMessage] = useState<string | null>(null);
  const [, start] = useTransition();
  const send = (choice: Promise<Answer<unknown>>) =>
    start(async () => {
      const answer = await asked(choice);
      setMessage(answer.ok ? null : answer.message);
    });
  return (
    <>
      <Picker
        label="Operator (noted with every revision)"
        choices={[
          { id: '', text: "the card's operator" },
          ...operators.map(({ name, callsign }) => ({ id: name, text: name, note: callsign })),
        ]}
        value={operators.some(({ name }) => name === who) ? who : ''}
        onChange={(by) => send(chooseWho({ by }))}
      />
      <Picker
        label="Talking distances in"
        choices={DISTANCE_UNITS.map((id) => ({ id, text: DISTANCE_UNIT_LABELS[id] }))}
        value={unit}
        onChange={(id) => send(chooseDistance({ unit: id as DistanceUnit }))}
      />
      {message && <Notice tone="fault">{message}</Notice>}
    </>
  );
}
