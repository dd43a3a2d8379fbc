'use client';
/** The sheet for new recordings: with which card, heard where, then each file's way in. */
import Link from 'next/link';
import { useRef, useState } from 'react';
import styled from 'styled-components';
import { MODE_LABELS } from '@/core/station/card.ts';
import type { CardSummary } from '@/server/cards.ts';
import type { Load } from '@/server/models.ts';
import type { Station } from '@/server/station.ts';
import { bytes } from '@/ui/format.ts';
import { Bar, Button, ButtonLink } from '@/ui/parts/Button.tsx';
import { Dialog } from '@/ui/parts/Dialog.tsx';
import { Field } from '@/ui/parts/Field.tsx';
import { Notice } from '@/ui/parts/Notice.tsx';
import { Picker } from '@/ui/parts/Picker.tsx';
import { Progress } from '@/ui/parts/Progress.tsx';
import { parseReading } from './reading.ts';
import { type OverFacts, type UploadState, upload } from './upload.ts';

const Grid = styled.div`display: grid; grid-template-columns: 1fr 1fr; gap: 12px 16px; margin: 12px 0;
  .wide { grid-column: 1 / -1; display: grid; } button { width: 100%; }`;
const File_ = styled.li`display: grid; gap: 6px; padding: 10px 0; border-bottom: 1px solid var(--grid); list-style: none;
  .name { font-weight: 600; overflow-wrap: anywhere; }`;

const PHASES = { decoding: 'decoding', checking: 'working out its checksum', sending: 'sending', measuring: 'measuring' } as const;

export function AddOvers({
  files,
  cards,
  receivers,
  cardId,
  onClose,
}: {
  files: readonly File[];
  cards: readonly CardSummary[];
  receivers: Station['receivers'];
  cardId?: number;
  onClose: () => void;
}) {
  const [card, setCard] = useState(String(cardId ?? cards[0]?.id ?? ''));
  const [receiver, setReceiver] = useState(String(receivers.find(({ kind }) => kind === 'local')?.id ?? receivers[0]?.id ?? ''));
  const [load, setLoad] = useState<Load>('dummy load');
  const [power, setPower] = useState('');
  const [alc, setAlc] = useState('');
  const [states, setStates] = useState<readonly UploadState[] | null>(null);
  const abort = useRef(new AbortController());
  const powerW = parseReading(power, 5000);
  const alcReading = parseReading(alc, 1);
  const chosen = cards.find(({ id }) => String(id) === card);

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

  const start = async (facts: OverFacts) => {
    setStates(files.map(() => ({ phase: 'checking', share: 0 })));
    for (const [i, file] of files.entries()) {
      await upload(
        file,
        facts,
        (state) => setStates((before) => before?.map((old, k) => (k === i ? state : old)) ?? null),
        abort.current.signal,
      );
    }
  };
  const isBusy = states?.some(({ phase }) => phase !== 'done' && phase !== 'failed') ?? false;
  const firstDone = states?.find((state) => state.phase === 'done');

  return (
    <Dialog
      title={files.length === 1 ? 'Add a recording' : `Add ${files.length} recordings`}
      isOpen
      onClose={() => {
        abort.current.abort();
        onClose();
      }}
    >
      {states === null ? (
        <>
          <p className="soft">{files.map((file) => `${file.name} (${bytes(file.size)})`).join(', ')}</p>
          <Grid>
            <div className="wide">
              <Picker
                label="Made with card"
                choices={cards.map(({ id, name, operator, rig, mode, revision }) => ({
                  id: String(id),
                  text: `${name}, rev. ${revision}`,
                  note: `${operator} on ${rig}, ${MODE_LABELS[mode]}`,
                }))}
                value={card}
                onChange={setCard}
              />
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
            <Field
              label="ALC reading, 0 to 1 of the scale"
              value={alc}
              onChange={setAlc}
              error={alcReading === undefined ? '0 is no reading, 1 the end of the scale.' : undefined}
            />
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
              isDisabled={!chosen || powerW === undefined || alcReading === undefined}
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
            <Button onPress={onClose}>Leave it</Button>
          </Bar>
        </>
      ) : (
        <>
          <ul style={{ padding: 0, margin: '8px 0' }}>
            {files.map((file, i) => (
              <FileState key={`${file.name}-${file.size}-${file.lastModified}`} file={file} state={states[i]} onLeave={onClose} />
            ))}
          </ul>
          <Bar>
            {isBusy && <Button onPress={() => abort.current.abort()}>Cancel</Button>}
            {!isBusy && firstDone?.phase === 'done' && (
              <ButtonLink $primary href={`/bench?card=${card}&over=${firstDone.overId}&stage=equalizer`}>
                See it on the Bench
              </ButtonLink>
            )}
            {!isBusy && <Button onPress={onClose}>Close</Button>}
          </Bar>
        </>
      )}
    </Dialog>
  );
}

/** @param onLeave called when a link leads away from the sheet */
function FileState({ file, state, onLeave }: { file: File; state: UploadState; onLeave: () => void }) {
  return (
    <File_>
      <span className="name">{file.name}</span>
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
