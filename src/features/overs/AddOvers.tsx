'use client';
/** The sheet for new recordings: with which card, heard where, then each file's way in. */
import Link from 'next/link';
import { useEffect, useMemo, useRef, useState } from 'react';
import styled from 'styled-components';
import { asked } from '@/client/asked.ts';
import { cardsNamed } from '@/client/cardsNamed.ts';
import { asRecordings, type Incoming, type OverFacts, type UploadState, upload } from '@/client/upload.ts';
import { coreWork } from '@/client/workers/coreWork.ts';
import { KIND_NAMES, KIND_NOTES, MEASUREMENT_KINDS, type MeasurementKind, radioKindOf } from '@/core/measure/index.ts';
import { alcError, alcLabel, parseAlc, parseReading } from '@/core/rig/index.ts';
import { bytes } from '@/core/units/index.ts';
import type { CardSummary } from '@/server/cards/cardList.ts';
import type { Load } from '@/server/db/models.ts';
import { type UploadChoices, uploadChoices } from '@/server/measuring/actions.ts';
import { Bar, Button, ButtonLink } from '@/ui/parts/Button.tsx';
import { Dialog } from '@/ui/parts/Dialog.tsx';
import { Field } from '@/ui/parts/Field.tsx';
import { Notice } from '@/ui/parts/Notice.tsx';
import { Picker } from '@/ui/parts/Picker.tsx';
import { Progress } from '@/ui/parts/Progress.tsx';
import { CardPicker } from '@/ui/shell/CardPicker.tsx';

const Grid = styled.div`display: grid; grid-template-columns: 1fr 1fr; gap: 12px 16px; margin: 12px 0;
  .wide { grid-column: 1 / -1; display: grid; } > :not(.wide) button { width: 100%; }`;
const Kinds = styled.ul`
  list-style: none; margin: 0 0 4px; padding: 0; display: grid; gap: 8px;
  li { display: grid; grid-template-columns: 1fr 250px; gap: 12px; align-items: end; } .name { overflow-wrap: anywhere; padding-bottom: 6px; } button { width: 100%; }`;
const File_ = styled.li`display: grid; gap: 6px; padding: 10px 0; border-bottom: 1px solid var(--grid); list-style: none;
  .name { font-weight: 600; overflow-wrap: anywhere; }`;

const PHASES = { decoding: 'decoding', checking: 'working out its checksum', sending: 'sending', measuring: 'measuring' } as const;

