'use client';
/** A rig profile as a form: modes, dials, equalizer, passbands, ALC; what is wrong and what results stand beside it. */
import { useRouter } from 'next/navigation';
import { useMemo, useReducer, useState } from 'react';
import styled from 'styled-components';
import { useKeptDraft } from '@/client/useDraft.ts';
import { useForm } from '@/client/useForm.ts';
import { MODE_LABELS, MODES, problemsOfRig, type RigProfile } from '@/core/rig/index.ts';
import { saveRig } from '@/server/station/actions.ts';
import { Bar, Button } from '@/ui/parts/Button.tsx';
import { Check } from '@/ui/parts/Check.tsx';
import { RefusalNotice, RestoredNotice } from '@/ui/parts/DraftNotice.tsx';
import { Field } from '@/ui/parts/Field.tsx';
import { Notice } from '@/ui/parts/Notice.tsx';
import { Problems } from '@/ui/parts/Problems.tsx';
import { Page, Shell } from '@/ui/shell/Shell.tsx';
import { AlcEditor } from './AlcEditor.tsx';
import { DialsEditor } from './DialsEditor.tsx';
import { EqualizerEditor } from './EqualizerEditor.tsx';
import { PassbandEditor } from './PassbandEditor.tsx';
import { RigPreview } from './RigPreview.tsx';
import { rigReducer } from './rigDraft.ts';

const Columns = styled.div`
  display: grid; grid-template-columns: minmax(0, 1fr) 340px; gap: 28px; align-items: start;
  @media (max-width: 1000px) { grid-template-columns: minmax(0, 1fr); }
  section { margin-top: 14px; }
  .side { position: sticky; top: 10px; max-height: calc(100vh - 20px); overflow: auto; }`;
const Row = styled.div`display: flex; gap: 12px 20px; align-items: end; flex-wrap: wrap; .wide { width: 280px; } .narrow { width: 130px; }`;

export function RigEditor({ id, start }: { id?: number; start: RigProfile }) {
  const router = useRouter();
  const [{ profile, past }, act] = useReducer(rigReducer, { profile: start, past: [] });
  const problems = useMemo(() => problemsOfRig(profile), [profile]);
  const [base, setBase] = useState(start);
  const [moved, setMoved] = useState<readonly string[] | null>(null);
  const set = (change: Partial<RigProfile>) => act({ kind: 'set', change });
  const { restoredAt, forget } = useKeptDraft(`rig ${id ?? `new ${start.name}`}`, profile, base, (kept, keptBase) => {
    act({ kind: 'replace', profile: kept });
    setBase(keptBase);
  });
  const startOver = () => {
    forget();
    act({ kind: 'replace', profile: start });
    setBase(start);
  };
  const saved = () => {
    forget();
    setBase(profile);
  };
  const { refusal, isSaving, submit, force } = useForm(
    { base, saved },
    (from) => saveRig({ ...(id === undefined ? {} : { id, ...(from && { base: JSON.stringify(from) }) }), text: JSON.stringify(profile) }),
    ({ movedCards }) => {
      if (movedCards.length > 0) setMoved(movedCards);
      else router.push('/station');
    },
  );
  return (
    <Shell>
      <Page>
        <h1>{id === undefined ? `New radio: ${profile.name}` : profile.name}</h1>
        <Columns>
          <div>
            <Row>
              <div className="wide">
                <Field label="Name" value={profile.name} onChange={(name) => set({ name })} maxLength={60} />
              </div>
              {MODES.map((mode) => (
                <Check
                  key={mode}
                  isSelected={profile.modes.includes(mode)}
                  onChange={(isOn) => set({ modes: MODES.filter((each) => (each === mode ? isOn : profile.modes.includes(each))) })}
                >
                  {MODE_LABELS[mode]}
                </Check>
              ))}
              <div className="narrow">
                <Field
                  label="Voice memories"
                  value={String(profile.voiceMemories ?? 0)}
                  onChange={(text) => /^\d{0,2}$/.test(text) && set({ voiceMemories: Number(text) })}
                  inputMode="numeric"
                />
              </div>
            </Row>
            <DialsEditor profile={profile} problems={problems} act={act} />
            <EqualizerEditor profile={profile} act={act} />
            <PassbandEditor profile={profile} set={set} />
            <AlcEditor profile={profile} set={set} />
            <section>
              <Field label="Note" value={profile.note ?? ''} onChange={(note) => set({ note: note || undefined })} maxLength={2000} />
            </section>
          </div>
          <div className="side">
            <Bar style={{ marginTop: 0 }}>
              <Button primary isPending={isSaving} isDisabled={problems.length > 0} onPress={submit}>
                {id === undefined ? 'Save radio' : 'Save changes'}
              </Button>
              <Button isDisabled={past.length === 0} onPress={() => act({ kind: 'undo' })}>
                Undo
              </Button>
              <Button
                onPress={() => {
                  startOver();
                  router.push('/station');
                }}
              >
                Cancel
              </Button>
            </Bar>
            <RestoredNotice at={restoredAt} onDiscard={startOver} />
            <RefusalNotice refusal={refusal} onForce={force} />
            {moved && (
              <Notice>
                Saved. These cards held numbers that the dials no longer have; each got a revision with the nearest ones: {moved.join(', ')}
                .
              </Notice>
            )}
            {problems.length > 0 ? <Problems problems={problems} /> : <RigPreview profile={profile} />}
          </div>
        </Columns>
      </Page>
    </Shell>
  );
}
