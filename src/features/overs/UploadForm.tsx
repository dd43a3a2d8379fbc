'use client';
/** What new recordings are, and what they were made with. */
import Link from 'next/link';
import { useState } from 'react';
import styled from 'styled-components';
import { cardsNamed } from '@/client/cardsNamed.ts';
import { receiverNamed } from '@/client/receiverNamed.ts';
import type { asRecordings, OverFacts } from '@/client/upload.ts';
import { KIND_NAMES, KIND_NOTES, MEASUREMENT_KINDS, type MeasurementKind, receiverKindText } from '@/core/measure/index.ts';
import { alcError, alcLabel, parseAlc, parseReading } from '@/core/rig/index.ts';
import { bytes } from '@/core/units/index.ts';
import type { CardSummary } from '@/server/cards/cardList.ts';
import type { UploadChoices } from '@/server/measuring/actions.ts';
import { Bar, Button } from '@/ui/parts/Button.tsx';
import { Check } from '@/ui/parts/Check.tsx';
import { Field } from '@/ui/parts/Field.tsx';
import { Notice } from '@/ui/parts/Notice.tsx';
import { Picker } from '@/ui/parts/Picker.tsx';
import { CardPicker } from '@/ui/shell/CardPicker.tsx';

const Grid = styled.div`display: grid; grid-template-columns: 1fr 1fr; gap: 12px 16px; margin: 12px 0;
  .wide { grid-column: 1 / -1; display: grid; } > :not(.wide) button { width: 100%; }
  @media (max-width: 560px) { grid-template-columns: minmax(0, 1fr); }`;
const Kinds = styled.ul`
  list-style: none; margin: 0 0 4px; padding: 0; display: grid; gap: 8px;
  li { display: grid; grid-template-columns: minmax(0, 1fr) 190px 210px; gap: 12px; align-items: end; } .name { overflow-wrap: anywhere; padding-bottom: 6px; } button { width: 100%; }
  @media (max-width: 560px) { li { grid-template-columns: minmax(0, 1fr); gap: 2px; } }`;

type Load = OverFacts['load'];
const LOADS: readonly Load[] = ['dummy load', 'antenna'];
const MOST_POWER_W = 5000;

/** A remote receiver hears no dummy load. */
const isHeardAfar = (chosen: readonly (string | null)[], receivers: UploadChoices['receivers']): boolean =>
  receivers.some(({ id, kind }) => kind === 'remote' && chosen.includes(String(id)));

/** What all the recordings have in common. */
export type SharedFacts = Omit<OverFacts, 'kind' | 'settings' | 'receiverId' | 'overId'>;

interface UploadFormProps {
  readonly choices: UploadChoices;
  readonly recordings: ReturnType<typeof asRecordings>['recordings'];
  readonly card: CardSummary | null;
  readonly onCard: (card: CardSummary) => void;
  readonly kinds: readonly MeasurementKind[];
  readonly onKinds: (kinds: readonly MeasurementKind[]) => void;
  readonly onMeasure: (facts: SharedFacts, receiverIds: readonly number[], isOneOver: boolean) => void;
  readonly onCancel: () => void;
}

