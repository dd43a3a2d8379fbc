'use client';
/** What new recordings are, and what they were made with. */
import { useState } from 'react';
import styled from 'styled-components';
import { cardsNamed } from '@/client/cardsNamed.ts';
import type { asRecordings, OverFacts } from '@/client/upload.ts';
import { KIND_NAMES, KIND_NOTES, MEASUREMENT_KINDS, type MeasurementKind } from '@/core/measure/index.ts';
import { alcError, alcLabel, parseAlc, parseReading } from '@/core/rig/index.ts';
import { bytes } from '@/core/units/index.ts';
import type { CardSummary } from '@/server/cards/cardList.ts';
import type { UploadChoices } from '@/server/measuring/actions.ts';
import { Bar, Button } from '@/ui/parts/Button.tsx';
import { Field } from '@/ui/parts/Field.tsx';
import { Picker } from '@/ui/parts/Picker.tsx';
import { CardPicker } from '@/ui/shell/CardPicker.tsx';

const Grid = styled.div`display: grid; grid-template-columns: 1fr 1fr; gap: 12px 16px; margin: 12px 0;
  .wide { grid-column: 1 / -1; display: grid; } > :not(.wide) button { width: 100%; }
  @media (max-width: 560px) { grid-template-columns: minmax(0, 1fr); }`;
const Kinds = styled.ul`
  list-style: none; margin: 0 0 4px; padding: 0; display: grid; gap: 8px;
  li { display: grid; grid-template-columns: 1fr 250px; gap: 12px; align-items: end; } .name { overflow-wrap: anywhere; padding-bottom: 6px; } button { width: 100%; }
  @media (max-width: 560px) { li { grid-template-columns: minmax(0, 1fr); gap: 2px; } }`;

type Load = OverFacts['load'];
const LOADS: readonly Load[] = ['dummy load', 'antenna'];
const MOST_POWER_W = 5000;

interface UploadFormProps {
  readonly choices: UploadChoices;
  readonly recordings: ReturnType<typeof asRecordings>['recordings'];
  readonly card: CardSummary | null;
  readonly onCard: (card: CardSummary) => void;
  readonly kinds: readonly MeasurementKind[];
  readonly onKinds: (kinds: readonly MeasurementKind[]) => void;
  readonly onMeasure: (facts: Omit<OverFacts, 'kind' | 'settings'>) => void;
  readonly onCancel: () => void;
}

export function UploadForm({ choices, card, onCard, onMeasure, onCancel, ...files }: UploadFormProps) {
  const { receivers } = choices;
  const [receiver, setReceiver] = useState(String(receivers.find(({ kind }) => kind === 'local')?.id ?? receivers[0].id));
  const [load, setLoad] = useState<Load>('dummy load');
  const [power, setPower] = useState('');
  const [alc, setAlc] = useState('');
  const full = card?.alcFull ?? 1;
  const [powerW, alcReading] = [parseReading(power, MOST_POWER_W), parseAlc(alc, full)];
  const isWhole = files.recordings.length > 0 && files.kinds.length >= files.recordings.length;
  const measure =
    card && isWhole && powerW !== undefined && alcReading !== undefined
      ? () => onMeasure({ cardRevisionId: card.revisionId, receiverId: Number(receiver), load, powerW, alcReading })
      : null;
  return (
    <>
      <KindList {...files} />
      <Grid>
        <div className="wide">
          <CardPicker label="Made with card" card={card} onChoose={onCard} find={cardsNamed} first={choices.cards} />
        </div>
        <Picker
          label="Receiver"
          choices={receivers.map(({ id, name, kind }) => ({ id: String(id), text: name, note: kind }))}
          value={receiver}
          onChange={setReceiver}
        />
        <Picker label="Sent into" choices={LOADS.map((id) => ({ id, text: id }))} value={load} onChange={(id) => setLoad(id as Load)} />
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

function KindList({ recordings, kinds, onKinds }: Pick<UploadFormProps, 'recordings' | 'kinds' | 'onKinds'>) {
  return (
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
            onChange={(id) => onKinds(recordings.map((_, k) => (k === i ? (id as MeasurementKind) : (kinds[k] ?? 'voice'))))}
          />
        </li>
      ))}
    </Kinds>
  );
}
