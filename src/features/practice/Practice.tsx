'use client';
/** The practice radio: dials, a key to talk, meters as plain scales, and receivers that deliver files. */
import { type ReactNode, useEffect, useState } from 'react';
import styled from 'styled-components';
import { sentenceOf } from '@/client/sentence.ts';
import { type PracticeAnswer, type PracticeRequest, transmit } from '@/client/transmit.ts';
import { useDraft } from '@/client/useDraft.ts';
import { useWorkingCard } from '@/client/useWorkingCard.ts';
import type { AlcReading, SeenOver } from '@/core/advice/index.ts';
import { asRead, type DialValues, effective, valueOn } from '@/core/rig/index.ts';
import { PRACTICE_RADIOS } from '@/core/simulate/index.ts';
import type { BenchView } from '@/server/bench/bench.ts';
import { DialTable } from '@/ui/dials/DialTable.tsx';
import { Playback } from '@/ui/listen/Playback.tsx';
import { Bar, Button, ButtonLink } from '@/ui/parts/Button.tsx';
import { Notice } from '@/ui/parts/Notice.tsx';
import { Picker } from '@/ui/parts/Picker.tsx';
import { type Neighbours, Sentence } from '@/ui/shell/Sentence.tsx';
import { Shell } from '@/ui/shell/Shell.tsx';
import { GainReadings } from './GainReadings.tsx';
import { MeterScales } from './MeterScales.tsx';
import { Receivers } from './Receivers.tsx';
import { Score } from './Score.tsx';

const Columns = styled.div`
  display: grid; grid-template-columns: minmax(0, 1fr) minmax(380px, 0.8fr); min-height: calc(100vh - 53px);
  @media (max-width: 900px) { grid-template-columns: minmax(0, 1fr); }
  > section { padding: 16px 20px 30px; min-width: 0; }
  > aside { border-left: 1px solid var(--line); background: var(--sheet); padding: 16px 18px 30px; }`;
type Load = PracticeRequest['load'];
const LOADS: readonly Load[] = ['dummy load', 'antenna'];
const CAUTION: Record<Load, string> = {
  'dummy load': 'Into a dummy load, as every first trial should be.',
  antenna:
    'On a real antenna you would listen first, ask whether the frequency is in use and identify; your licence and local rules decide.',
};

const NOTHING: DialValues = {};
const NO_READINGS: readonly AlcReading[] = [];
const MOST_READINGS = 20;

interface PracticeProps {
  readonly bench: BenchView;
  readonly neighbours: Neighbours;
  /** Overs of the card's practice radio, oldest first; empty on cards of real radios. */
  readonly history: readonly SeenOver[];
  /** What is to be reached. */
}

export function Practice({ bench, neighbours, history }: PracticeProps) {
  const { card } = bench;
  useWorkingCard(card.id);
  const [chosen, setRadio] = useState(1);
  const radio = card.practiceRadio ?? chosen;
  const [load, setLoad] = useState<Load>('dummy load');
  const { value: draft, set, discard } = useDraft<DialValues>(`practice ${card.id}`, NOTHING);
  const values = { ...card.revisions[0].values, ...draft };
  const request = (receiver: number, isIq: boolean): PracticeRequest => ({ cardId: card.id, values, radio, receiver, isIq, load });
  const notes = useDraft(`practice readings ${card.id} ${radio}`, { readings: NO_READINGS });
  const { readings } = notes.value;
  /** Read as an eye does, to a twentieth of the scale. */
  const note = (alc: number) => {
    const read: AlcReading = { alc: asRead(alc), card: { mode: card.mode, values, use: card.revisions[0].use } };
    notes.set({ readings: [...readings, read].slice(-MOST_READINGS) });
  };
  const over = useOver(() => request(1, false), note);
  /** Any change makes what was sent before somebody else's. */
  const changing =
    <A extends unknown[]>(change: (...args: A) => void) =>
    (...args: A) => {
      change(...args);
      over.forget();
    };
  return (
    <Shell sentence={<Sentence card={card} neighbours={neighbours} to="/practice" {...sentenceOf(card)} />}>
      <Columns>
        <Radio
          bench={bench}
          values={values}
          radio={radio}
          load={load}
          isChanged={Object.keys(draft).length > 0}
          onRadio={changing(setRadio)}
          onLoad={changing(setLoad)}
          onDial={changing(set)}
          onBack={changing(discard)}
        />
        <aside aria-label="Over">
          <Talk over={over} load={load} bench={bench}>
            <Receivers
              card={card}
              values={values}
              radio={radio}
              load={load}
              onRecorded={card.practiceRadio === null ? () => {} : discard}
            />
          </Talk>
          <GainReadings bench={bench} values={values} readings={readings} onDial={changing(set)} />
          <Score key={radio} bench={bench} radio={radio} history={history} />
        </aside>
      </Columns>
    </Shell>
  );
}