export function UploadForm({ choices, card, onCard, onMeasure, onCancel, ...files }: UploadFormProps) {
  const { receivers } = choices;
  const usual = String(receivers.find(({ kind }) => kind === 'local')?.id ?? receivers[0].id);
  const [chosen, setChosen] = useState<readonly (string | null)[]>(() =>
    files.recordings.map(({ name }) => {
      const named = receiverNamed(name, receivers);
      return named ? String(named.id) : files.recordings.length === 1 ? usual : null;
    }),
  );
  // Files that speak of receivers, each of another, were made at once.
  const [isOneOver, setIsOneOver] = useState(() => {
    const named = chosen.filter((id) => id !== null);
    return named.length > 1 && new Set(named).size === named.length;
  });
  const receiverIds = chosen.flatMap((id) => (id === null ? (isOneOver ? [] : [Number(usual)]) : [Number(id)]));
  const isMany = files.recordings.length > 1;
  const [load, setLoad] = useState<Load>(() => (isHeardAfar(chosen, receivers) ? 'antenna' : 'dummy load'));
  const [power, setPower] = useState('');
  const [alc, setAlc] = useState('');
  const full = card?.alcFull ?? 1;
  const [powerW, alcReading] = [parseReading(power, MOST_POWER_W), parseAlc(alc, full)];
  const isWhole =
    files.recordings.length > 0 && files.kinds.length >= files.recordings.length && receiverIds.length === files.recordings.length;
  const measure =
    card && isWhole && powerW !== undefined && alcReading !== undefined
      ? () => onMeasure({ cardRevisionId: card.revisionId, load, powerW, alcReading }, receiverIds, isOneOver)
      : null;
  return (
    <>
      {isMany && (
        <Check isSelected={isOneOver} onChange={setIsOneOver}>
          One over, heard on {files.recordings.length} receivers at once
        </Check>
      )}
      <KindList
        {...files}
        receivers={receivers}
        chosen={isOneOver || !isMany ? chosen : chosen.map((id) => id ?? usual)}
        onChosen={setChosen}
      />
      {isMany && isOneOver && receiverIds.length < files.recordings.length && (
        <p className="soft">
          Choose the receiver of each file. One that is not in the list is added at <Link href="/station">Station</Link>; cancel first.
        </p>
      )}
      <Grid>
        <div className="wide">
          <CardPicker label="Made with card" card={card} onChoose={onCard} find={cardsNamed} first={choices.cards} />
        </div>
        <Picker label="Sent into" choices={LOADS.map((id) => ({ id, text: id }))} value={load} onChange={(id) => setLoad(id as Load)} />
        <Field
          label="Power in W, if known"
          value={power}
          onChange={setPower}
          error={powerW === undefined ? 'A number of watts, above 0.' : undefined}
        />
        <Field label={alcLabel(full)} value={alc} onChange={setAlc} error={alcReading === undefined ? alcError(full) : undefined} />
      </Grid>
      {card && card.practiceRadio !== null && (
        <Notice>This card is of a practice radio. A recording of a real radio belongs on a card of that radio.</Notice>
      )}
      {load === 'antenna' && (
        <p className="soft">
          On the air: listen first, ask whether the frequency is in use, identify as your licence requires, and keep people away from the
          antenna. Your licence and local rules decide.
        </p>
      )}
      <Bar>
        <Button primary isDisabled={measure === null} onPress={() => measure?.()}>
          Measure
        </Button>
        <Button onPress={onCancel}>Cancel</Button>
      </Bar>
    </>
  );
}

interface KindListProps extends Pick<UploadFormProps, 'recordings' | 'kinds' | 'onKinds'> {
  readonly receivers: UploadChoices['receivers'];
  readonly chosen: readonly (string | null)[];
  readonly onChosen: (chosen: readonly (string | null)[]) => void;
}

/** What each recording is, and where it was heard. */
function KindList({ recordings, kinds, onKinds, receivers, chosen, onChosen }: KindListProps) {
  const isOne = recordings.length === 1;
  return (
    <Kinds>
      {recordings.map((recording, i) => (
        <li key={`${recording.name}-${recording.bytes}`}>
          <span className="name">
            {recording.name} <span className="soft">({bytes(recording.bytes)})</span>
          </span>
          <Picker
            label={isOne ? 'Type of recording' : `Type of ${recording.name}`}
            choices={MEASUREMENT_KINDS.map((id) => ({ id, text: KIND_NAMES[id], note: KIND_NOTES[id] }))}
            value={kinds[i] ?? null}
            onChange={(id) => onKinds(recordings.map((_, k) => (k === i ? (id as MeasurementKind) : (kinds[k] ?? 'voice'))))}
          />
          <Picker
            label={isOne ? 'Receiver' : `Receiver of ${recording.name}`}
            choices={receivers.map(({ id, name, kind }) => ({ id: String(id), text: name, note: receiverKindText(kind) }))}
            value={chosen[i] ?? null}
            onChange={(id) => onChosen(recordings.map((_, k) => (k === i ? id : (chosen[k] ?? null))))}
          />
        </li>
      ))}
    </Kinds>
  );
}
