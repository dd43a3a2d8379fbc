'use client';
/** The practice radio: dials, a key to talk, meters as plain scales, and receivers that deliver files. */
import { useEffect, useRef, useState } from 'react';
import styled from 'styled-components';
import { useAddFiles } from '@/client/addRecording.ts';
import { sentenceOf } from '@/client/sentence.ts';
import { type PracticeAnswer, type PracticeRequest, transmit } from '@/client/transmit.ts';
import { useDraft } from '@/client/useDraft.ts';
import { useWorkingCard } from '@/client/useWorkingCard.ts';
import { type DialValues, effective, readingText, valueOn } from '@/core/rig/index.ts';
import { hiddenRadio, hiddenTruths, PRACTICE_RADIOS, PRACTICE_RECEIVERS } from '@/core/simulate/index.ts';
import { fixed } from '@/core/units/index.ts';
import type { BenchView } from '@/server/bench/bench.ts';
import { DialTable } from '@/ui/dials/DialTable.tsx';
import { Playback } from '@/ui/listen/Playback.tsx';
import { Bar, Button, ButtonLink } from '@/ui/parts/Button.tsx';
import { Notice } from '@/ui/parts/Notice.tsx';
import { Picker } from '@/ui/parts/Picker.tsx';
import { Table } from '@/ui/parts/Table.tsx';
import { type Neighbours, Sentence } from '@/ui/shell/Sentence.tsx';
import { Shell } from '@/ui/shell/Shell.tsx';

const Columns = styled.div`
  display: grid; grid-template-columns: minmax(0, 1fr) minmax(380px, 0.8fr); min-height: calc(100vh - 53px);
  @media (max-width: 900px) { grid-template-columns: minmax(0, 1fr); }
  > section { padding: 16px 20px 30px; min-width: 0; }
  > aside { border-left: 1px solid var(--line); background: var(--sheet); padding: 16px 18px 30px; }`;
const Meters = styled.dl`
  display: grid; grid-template-columns: 110px 1fr 70px; gap: 8px 10px; align-items: center; margin: 10px 0 14px; dt { color: var(--soft); } dd { margin: 0; }
  .track { height: 16px; border: 1px solid var(--line); background: var(--paper); position: relative; }
  .zone { position: absolute; inset-block: 0; background: var(--signal-wash); border-inline: 1px solid var(--signal); }
  .now { position: absolute; inset-block: -3px; width: 3px; background: var(--ink); }
  .mono { text-align: right; white-space: nowrap; }`;

const Heard = styled(
  Table,
)`td { padding-block: 3px; } td > div { margin: 0; justify-content: flex-end; flex-wrap: nowrap; } button { padding: 2px 10px; min-height: 28px; font-size: 13.5px; }`;

type Load = PracticeRequest['load'];
const CAUTION: Record<Load, string> = {
  'dummy load': 'Into a dummy load, as every first trial should be.',
  antenna:
    'On a real antenna you would listen first, ask whether the frequency is in use and identify; your licence and local rules decide.',
};

const NOTHING: DialValues = {};

export function Practice({ bench, neighbours }: { bench: BenchView; neighbours: Neighbours }) {
  const { card } = bench;
  useWorkingCard(card.id);
  const over = bench.voice?.over ?? null;
  const rig = card.rig.profile;
  const [radio, setRadio] = useState(1);
  const [load, setLoad] = useState<Load>('dummy load');
  const { value: draft, set, discard } = useDraft<DialValues>(`practice ${card.id}`, NOTHING);
  const [isTalking, setIsTalking] = useState(false);
  const [made, setMade] = useState<{ meters: PracticeAnswer['meters']; monitor: string } | null>(null);
  const [error, setError] = useState<string | null>(null);
  const [isRevealed, setIsRevealed] = useState(false);
  const values = { ...card.revisions[0].values, ...draft };
  const settings = effective(rig, { mode: card.mode, values });
  const now = { mode: card.mode, values: card.revisions[0].values };
  const stale = () => setMade(null);
  const request = (receiver: number, isIq: boolean): PracticeRequest => ({ cardId: card.id, values, radio, receiver, isIq, load });
  const talk = async () => {
    setIsTalking(true);
    setError(null);
    try {
      const { file, meters } = await transmit(request(1, false));
      setMade({ meters, monitor: URL.createObjectURL(file) });
    } catch (problem) {
      setError((problem as Error).message);
    }
    setIsTalking(false);
  };
  const monitor = made?.monitor;
  useEffect(() => () => (monitor ? URL.revokeObjectURL(monitor) : undefined), [monitor]);
  return (
    <Shell sentence={<Sentence card={card} neighbours={neighbours} to="/practice" {...sentenceOf(card)} />}>
      <Columns>
        <section aria-label="The radio">
          <h1>Practice radio</h1>
          <p className="soft">
            A simulation: no radio is connected and nothing is transmitted. It has the dials of {rig.name},{' '}
            {over ? `your voice from over ${over.id}` : 'a synthetic voice until you record your own'}, and faults of its own to find with
            the evidence. What you set here stays here.
          </p>
          <Bar>
            <Picker
              label="Radio"
              value={String(radio)}
              choices={Array.from({ length: PRACTICE_RADIOS }, (_, k) => ({ id: String(k + 1), text: `number ${k + 1}` }))}
              onChange={(id) => {
                setRadio(Number(id));
                setIsRevealed(false);
                stale();
              }}
            />
            <Picker
              label="Output into"
              value={load}
              choices={(['dummy load', 'antenna'] as const).map((id) => ({ id, text: id }))}
              onChange={(id) => {
                setLoad(id as Load);
                stale();
              }}
            />
          </Bar>
          <DialTable
            rows={settings.dials.map((state) => ({
              ...state,
              now: valueOn(now, state.dial),
              onChange: (value) => {
                set({ [state.dial.id]: value });
                stale();
              },
            }))}
          />
          <Bar>
            {Object.keys(draft).length > 0 && (
              <Button
                onPress={() => {
                  discard();
                  stale();
                }}
              >
                Back to the card
              </Button>
            )}
            <ButtonLink href={`/bench?card=${card.id}`}>To the Bench</ButtonLink>
          </Bar>
        </section>
        <aside aria-label="Over">
          <h2>Talk</h2>
          <p className="soft">{CAUTION[load]} The meter holds its peaks.</p>
          <Bar>
            <Button primary isDisabled={isTalking} onPress={() => void talk()}>
              {isTalking ? 'Talking ...' : 'Key up and talk'}
            </Button>
          </Bar>
          {error && <Notice tone="fault">{error}</Notice>}
          <MeterScales meters={made?.meters ?? null} bench={bench} />
          {made && (
            <>
              <p className="soft">Monitor, taken in the line (headphones: start low):</p>
              <Playback url={made.monitor} label="Monitor" />
              <Receivers request={request} />
            </>
          )}
          <h2 style={{ marginTop: 18 }}>What it hides</h2>
          {isRevealed ? (
            <Table>
              <tbody>
                {hiddenTruths(rig, hiddenRadio(rig, radio)).map(({ what, is }) => (
                  <tr key={what}>
                    <td>{what}</td>
                    <td>{is}</td>
                  </tr>
                ))}
              </tbody>
            </Table>
          ) : (
            <>
              <p className="soft">Find out by measuring first: its filter, its decibels, its linearity, its room.</p>
              <Button onPress={() => setIsRevealed(true)}>Show what it hides</Button>
            </>
          )}
        </aside>
      </Columns>
    </Shell>
  );
}