/** One over: asked for, heard on the monitor, forgotten when anything changes. */
function useOver(request: () => PracticeRequest, note: (alc: number) => void) {
  const [isTalking, setIsTalking] = useState(false);
  const [made, setMade] = useState<{ meters: PracticeAnswer['meters']; monitor: string } | null>(null);
  const [error, setError] = useState<string | null>(null);
  const monitor = made?.monitor;
  useEffect(() => () => (monitor ? URL.revokeObjectURL(monitor) : undefined), [monitor]);
  const talk = async () => {
    setIsTalking(true);
    setError(null);
    try {
      const { file, meters } = await transmit(request());
      setMade({ meters, monitor: URL.createObjectURL(file) });
      if (meters.alc.usual !== null) note(meters.alc.usual);
    } catch (problem) {
      setError((problem as Error).message);
    }
    setIsTalking(false);
  };
  return { isTalking, made, error, talk, forget: () => setMade(null) };
}

interface TalkProps {
  readonly over: ReturnType<typeof useOver>;
  readonly load: Load;
  readonly bench: BenchView;
  readonly children: ReactNode;
}

function Talk({ over, load, bench, children }: TalkProps) {
  return (
    <>
      <h2>Talk</h2>
      <p className="soft">{CAUTION[load]} The meter holds its peaks.</p>
      <Bar>
        <Button primary isDisabled={over.isTalking} onPress={() => void over.talk()}>
          {over.isTalking ? 'Talking ...' : 'Key up and talk'}
        </Button>
      </Bar>
      {over.error && <Notice tone="fault">{over.error}</Notice>}
      <MeterScales meters={over.made?.meters ?? null} bench={bench} />
      {over.made && (
        <>
          <p className="soft">Monitor, taken in the line (headphones: start low):</p>
          <Playback url={over.made.monitor} label="Monitor" />
          {children}
        </>
      )}
    </>
  );
}

interface RadioProps {
  readonly bench: BenchView;
  readonly values: DialValues;
  readonly radio: number;
  readonly load: Load;
  readonly isChanged: boolean;
  readonly onRadio: (radio: number) => void;
  readonly onLoad: (load: Load) => void;
  readonly onDial: (change: DialValues) => void;
  readonly onBack: () => void;
}

function Radio({ bench, values, radio, load, isChanged, onRadio, onLoad, onDial, onBack }: RadioProps) {
  const { card } = bench;
  const over = bench.voice?.over ?? null;
  const rig = card.rig.profile;
  const now = { mode: card.mode, values: card.revisions[0].values };
  return (
    <section aria-label="The radio">
      <h1>Practice radio</h1>
      <p className="soft">
        A simulation: no radio is connected and nothing is transmitted. It has the dials of {rig.name},{' '}
        {over
          ? card.practiceRadio === null
            ? `your voice from over ${over.id}`
            : 'your voice'
          : 'a synthetic voice until you record your own'}
        , and faults of its own to find with the evidence.{' '}
        {card.practiceRadio === null ? 'What you set here stays here.' : 'This card is its own.'}
      </p>
      <Bar>
        {card.practiceRadio === null && (
          <Picker
            label="Radio"
            value={String(radio)}
            choices={Array.from({ length: PRACTICE_RADIOS }, (_, k) => ({ id: String(k + 1), text: `number ${k + 1}` }))}
            onChange={(id) => onRadio(Number(id))}
          />
        )}
        <Picker label="Output into" value={load} choices={LOADS.map((id) => ({ id, text: id }))} onChange={(id) => onLoad(id as Load)} />
      </Bar>
      <DialTable
        rows={effective(rig, { mode: card.mode, values }).dials.map((state) => ({
          ...state,
          now: valueOn(now, state.dial),
          onChange: (value) => onDial({ [state.dial.id]: value }),
        }))}
      />
      <Bar>
        {isChanged && <Button onPress={onBack}>Back to the card</Button>}
        <ButtonLink href={`/bench?card=${card.id}`}>To the Bench</ButtonLink>
      </Bar>
    </section>
  );
}
