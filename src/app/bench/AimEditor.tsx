'use client';
/** The aim's points for one purpose, to be bent to taste. */
import { useState, useTransition } from 'react';
import styled from 'styled-components';
import type { CurvePoint } from '@/core/formats/curve.ts';
import { PURPOSE_LABELS, type Purpose } from '@/core/station/card.ts';
import { BalanceChart } from '@/ui/charts/BalanceChart.tsx';
import { hertz } from '@/ui/format.ts';
import { Bar, Button } from '@/ui/parts/Button.tsx';
import { Dialog } from '@/ui/parts/Dialog.tsx';
import { Field } from '@/ui/parts/Field.tsx';
import { Notice } from '@/ui/parts/Notice.tsx';
import { neededNumber } from '@/ui/typedNumber.ts';
import { saveAim } from '../actions.ts';

const Points = styled.div`display: grid; grid-template-columns: repeat(6, 1fr); gap: 8px 10px; margin: 10px 0;`;

const LOWEST = -60;
const HIGHEST = 20;

export function AimEditor({ purpose, aim }: { purpose: Purpose; aim: readonly CurvePoint[] }) {
  const [isOpen, setIsOpen] = useState(false);
  const [texts, setTexts] = useState<readonly string[]>(aim.map(([, db]) => String(db).replace('-', '−')));
  const [message, setMessage] = useState<string | null>(null);
  const [isSaving, start] = useTransition();
  const levels = texts.map((text) => neededNumber(text, LOWEST, HIGHEST));
  const isGood = levels.every((level) => level !== null);
  const points = aim.map(([hz], i) => [hz, levels[i]] as const);
  const save = (next: [number, number][] | null) =>
    start(async () => {
      const answer = await saveAim({ purpose, points: next });
      if (answer.ok) setIsOpen(false);
      setMessage(answer.ok ? null : answer.message);
    });
  return (
    <>
      <Button onPress={() => setIsOpen(true)}>Edit the aim</Button>
      <Dialog title={`Aim for ${PURPOSE_LABELS[purpose]}`} isOpen={isOpen} onClose={() => setIsOpen(false)}>
        <p className="soft">Third-octave levels of the talk in dB; only the shape counts. All cards for this purpose share it.</p>
        <BalanceChart curves={[{ name: 'aim', role: 'aim', points }]} range={[-36, 6]} height={170} label="The aim as edited" />
        <Points>
          {aim.map(([hz], i) => (
            <Field
              key={hz}
              label={hertz(hz)}
              value={texts[i]}
              onChange={(text) => setTexts(texts.with(i, text))}
              error={levels[i] === null ? `${String(LOWEST).replace('-', '−')} to ${HIGHEST}` : undefined}
            />
          ))}
        </Points>
        <Bar>
          <Button primary isDisabled={!isGood || isSaving} onPress={() => save(points.map(([hz, db]) => [hz, db ?? 0]))}>
            Keep this aim
          </Button>
          <Button isDisabled={isSaving} onPress={() => save(null)}>
            Back to the built-in aim
          </Button>
        </Bar>
        {message && <Notice tone="fault">{message}</Notice>}
      </Dialog>
    </>
  );
}