/** The highest that each scale shows. */
const MOST_COMPRESSION_DB = 30;
const MOST_POWER = 1.3;
const MOST_SWR = 3;

/** At rest while nobody has talked. */
function MeterScales({ meters, bench }: { meters: PracticeAnswer['meters'] | null; bench: BenchView }) {
  const meter = bench.card.rig.profile.alc;
  const alc = meters?.alc.usual ?? null;
  const rows = [
    { name: 'ALC', share: alc ?? 0, text: alc === null ? '–' : readingText(meter, alc), zone: meter.zone },
    ...(meters
      ? [
          {
            name: 'Compression',
            share: meters.compressionDb / MOST_COMPRESSION_DB,
            text: `${fixed(meters.compressionDb, 0)} dB`,
            zone: null,
          },
          { name: 'Power (peak)', share: meters.power / MOST_POWER, text: `${fixed(100 * meters.power, 0)} %`, zone: null },
          { name: 'SWR', share: (meters.swr - 1) / (MOST_SWR - 1), text: fixed(meters.swr, 1), zone: null },
        ]
      : ['Compression', 'Power (peak)', 'SWR'].map((name) => ({ name, share: 0, text: '–', zone: null }))),
  ];
  return (
    <Meters aria-label="Meters">
      {rows.map(({ name, share, text, zone }) => (
        <MeterRow key={name} name={name} share={Math.max(0, Math.min(1, share))} text={text} zone={zone} />
      ))}
    </Meters>
  );
}

function MeterRow({ name, share, text, zone }: { name: string; share: number; text: string; zone: readonly number[] | null }) {
  return (
    <>
      <dt>{name}</dt>
      <dd>
        <div className="track" aria-hidden>
          {zone && <span className="zone" style={{ left: `${100 * zone[0]}%`, right: `${100 * (1 - zone[1])}%` }} />}
          <span className="now" style={{ left: `calc(${100 * share}% - 1.5px)` }} />
        </div>
      </dd>
      <dd className="mono">{text}</dd>
    </>
  );
}

/** Each delivers the over as a file, which goes in by the same door as a real one. */
function Receivers({ request }: { request: (receiver: number, isIq: boolean) => PracticeRequest }) {
  const addFiles = useAddFiles();
  const [busy, setBusy] = useState<string | null>(null);
  const [error, setError] = useState<string | null>(null);
  const isThere = useRef(true);
  useEffect(() => {
    isThere.current = true;
    return () => {
      isThere.current = false;
    };
  }, []);
  const take = async (receiver: number, isIq: boolean) => {
    setBusy(`${receiver}${isIq}`);
    setError(null);
    try {
      const { file } = await transmit(request(receiver, isIq));
      if (isThere.current) addFiles([file]);
    } catch (problem) {
      setError((problem as Error).message);
    }
    setBusy(null);
  };
  return (
    <>
      <h2>Choose a receiver</h2>
      <p className="soft">Take the over as a recording, from whoever heard it. Its file name says that it is simulated.</p>
      {error && <Notice tone="fault">{error}</Notice>}
      <Heard>
        <tbody>
          {PRACTICE_RECEIVERS.map(({ name }, k) => (
            <tr key={name}>
              <td>{name}</td>
              <td className="num">
                <Bar>
                  <Button aria-label={`Audio of ${name}`} isDisabled={busy !== null} onPress={() => void take(k, false)}>
                    {busy === `${k}false` ? '…' : 'Audio'}
                  </Button>
                  <Button aria-label={`I/Q of ${name}`} isDisabled={busy !== null} onPress={() => void take(k, true)}>
                    {busy === `${k}true` ? '…' : 'I/Q'}
                  </Button>
                </Bar>
              </td>
            </tr>
          ))}
        </tbody>
      </Heard>
    </>
  );
}
