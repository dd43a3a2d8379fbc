'use client';
/** The sheet for new recordings: what they are, which card and receiver they belong to, then their way in, one by one. */
import { useQuery } from '@tanstack/react-query';
import { useEffect, useMemo, useRef, useState } from 'react';
import { asked } from '@/client/asked.ts';
import { asRecordings, type UploadState, upload } from '@/client/upload.ts';
import { coreWork } from '@/client/workers/coreWork.ts';
import { type MeasurementKind, radioKindOf } from '@/core/measure/index.ts';
import type { Mode } from '@/core/rig/index.ts';
import { type UploadChoices, uploadChoices } from '@/server/measuring/actions.ts';
import { Bar, Button, ButtonLink } from '@/ui/parts/Button.tsx';
import { Dialog } from '@/ui/parts/Dialog.tsx';
import { Notice } from '@/ui/parts/Notice.tsx';
import { FileState } from './FileState.tsx';
import { MOST_OVERS } from './most.ts';
import { type SharedFacts, UploadForm } from './UploadForm.tsx';

type Recordings = ReturnType<typeof asRecordings>['recordings'];

interface AddOversProps {
  readonly files: readonly File[];
  readonly cardId?: number;
  readonly onClose: () => void;
}

export function AddOvers({ files, cardId, onClose }: AddOversProps) {
  const { data: choices, error } = useQuery({
    queryKey: ['upload choices', cardId],
    gcTime: 0,
    staleTime: 0,
    queryFn: async (): Promise<UploadChoices> => {
      const answer = await asked(uploadChoices(cardId === undefined ? {} : { cardId }));
      if (!answer.ok) throw new Error(answer.message);
      return answer.value;
    },
  });
  const { recordings, halves } = useMemo(() => asRecordings(files), [files]);
  const title = recordings.length === 1 ? 'Add a recording' : `Add ${recordings.length} recordings`;
  if (!choices) {
    return (
      <Dialog title={title} isOpen onClose={onClose}>
        {error ? <Notice tone="fault">{error.message}</Notice> : <p>Looking for your cards ...</p>}
      </Dialog>
    );
  }
  const lacks = choices.cards.length === 0 ? 'card' : choices.receivers.length === 0 ? 'receiver' : null;
  if (lacks) {
    return (
      <Dialog title="Add recordings" isOpen onClose={onClose}>
        <p>A recording belongs to a card and a receiver, and there is no {lacks} yet. Nothing was stored.</p>
        <Bar>
          <ButtonLink onClick={onClose} href={lacks === 'card' ? '/cards' : '/station'}>
            {lacks === 'card' ? 'Make a card' : 'Add a receiver'}
          </ButtonLink>
        </Bar>
      </Dialog>
    );
  }
  return <Sheet title={title} choices={choices} recordings={recordings} halves={halves} onClose={onClose} />;
}

interface SheetProps {
  readonly title: string;
  readonly choices: UploadChoices;
  readonly recordings: Recordings;
  readonly halves: readonly string[];
  readonly onClose: () => void;
}

function Sheet({ title, choices, recordings, halves, onClose }: SheetProps) {
  const [chosen, setChosen] = useState(choices.card);
  const [kinds, setKinds] = useKinds(recordings, chosen?.mode);
  const [states, setStates] = useState<readonly UploadState[] | null>(null);
  const abort = useRef(new AbortController());
  const start = async (facts: SharedFacts, receiverIds: readonly number[], isOneOver: boolean) => {
    let overId: number | undefined;
    setStates(recordings.map(() => ({ phase: 'checking', share: 0 })));
    for (const [i, recording] of recordings.entries()) {
      const kind = kinds[i] ?? 'voice';
      const settings = kind === 'ssb' && chosen?.mode === 'lsb' ? { sideband: 'lsb' as const } : {};
      const tell = (state: UploadState) => {
        // The first that is stored makes the over; the others are further captures of it.
        if (isOneOver && state.phase === 'done') overId = state.overId;
        setStates((before) => before?.map((old, k) => (k === i ? state : old)) ?? null);
      };
      const own = { receiverId: receiverIds[i], ...(overId !== undefined && { overId }) };
      await upload(recording, { ...facts, ...own, kind, settings }, tell, abort.current.signal);
    }
  };
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
          <UploadForm
            choices={choices}
            recordings={recordings}
            card={chosen}
            onCard={setChosen}
            kinds={kinds}
            onKinds={setKinds}
            onMeasure={(facts, receiverIds, isOneOver) => void start(facts, receiverIds, isOneOver)}
            onCancel={onClose}
          />
        </>
      ) : (
        <>
          <ul style={{ padding: 0, margin: '8px 0' }}>
            {recordings.map((recording, i) => (
              <FileState key={`${recording.name}-${recording.bytes}`} recording={recording} state={states[i]} onLeave={onClose} />
            ))}
          </ul>
          <WayOn states={states} kinds={kinds} cardId={chosen?.id} onCancel={() => abort.current.abort()} onClose={onClose} />
        </>
      )}
    </Dialog>
  );
}

/** What each file seems to be; looked at once the card is known, as its mode says what an I/Q recording would be of. */
function useKinds(recordings: Recordings, mode: Mode | undefined) {
  const [kinds, setKinds] = useState<readonly MeasurementKind[]>([]);
  useEffect(() => {
    if (!mode) return;
    let isCurrent = true;
    const guesses = recordings.map(({ file, meta }) => (meta ? radioKindOf(mode) : coreWork().guessKind(file, radioKindOf(mode))));
    void Promise.all(guesses).then((guessed) => isCurrent && setKinds(guessed));
    return () => {
      isCurrent = false;
    };
  }, [recordings, mode]);
  return [kinds, setKinds] as const;
}

interface WayOnProps {
  readonly states: readonly UploadState[];
  readonly kinds: readonly MeasurementKind[];
  readonly cardId: number | undefined;
  readonly onCancel: () => void;
  readonly onClose: () => void;
}

/** Where to go once the recordings are in. */
function WayOn({ states, kinds, cardId, onCancel, onClose }: WayOnProps) {
  const isBusy = states.some(({ phase }) => phase !== 'done' && phase !== 'failed');
  const done = states.flatMap((state, i) => (state.phase === 'done' ? [{ overId: state.overId, kind: kinds[i] }] : []));
  const [first] = done;
  const overIds = [...new Set(done.map(({ overId }) => overId))];
  if (isBusy)
    return (
      <Bar>
        <Button onPress={onCancel}>Cancel</Button>
      </Bar>
    );
  return (
    <Bar>
      {first?.kind === 'voice' && (
        <ButtonLink $primary onClick={onClose} href={`/bench?card=${cardId}&over=${first.overId}&stage=equalizer`}>
          See it on the Bench
        </ButtonLink>
      )}
      {overIds.length > 1 && (
        <ButtonLink onClick={onClose} href={`/overs/compare?overs=${overIds.slice(0, MOST_OVERS).join(',')}`}>
          Compare them
        </ButtonLink>
      )}
      {done.length > 1 && overIds.length === 1 && (
        <ButtonLink onClick={onClose} href={`/overs/${overIds[0]}`}>
          What all receivers heard
        </ButtonLink>
      )}
      <Button onPress={onClose}>Close</Button>
    </Bar>
  );
}
