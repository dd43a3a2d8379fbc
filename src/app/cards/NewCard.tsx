'use client';
/** The sheet for a new card: whose, on what, for what, and which numbers it begins with. */
import { useRouter } from 'next/navigation';
import { useEffect, useState, useTransition } from 'react';
import styled from 'styled-components';
import { SCHOOL_RULES, type School, type StartingCard, schoolsFor } from '@/core/advice/startingCard.ts';
import { MODE_LABELS, PURPOSE_LABELS, PURPOSES, type Purpose } from '@/core/station/card.ts';
import type { Mode } from '@/core/station/rig.ts';
import type { Station } from '@/server/station/station.ts';
import { Bar, Button, ButtonLink } from '@/ui/parts/Button.tsx';
import { Dialog } from '@/ui/parts/Dialog.tsx';
import { Field } from '@/ui/parts/Field.tsx';
import { Notice } from '@/ui/parts/Notice.tsx';
import { Picker } from '@/ui/parts/Picker.tsx';
import { coreWork } from '@/workers/coreWork.ts';
import { makeCard } from '../actions.ts';
import type { CardDraft } from './cardDraft.ts';

const Grid = styled.div`display: grid; grid-template-columns: 1fr 1fr; gap: 12px 16px; margin: 12px 0; button { width: 100%; } .wide { grid-column: 1 / -1; display: grid; }`;

const asChoices = (rows: readonly { id: number; name: string }[]) => rows.map(({ id, name }) => ({ id: String(id), text: name }));
const FACTORY = 'factory';

export function NewCard({ station, draft, onClose }: { station: Station; draft: CardDraft; onClose: () => void }) {
  const { operators, rigs, microphones } = station;
  const router = useRouter();
  const [name, setName] = useState(draft.name ?? '');
  const [operator, setOperator] = useState(String(draft.operatorId ?? operators[0]?.id ?? ''));
  const [rigId, setRigId] = useState(String(draft.rigId ?? rigs[0]?.id ?? ''));
  const [microphone, setMicrophone] = useState(String(draft.microphoneId ?? microphones[0]?.id ?? ''));
  const [purpose, setPurpose] = useState<Purpose>(draft.purpose ?? 'balanced');
  const [start, setStart] = useState<string>(FACTORY);
  const rig = rigs.find(({ id }) => String(id) === rigId);
  const [wantedMode, setMode] = useState<Mode | null>(draft.mode ?? null);
  const mode = wantedMode && rig?.profile.modes.includes(wantedMode) ? wantedMode : rig?.profile.modes[0];
  const begun = useStart(draft.values ? FACTORY : start, rig?.profile, mode);
  const [message, setMessage] = useState<string | null>(null);
  const [isSaving, run] = useTransition();
  const lacks = [
    ['an operator', operators],
    ['a rig', rigs],
    ['a microphone', microphones],
  ].filter(([, rows]) => rows.length === 0);
  if (lacks.length > 0 || !mode) {
    return (
      <Dialog title="New card" isOpen onClose={onClose}>
        <p>
          {lacks.length > 0
            ? `A card needs ${lacks.map(([what]) => what).join(' and ')} first.`
            : 'The rig of these numbers is retired. Take it out again on the Station page first.'}
        </p>
        <Bar>
          <ButtonLink $primary href="/station">
            Describe the station
          </ButtonLink>
        </Bar>
      </Dialog>
    );
  }
  const rule = start === FACTORY ? null : SCHOOL_RULES[start as School];
  const values = draft.values ?? begun?.values;
  const reason = draft.reason ?? (rule ? `starting point: ${rule.text.toLowerCase()}` : undefined);
  const isUsable = String(draft.microphoneId ?? '') === microphone;
  const save = () =>
    run(async () => {
      const answer = await makeCard({
        name,
        operatorId: Number(operator),
        rigId: Number(rigId),
        microphoneId: Number(microphone),
        mode,
        purpose,
        ...(values ? { values: { ...values } } : {}),
        ...(draft.use && isUsable ? { use: draft.use } : {}),
        ...(reason ? { reason } : {}),
      }).catch(() => ({ ok: false as const, message: 'The server did not answer. Nothing was saved; please try again.' }));
      if (answer.ok) router.push(`/cards/${answer.value}`);
      else setMessage(answer.message);
    });
  return (
    <Dialog title={draft.values ? 'New card with these numbers' : 'New card'} isOpen onClose={onClose}>
      <Field label="Name, for example Evening net" value={name} onChange={setName} maxLength={80} autoFocus />
      <Grid>
        <Picker label="Operator" choices={asChoices(operators)} value={operator} onChange={setOperator} />
        <Picker label="Microphone" choices={asChoices(microphones)} value={microphone} onChange={setMicrophone} />
        {draft.values ? (
          <span style={{ alignSelf: 'end' }}>
            On {rig?.name}; {draft.reason}
          </span>
        ) : (
          <Picker label="Rig" choices={asChoices(rigs)} value={rigId} onChange={setRigId} />
        )}
        <Picker
          label="Mode"
          choices={(rig?.profile.modes ?? []).map((id) => ({ id, text: MODE_LABELS[id] }))}
          value={mode}
          onChange={(id) => setMode(id as Mode)}
        />
        <Picker
          label="For"
          choices={PURPOSES.map((id) => ({ id, text: PURPOSE_LABELS[id] }))}
          value={purpose}
          onChange={(id) => setPurpose(id as Purpose)}
        />
        {!draft.values && (
          <Picker
            label="Begin with"
            choices={[
              { id: FACTORY, text: 'factory values', note: 'then copy in what your radio shows' },
              ...schoolsFor(purpose).map((id) => ({ id, text: SCHOOL_RULES[id].text, note: SCHOOL_RULES[id].note })),
            ]}
            value={start}
            onChange={setStart}
          />
        )}
      </Grid>
      {rule && (
        <p className="soft">
          A starting point of common practice on this rig's own scales, nothing measured: {rule.note}. {begun?.notes.join(' ')}
        </p>
      )}
      {message && <Notice tone="fault">{message}</Notice>}
      <Bar>
        <Button primary isDisabled={isSaving || name.trim() === '' || (rule !== null && !begun)} onPress={save}>
          Make the card
        </Button>
        <Button onPress={onClose}>Leave it</Button>
        {rule && !begun && <span className="soft">Working out the dials ...</span>}
      </Bar>
    </Dialog>
  );
}

type Rig = Station['rigs'][number]['profile'];

/** The school's numbers for a rig; null while they are worked out, or for factory values. */
function useStart(start: string, rig: Rig | undefined, mode: Mode | undefined): StartingCard | null {
  const [made, setMade] = useState<{ key: string; card: StartingCard } | null>(null);
  const key = `${start} ${rig?.name} ${mode}`;
  // the key stands for rig and mode, which are new objects at every render
  useEffect(() => {
    if (start === FACTORY || !rig || !mode) return;
    let isCurrent = true;
    void coreWork()
      .startingCard(rig, mode, start as School)
      .catch(() => ({ values: {}, notes: ['It could not be worked out; the card begins with factory values.'] }))
      .then((card) => isCurrent && setMade({ key, card }));
    return () => {
      isCurrent = false;
    };
  }, [key]);
  return made?.key === key ? made.card : null;
}