export function AddOvers({ files, cardId, onClose }: { files: readonly File[]; cardId?: number; onClose: () => void }) {
  const [choices, setChoices] = useState<UploadChoices | null>(null);
  const [chosen, setChosen] = useState<CardSummary | null>(null);
  const [receiver, setReceiver] = useState('');
  const [trouble, setTrouble] = useState<string | null>(null);
  useEffect(() => {
    void asked(uploadChoices(cardId === undefined ? {} : { cardId })).then((answer) => {
      if (!answer.ok) return setTrouble(answer.message);
      const { card, receivers } = answer.value;
      setChoices(answer.value);
      setChosen(card);
      setReceiver(String(receivers.find(({ kind }) => kind === 'local')?.id ?? receivers[0]?.id ?? ''));
    });
  }, [cardId]);
  const [load, setLoad] = useState<Load>('dummy load');
  const [power, setPower] = useState('');
  const [alc, setAlc] = useState('');
  const [states, setStates] = useState<readonly UploadState[] | null>(null);
  const { recordings, halves } = useMemo(() => asRecordings(files), [files]);
  const [kinds, setKinds] = useState<readonly MeasurementKind[]>([]);
  const mode = chosen?.mode;
  // Each file is looked at once the card is known: its mode says what an I/Q recording would be of.
  useEffect(() => {
    if (!mode) return;
    let isCurrent = true;
    const guesses = recordings.map(({ file, meta }) => (meta ? radioKindOf(mode) : coreWork().guessKind(file, radioKindOf(mode))));
    void Promise.all(guesses).then((guessed) => isCurrent && setKinds(guessed));
    return () => {
      isCurrent = false;
    };
  }, [recordings, mode]);
  const abort = useRef(new AbortController());
  const powerW = parseReading(power, 5000);
  const full = chosen?.alcFull ?? 1;
  const alcReading = parseAlc(alc, full);
  const title = recordings.length === 1 ? 'Add a recording' : `Add ${recordings.length} recordings`;

  if (!choices) {
    return (
      <Dialog title={title} isOpen onClose={onClose}>
        {trouble ? <Notice tone="fault">{trouble}</Notice> : <p>Looking for your cards ...</p>}
      </Dialog>
    );
  }
  const { cards, receivers } = choices;
  if (cards.length === 0 || receivers.length === 0) {
    return (
      <Dialog title="Add recordings" isOpen onClose={onClose}>
        <p>
          A recording belongs to a card and a receiver, and there {cards.length === 0 ? 'is no card' : 'is no receiver'} yet. Nothing was
          stored.
        </p>
        <Bar>
          <ButtonLink href={cards.length === 0 ? '/cards' : '/station'}>{cards.length === 0 ? 'Make a card' : 'Add a receiver'}</ButtonLink>
        </Bar>
      </Dialog>
    );
  }

  const start = async (facts: Omit<OverFacts, 'kind' | 'settings'>) => {
    setStates(recordings.map(() => ({ phase: 'checking', share: 0 })));
    for (const [i, recording] of recordings.entries()) {
      const kind = kinds[i] ?? 'voice';
      const settings = kind === 'ssb' && mode === 'lsb' ? { sideband: 'lsb' as const } : {};
      await upload(
        recording,
        { ...facts, kind, settings },
        (state) => setStates((before) => before?.map((old, k) => (k === i ? state : old)) ?? null),
        abort.current.signal,
      );
    }
  };
  const isBusy = states?.some(({ phase }) => phase !== 'done' && phase !== 'failed') ?? false;
  const doneIds = (states ?? []).flatMap((state) => (state.phase === 'done' ? [state.overId] : []));
  const firstDone = states?.find((state) => state.phase === 'done');

  return (
    <Dialog
      title={title}
      isOpen
      onClose={() => {
        abort.current.abort();
        onClose();
      }}
    >
      {states === null ? (
        <>
          {halves.length > 0 && (
            <Notice tone="fault">
              {halves.join(', ')}: the other half of this SigMF recording is missing. Drop its .sigmf-meta and its .sigmf-data together.
            </Notice>
          )}
          <Kinds>
            {recordings.map((recording, i) => (
              <li key={`${recording.name}-${recording.bytes}`}>
                <span className="name">
                  {recording.name} <span className="soft">({bytes(recording.bytes)})</span>
                </span>
                <Picker
                  label={recordings.length === 1 ? 'Type of recording' : `Type of ${recording.name}`}
                  choices={MEASUREMENT_KINDS.map((id) => ({ id, text: KIND_NAMES[id], note: KIND_NOTES[id] }))}
                  value={kinds[i] ?? null}
                  onChange={(id) =>
                    setKinds((before) => recordings.map((_, k) => (k === i ? (id as MeasurementKind) : (before[k] ?? 'voice'))))
                  }
                />
              </li>
            ))}
          </Kinds>
          <Grid>
            <div className="wide">
              <CardPicker label="Made with card" card={chosen} onChoose={setChosen} find={cardsNamed} first={cards} />
            </div>
            <Picker
              label="Heard on"
              choices={receivers.map(({ id, name, kind }) => ({ id: String(id), text: name, note: kind }))}
              value={receiver}
              onChange={setReceiver}
            />
            <Picker
              label="Sent into"
              choices={[
                { id: 'dummy load', text: 'dummy load' },
                { id: 'antenna', text: 'antenna' },
              ]}
              value={load}
              onChange={(id) => setLoad(id as Load)}
            />
            <Field
              label="Power in W, if known"
              value={power}
              onChange={setPower}
              error={powerW === undefined ? 'A number of watts, above 0.' : undefined}
            />
            <Field label={alcLabel(full)} value={alc} onChange={setAlc} error={alcReading === undefined ? alcError(full) : undefined} />
          </Grid>
          {load === 'antenna' && (
            <p className="soft">
              On the air: listen first, ask whether the frequency is in use, identify as your licence requires, and keep people away from
              the antenna. Your licence and local rules decide.
            </p>
          )}
          <Bar>
            <Button
              primary
              isDisabled={
                !chosen || recordings.length === 0 || kinds.length < recordings.length || powerW === undefined || alcReading === undefined
              }
              onPress={() =>
                chosen &&
                void start({
                  cardRevisionId: chosen.revisionId,
                  receiverId: Number(receiver),
                  load,
                  powerW: powerW ?? null,
                  alcReading: alcReading ?? null,
                })
              }
            >
              Measure
            </Button>
            <Button onPress={onClose}>Cancel</Button>
          </Bar>
        </>
      ) : (
        <>
          <ul style={{ padding: 0, margin: '8px 0' }}>
            {recordings.map((recording, i) => (
              <FileState key={`${recording.name}-${recording.bytes}`} recording={recording} state={states[i]} onLeave={onClose} />
            ))}
          </ul>
          <Bar>
            {isBusy && <Button onPress={() => abort.current.abort()}>Cancel</Button>}
            {!isBusy && firstDone?.phase === 'done' && kinds[states?.indexOf(firstDone) ?? 0] === 'voice' && (
              <ButtonLink $primary href={`/bench?card=${chosen?.id}&over=${firstDone.overId}&stage=equalizer`}>
                See it on the Bench
              </ButtonLink>
            )}
            {!isBusy && doneIds.length > 1 && (
              <ButtonLink href={`/overs/compare?overs=${doneIds.slice(0, 4).join(',')}`}>Compare them</ButtonLink>
            )}
            {!isBusy && <Button onPress={onClose}>Close</Button>}
          </Bar>
        </>
      )}
    </Dialog>
  );
}

/** @param onLeave called when a link leads away from the sheet */
function FileState({ recording, state, onLeave }: { recording: Incoming; state: UploadState; onLeave: () => void }) {
  return (
    <File_>
      <span className="name">{recording.name}</span>
      {state.phase === 'done' && (
        <span>
          Measured as{' '}
          <Link href={`/overs/${state.overId}`} onClick={onLeave}>
            over {state.overId}
          </Link>
          .
        </span>
      )}
      {state.phase === 'failed' && (
        <Notice tone="fault">
          <span>
            {state.message}{' '}
            {state.link && (
              <Link href={state.link} onClick={onLeave}>
                Show it
              </Link>
            )}
          </span>
        </Notice>
      )}
      {state.phase !== 'done' && state.phase !== 'failed' && <Progress label={PHASES[state.phase]} share={state.share} />}
    </File_>
  );
}
