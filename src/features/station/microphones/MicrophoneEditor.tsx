'use client';
/** A microphone as a form, with the response that results drawn beside it. */
import { useRouter } from 'next/navigation';
import { useMemo, useState } from 'react';
import styled from 'styled-components';
import { useDraft } from '@/client/useDraft.ts';
import { useForm } from '@/client/useForm.ts';
import { parseCurve } from '@/core/files/index.ts';
import { type Microphone, type MicrophoneUse, OUTPUT_LEVELS, PATTERN_LABELS, PATTERNS, type Pattern, usualUse } from '@/core/rig/index.ts';
import { FormatError, type Problem } from '@/core/schema/index.ts';
import { saveMicrophone } from '@/server/station/actions.ts';
import { MicrophoneCurve } from '@/ui/dials/MicrophoneCurve.tsx';
import { UseOfMicrophone } from '@/ui/dials/UseOfMicrophone.tsx';
import { Bar, Button } from '@/ui/parts/Button.tsx';
import { DistanceField } from '@/ui/parts/DistanceField.tsx';
import { RefusalNotice, RestoredNotice } from '@/ui/parts/DraftNotice.tsx';
import { Field } from '@/ui/parts/Field.tsx';
import { Picker } from '@/ui/parts/Picker.tsx';
import { Problems } from '@/ui/parts/Problems.tsx';
import { Page, Shell } from '@/ui/shell/Shell.tsx';
import { CurveList, type CurveText } from './CurveList.tsx';

const Columns = styled.div`
  display: grid; grid-template-columns: minmax(0, 1fr) 480px; gap: 32px; align-items: start;
  @media (max-width: 1000px) { grid-template-columns: minmax(0, 1fr); }
  .fields { display: grid; grid-template-columns: 1fr 1fr; gap: 12px 16px; align-items: end; }
  .fields > * > button { width: 100%; }
  .side { position: sticky; top: 12px; }`;

const textOf = (list: Microphone['positions']): CurveText[] =>
  list.map(({ name, curve }) => ({ name, text: curve.map(([hz, db]) => `${hz} ${db}`).join('\n') }));

/** The form's fields: curves are kept as they are typed. */
const formOf = (mic: Microphone) => ({ mic, positions: textOf(mic.positions), accessories: textOf(mic.accessories) });
/** The profile that a form began with. */
const profileOf = ({ mic }: ReturnType<typeof formOf>): Microphone => mic;

/** Named curves as typed, with what is wrong with each. */
function parseAll(list: readonly CurveText[]): { curves: Microphone['positions']; problems: readonly (string | null)[] } {
  const read = list.map(({ name, text }, i) => {
    if (name.trim() === '') return 'It needs a name.';
    if (list.findIndex((each) => each.name.trim() === name.trim()) !== i) return 'Another one has this name.';
    try {
      return { name: name.trim(), curve: parseCurve(text).map(([hz, db]): [number, number] => [hz, db]) };
    } catch (error) {
      if (error instanceof FormatError) return error.message;
      throw error;
    }
  });
  return {
    curves: read.filter((each) => typeof each !== 'string'),
    problems: read.map((each) => (typeof each === 'string' ? each : null)),
  };
}

