'use client';
/** The microphone of a card: how it is used, and what that does to the voice. */
import Link from 'next/link';
import { useState } from 'react';
import { elsewhereOf, modelVoiceOf } from '@/client/useJudged.ts';
import { useSave } from '@/client/useSave.ts';
import { isSameUse, type MicrophoneUse } from '@/core/rig/index.ts';
import type { BenchView } from '@/server/bench/bench.ts';
import { MicrophoneCurve } from '@/ui/dials/MicrophoneCurve.tsx';
import { UseOfMicrophone } from '@/ui/dials/UseOfMicrophone.tsx';
import { Bar, Button } from '@/ui/parts/Button.tsx';
import { SaveNotice } from '@/ui/shell/SaveNotice.tsx';
import { ModelPanel } from './model/ModelPanel.tsx';
import { SoundQuestion } from './model/SoundQuestion.tsx';

export function MicStage({ bench }: { bench: BenchView }) {
  const { card } = bench;
  const voice = modelVoiceOf(bench);
  const { profile, id } = card.microphone;
  const [newest] = card.revisions;
  const [use, setUse] = useState<MicrophoneUse>(newest.use);
  const { save, isSaving, refusal, forget } = useSave({ card, over: null });
  const isChanged = !isSameUse(use, newest.use);
  const now = { mode: card.mode, values: newest.values };
  const elsewhere = elsewhereOf(bench, card);
  return (
    <>
      <h1>Mic</h1>
      <p className="soft">
        <Link href={`/station/microphones/${id}`}>{profile.name}</Link>, {profile.kind}. Its curve is what its maker or somebody's
        measurement says; it is not measured here.
      </p>
      {profile.positions.length === 0 && <p>Its response curve is unknown; only the talking distance is used.</p>}
      <MicrophoneCurve microphone={profile} use={use} height={250} />
      <UseOfMicrophone microphone={profile} use={use} onChange={setUse} />
      <Bar>
        <Button primary isDisabled={!isChanged || isSaving} onPress={() => save({ values: {}, reason: 'microphone used otherwise', use })}>
          {isChanged ? 'Put on the card' : 'No unsaved changes'}
        </Button>
        {isChanged && (
          <span className="soft">Changing the switch or the distance makes every later number stale, recordings included.</span>
        )}
      </Bar>
      <SaveNotice refusal={refusal} forget={forget} />
      <ModelPanel
        stage="mic"
        rig={card.rig.profile}
        voice={voice}
        elsewhere={elsewhere}
        now={now}
        wanted={now}
        wantedUse={isChanged ? use : undefined}
      />
      {voice && <SoundQuestion voice={voice} card={now} target={bench.target} elsewhere={elsewhere} microphoneId={id} />}
    </>
  );
}
