'use client';
/** The target's points for one purpose, to be bent to taste. */
import { useState } from 'react';
import styled from 'styled-components';
import { useDraft } from '@/client/useDraft.ts';
import { useForm } from '@/client/useForm.ts';
import type { CurvePoint } from '@/core/curve/index.ts';
import { PURPOSE_LABELS, type Purpose } from '@/core/rig/index.ts';
import { frequency, neededNumber, withMinus } from '@/core/units/index.ts';
import { saveTarget } from '@/server/cards/actions.ts';
import { BalanceChart } from '@/ui/charts/BalanceChart.tsx';
import { Button } from '@/ui/parts/Button.tsx';
import { RefusalNotice } from '@/ui/parts/DraftNotice.tsx';
import { Field } from '@/ui/parts/Field.tsx';
import { EditSheet } from '@/ui/shell/EditSheet.tsx';

const Points = styled.div`display: grid; grid-template-columns: repeat(6, 1fr); gap: 8px 10px;`;

const LOWEST = -60;
const HIGHEST = 20;
const levelTyped = (text: string): number | null => neededNumber(text, LOWEST, HIGHEST);

export function TargetEditor({ purpose, target }: { purpose: Purpose; target: readonly CurvePoint[] }) {
  const [isOpen, setIsOpen] = useState(false);
  const draft = useDraft(`target ${purpose}`, { texts: target.map(([, db]) => withMinus(db)) });
  const { texts } = draft.value;
  const levels = texts.map(levelTyped);
  const isGood = texts.length === target.length && levels.every((level) => level !== null);
  const points = target.map(([hz], i) => [hz, levels[i] ?? null] as const);
  const pointsOf = (from: { texts: readonly string[] } | undefined): [number, number][] | undefined =>
    from && target.map(([hz], i): [number, number] => [hz, levelTyped(from.texts[i] ?? '') ?? 0]);
  const send = (wanted: [number, number][] | null) => (from: { texts: string[] } | undefined) => {
    const base = pointsOf(from);
    return saveTarget({ purpose, points: wanted, ...(base && { base }) });
  };
  const close = () => setIsOpen(false);
  const builtIn = useForm(draft, send(null), close);
  return (
    <>
      <Button onPress={() => setIsOpen(true)}>Edit the target</Button>
      {isOpen && (
        <EditSheet
          title={`Target for ${PURPOSE_LABELS[purpose]}`}
          draft={draft}
          isReady={isGood}
          save={send(points.map(([hz, db]) => [hz, db ?? 0]))}
          saveWords="Save target"
          beside={
            <Button isPending={builtIn.isSaving} onPress={builtIn.submit}>
              Back to the built-in target
            </Button>
          }
          onClose={close}
        >
          <p className="soft">Third-octave levels of speech in dB; only the shape counts. All cards for this purpose share it.</p>
          <BalanceChart curves={[{ name: 'target', role: 'target', points }]} range={[-36, 6]} height={170} label="The target as edited" />
          <PointFields target={target} texts={texts} onChange={(next) => draft.set({ texts: next })} />
          <RefusalNotice refusal={builtIn.refusal} onForce={builtIn.force} />
        </EditSheet>
      )}
    </>
  );
}

interface PointFieldsProps {
  readonly target: readonly CurvePoint[];
  readonly texts: string[];
  readonly onChange: (texts: string[]) => void;
}

function PointFields({ target, texts, onChange }: PointFieldsProps) {
  return (
    <Points>
      {target.map(([hz], i) => (
        <Field
          key={hz}
          label={frequency(hz)}
          value={texts[i]}
          onChange={(text) => onChange(texts.with(i, text))}
          error={levelTyped(texts[i] ?? '') === null ? `${withMinus(LOWEST)} to ${HIGHEST}` : undefined}
        />
      ))}
    </Points>
  );
}