export function MicrophoneEditor({ id, start }: { id?: number; start: Microphone }) {
  const router = useRouter();
  const draft = useDraft(`microphone ${id ?? 'new'}`, formOf(start));
  const { mic, positions, accessories } = draft.value;
  const [use, setUse] = useState<MicrophoneUse>(usualUse(start));
  const [problems, setProblems] = useState<readonly Problem[]>([]);
  const read = useMemo(() => ({ positions: parseAll(positions), accessories: parseAll(accessories) }), [positions, accessories]);
  const whole = useMemo(() => ({ ...mic, positions: read.positions.curves, accessories: read.accessories.curves }), [mic, read]);
  const set = (change: Partial<Microphone>) => draft.set({ mic: { ...mic, ...change } });
  const isGood =
    [...read.positions.problems, ...read.accessories.problems].every((problem) => problem === null) &&
    mic.name.trim() !== '' &&
    mic.kind.trim() !== '';
  const { refusal, isSaving, submit, force } = useForm(
    draft,
    async (base) => {
      const answer = await saveMicrophone({
        ...(id === undefined ? {} : { id, ...(base && { base: JSON.stringify(profileOf(base)) }) }),
        text: JSON.stringify(tidied(whole)),
      });
      setProblems((!answer.ok && answer.problems) || []);
      return answer;
    },
    () => router.push('/station'),
  );
  return (
    <Shell>
      <Page>
        <h1>{id === undefined ? 'Describe a microphone' : start.name}</h1>
        <p className="soft">It decides most of the sound. Changing the mic, its switch or the distance makes every later number wrong.</p>
        <Columns>
          <div>
            <Facts mic={mic} isNew={id === undefined} set={set} onDistance={(distanceCm) => setUse({ ...use, distanceCm })} />
            <p className="soft" style={{ marginTop: 6 }}>
              5 to 10 cm for a boom or desk mic, about 5 cm for a headset is common; then keep it.
            </p>
            <CurveList
              title="Switch positions"
              add="Add a position"
              list={positions}
              problems={read.positions.problems}
              onChange={(list) => draft.set({ positions: list })}
            />
            <CurveList
              title="Accessories: what each adds"
              add="Add an accessory"
              list={accessories}
              problems={read.accessories.problems}
              onChange={(list) => draft.set({ accessories: list })}
            />
            <Field label="Note" value={mic.note ?? ''} onChange={(note) => set({ note: note || undefined })} maxLength={1000} />
          </div>
          <div className="side">
            <Bar style={{ marginTop: 0 }}>
              <Button primary isDisabled={!isGood} isPending={isSaving} onPress={submit}>
                {id === undefined ? 'Save microphone' : 'Save changes'}
              </Button>
              <Button
                onPress={() => {
                  draft.discard();
                  router.push('/station');
                }}
              >
                Cancel
              </Button>
            </Bar>
            <RestoredNotice at={draft.restoredAt} onDiscard={draft.discard} />
            {problems.length === 0 && <RefusalNotice refusal={refusal} onForce={force} />}
            {problems.length > 0 && <Problems problems={problems} />}
            <h2 style={{ marginTop: 14 }}>As it is used</h2>
            <MicrophoneCurve microphone={whole} use={use} />
            <UseOfMicrophone key={`${mic.distanceCm}`} microphone={whole} use={use} onChange={setUse} />
          </div>
        </Columns>
      </Page>
    </Shell>
  );
}

interface FactsProps {
  readonly mic: Microphone;
  readonly isNew: boolean;
  readonly set: (change: Partial<Microphone>) => void;
  readonly onDistance: (cm: number) => void;
}

function Facts({ mic, isNew, set, onDistance }: FactsProps) {
  return (
    <div className="fields">
      <Field label="Name" value={mic.name} onChange={(name) => set({ name })} maxLength={60} autoFocus={isNew} />
      <Field label="Kind, for example dynamic boom mic" value={mic.kind} onChange={(kind) => set({ kind })} maxLength={60} />
      <Picker
        label="Pattern"
        choices={(Object.keys(PATTERNS) as Pattern[]).map((each) => ({ id: each, text: PATTERN_LABELS[each] }))}
        value={mic.pattern}
        onChange={(pattern) => set({ pattern: pattern as Pattern })}
      />
      <Picker
        label="Output level"
        choices={OUTPUT_LEVELS.map((each) => ({ id: each, text: each }))}
        value={mic.level}
        onChange={(level) => set({ level: level as Microphone['level'] })}
      />
      <DistanceField
        label="Talking distance"
        cm={mic.distanceCm}
        rangeCm={[0.5, 200]}
        onChange={(distanceCm) => {
          set({ distanceCm });
          onDistance(distanceCm);
        }}
      />
      <DistanceField
        label="Curves taken at (0: far away)"
        cm={mic.curveDistanceCm ?? 0}
        rangeCm={[0, 200]}
        onChange={(cm) => set({ curveDistanceCm: cm >= 0.5 ? cm : undefined })}
      />
    </div>
  );
}

const tidied = ({ curveDistanceCm, note, ...mic }: Microphone): Microphone => ({
  ...mic,
  name: mic.name.trim(),
  kind: mic.kind.trim(),
  ...(curveDistanceCm === undefined ? {} : { curveDistanceCm }),
  ...(note ? { note } : {}),
});
