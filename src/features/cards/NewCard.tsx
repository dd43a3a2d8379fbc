'use client';
/** The sheet for a new card: whose, on what, for what, and which numbers it begins with. */
import { useQuery } from '@tanstack/react-query';
import { useRouter } from 'next/navigation';
import styled from 'styled-components';
import { useDraft } from '@/client/useDraft.ts';
import { coreWork } from '@/client/workers/coreWork.ts';
import { SCHOOL_RULES, type School, type StartingCard, schoolsFor } from '@/core/advice/index.ts';
import { MODE_LABELS, type Mode, PURPOSE_LABELS, PURPOSES, type Purpose } from '@/core/rig/index.ts';
import { makeCard } from '@/server/cards/actions.ts';
import type { Station } from '@/server/station/station.ts';
import { Bar, ButtonLink } from '@/ui/parts/Button.tsx';
import { Dialog } from '@/ui/parts/Dialog.tsx';
import { Field } from '@/ui/parts/Field.tsx';
import { Picker } from '@/ui/parts/Picker.tsx';
import { EditSheet } from '@/ui/shell/EditSheet.tsx';
import type { CardDraft } from './cardDraft.ts';

const Grid = styled.div`display: grid; grid-template-columns: 1fr 1fr; gap: 12px 16px; button { width: 100%; } .wide { grid-column: 1 / -1; display: grid; }`;

const asChoices = (rows: readonly { id: number; name: string }[]) => rows.map(({ id, name }) => ({ id: String(id), text: name }));
const FACTORY = 'factory';

export function NewCard({ station, draft, onClose }: { station: Station; draft: CardDraft; onClose: () => void }) {
  const { operators, rigs, microphones } = station;
  const router = useRouter();
  const form = useDraft(`new card ${draft.reason ?? ''}`, {
    name: draft.name ?? '',
    operator: String(draft.operatorId ?? operators[0]?.id ?? ''),
    rigId: String(draft.rigId ?? rigs[0]?.id ?? ''),
    microphone: String(draft.microphoneId ?? microphones[0]?.id ?? ''),
    purpose: draft.purpose ?? ('balanced' as Purpose),
    start: FACTORY as string,
    wantedMode: draft.mode ?? ('' as Mode | ''),
  });
  const { name, operator, rigId, microphone, purpose, start, wantedMode } = form.value;
  const rig = rigs.find(({ id }) => String(id) === rigId);
  const mode = wantedMode && rig?.profile.modes.includes(wantedMode) ? wantedMode : rig?.profile.modes[0];
  const begun = useStart(draft.values ? FACTORY : start, rig?.profile, mode);
  const rule = start === FACTORY ? null : SCHOOL_RULES[start as School];
  const values = draft.values ?? begun?.values;
  const reason = draft.reason ?? (rule ? `starting point: ${rule.text.toLowerCase()}` : undefined);
  const isUsable = String(draft.microphoneId ?? '') === microphone;
  const save = () =>
    makeCard({
      name,
      operatorId: Number(operator),
      rigId: Number(rigId),
      microphoneId: Number(microphone),
      mode: mode as Mode,
      purpose,
      ...(values ? { values: { ...values } } : {}),
      ...(draft.use && isUsable ? { use: draft.use } : {}),
      ...(reason ? { reason } : {}),
    });
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
            : 'The rig of these numbers is retired. Restore it on the Station page first.'}
        </p>
        <Bar>
          <ButtonLink $primary href="/station">
            Describe the station
          </ButtonLink>
        </Bar>
      </Dialog>
    );
  }
  return (
    <EditSheet
      title={draft.values ? 'New card with these numbers' : 'New card'}
      draft={form}
      isReady={name.trim() !== '' && (rule === null || begun !== null)}
      save={save}
      saveWords="Create card"
      beside={rule && !begun && <span className="soft">Calculating the dials ...</span>}
      onClose={onClose}
      onSaved={(id) => router.push(`/cards/${id}`)}
    >
      <Field label="Name, for example Evening net" value={name} onChange={(text) => form.set({ name: text })} maxLength={80} autoFocus />
      <Grid>
        <Picker label="Operator" choices={asChoices(operators)} value={operator} onChange={(id) => form.set({ operator: id })} />
        <Picker label="Microphone" choices={asChoices(microphones)} value={microphone} onChange={(id) => form.set({ microphone: id })} />
        {draft.values ? (
          <span style={{ alignSelf: 'end' }}>
            On {rig?.name}; {draft.reason}
          </span>
        ) : (
          <Picker label="Rig" choices={asChoices(rigs)} value={rigId} onChange={(id) => form.set({ rigId: id })} />
        )}
        <Picker
          label="Mode"
          choices={(rig?.profile.modes ?? []).map((id) => ({ id, text: MODE_LABELS[id] }))}
          value={mode}
          onChange={(id) => form.set({ wantedMode: id as Mode })}
        />
        <Picker
          label="For"
          choices={PURPOSES.map((id) => ({ id, text: PURPOSE_LABELS[id] }))}
          value={purpose}
          onChange={(id) => form.set({ purpose: id as Purpose })}
        />
        {!draft.values && (
          <Picker
            label="Start from"
            choices={[
              { id: FACTORY, text: 'factory values', note: 'then copy in what your radio shows' },
              ...schoolsFor(purpose).map((id) => ({ id, text: SCHOOL_RULES[id].text, note: SCHOOL_RULES[id].note })),
            ]}
            value={start}
            onChange={(id) => form.set({ start: id })}
          />
        )}
      </Grid>
      {rule && (
        <p className="soft">
          A starting point of common practice on this rig's own scales, nothing measured: {rule.note}. {begun?.notes.join(' ')}
        </p>
      )}
    </EditSheet>
  );
}

type Rig = Station['rigs'][number]['profile'];

/** The school's numbers for a rig; null while they are calculated, or for factory values. */
function useStart(start: string, rig: Rig | undefined, mode: Mode | undefined): StartingCard | null {
  const { data, error } = useQuery({
    queryKey: ['starting card', start, rig, mode],
    enabled: start !== FACTORY && rig !== undefined && mode !== undefined,
    queryFn: async (): Promise<StartingCard> => {
      if (!rig || !mode) throw new Error('there is no rig');
      return coreWork().startingCard(rig, mode, start as School);
    },
  });
  return error ? { values: {}, notes: ['It could not be calculated; the card starts with factory values.'] } : (data ?? null);
}
