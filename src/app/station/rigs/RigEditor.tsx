'use client';
/** A rig profile as a form: modes, dials, equalizer, passbands, ALC; what is wrong and what results stand beside it. */
import { useRouter } from 'next/navigation';
import { useMemo, useReducer, useState, useTransition } from 'react';
import styled from 'styled-components';
import { MODE_LABELS } from '@/core/station/card.ts';
import { MODES, type RigProfile } from '@/core/station/rig.ts';
import { problemsOfRig } from '@/core/station/validate.ts';
import { Bar, Button, ButtonLink } from '@/ui/parts/Button.tsx';
import { Check } from '@/ui/parts/Check.tsx';
import { Field } from '@/ui/parts/Field.tsx';
import { Notice } from '@/ui/parts/Notice.tsx';
import { Problems } from '@/ui/parts/Problems.tsx';
import { saveRig } from '../../actions.ts';
import { Page, Shell } from '../../shell/Shell.tsx';
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
  const [base, setBase] = useState(() => JSON.stringify(start));
  const [message, setMessage] = useState<string | null>(null);
  const [moved, setMoved] = useState<readonly string[] | null>(null);
  const [isSaving, run] = useTransition();
  const set = (change: Partial<RigProfile>) => act({ kind: 'set', change });
  const save = () =>
    run(async () => {
      const answer = await saveRig({
        ...(id === undefined ? {} : { id, base }),
        text: JSON.stringify(profile),
      }).catch(() => ({
        ok: false as const,
        message: 'The server did not answer. Nothing was saved; please try again.',
      }));
      setMessage(answer.ok ? null : answer.message);
      if (!answer.ok) return;
      setBase(JSON.stringify(profile));
      if (answer.value.movedCards.length > 0) setMoved(answer.value.movedCards);
      else router.push('/station');
    });
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
              <Button primary isDisabled={isSaving || problems.length > 0} onPress={save}>
                {id === undefined ? 'Keep this radio' : 'Keep the changes'}
              </Button>
              <Button isDisabled={past.length === 0} onPress={() => act({ kind: 'undo' })}>
                Undo
              </Button>
              <ButtonLink href="/station">Leave it</ButtonLink>
            </Bar>
            {message && <Notice tone="fault">{message}</Notice>}
            {moved && (
              <Notice>
                Kept. These cards held numbers that the dials no longer have; each got a revision with the nearest ones: {moved.join(', ')}.
              </Notice>
            )}
            {problems.length > 0 ? <Problems problems={problems} /> : <RigPreview profile={profile} />}
          </div>
        </Columns>
      </Page>
    </Shell>
  );
}
