'use client';
/** What the model expects of the card at a stage, as it stands and with the values being tried, and how it sounds. */
import { useState } from 'react';
import styled from 'styled-components';
import { type Judged, useJudged } from '@/client/useJudged.ts';
import { modelWork } from '@/client/workers/coreWork.ts';
import type { ModelVoice } from '@/client/workers/model.worker.ts';
import type { Driven, Elsewhere } from '@/core/advice/index.ts';
import { canJudge, type JudgedCard } from '@/core/intelligibility/index.ts';
import { type Card, type MicrophoneUse, type RigProfile, readingText, type StageKey } from '@/core/rig/index.ts';
import { type ListenAt, PATHS, RECEIVERS, type Way } from '@/core/simulate/index.ts';
import { type Fraction, fixed, signed } from '@/core/units/index.ts';
import { Hear } from '@/ui/listen/Hear.tsx';
import { Bar } from '@/ui/parts/Button.tsx';
import { Picker } from '@/ui/parts/Picker.tsx';
import { Table } from '@/ui/parts/Table.tsx';
import { TableHead } from '@/ui/parts/TableHead.tsx';

/** Numbers beside what can be heard, where there is room. */
const Beside = styled.div`
  display: grid; gap: 6px 32px; grid-template-columns: minmax(0, 640px) minmax(0, 1fr); align-items: start;
  @media (max-width: 1180px) { grid-template-columns: minmax(0, 1fr); }`;
export const Box = styled.section`margin-top: 22px; max-width: 660px; h2 { margin-bottom: 4px; } p { margin: 4px 0 8px; }`;

/** Where each stage is listened to, and the place before it. */
const HEARD_AT: Partial<Record<StageKey, readonly [before: ListenAt, after: ListenAt]>> = {
  mic: ['voice', 'mic'],
  gain: ['mic', 'gain'],
  compressor: ['equalizer', 'compressor'],
  passband: ['compressor', 'passband'],
  alc: ['passband', 'alc'],
  heard: ['voice', 'heard'],
};

export interface ModelPanelProps {
  readonly stage: StageKey;
  readonly rig: RigProfile;
  /** Null while no over of the card has a recording. */
  readonly voice: ModelVoice | null;
  readonly elsewhere: Elsewhere | undefined;
  readonly now: Card;
  readonly wanted: Card;
  /** The microphone as it is being tried, where that is not as on the card. */
  readonly wantedUse?: MicrophoneUse;
}

export function ModelPanel({ stage, rig, voice, elsewhere, now, wanted, wantedUse }: ModelPanelProps) {
  const isJudged = canJudge(now);
  const standing = useJudged(isJudged ? voice : null, now, { elsewhere });
  const isChanged = wantedUse !== undefined || JSON.stringify(now.values) !== JSON.stringify(wanted.values);
  const tried = { elsewhere, usedAs: wantedUse };
  const trying = useJudged(isJudged && isChanged ? voice : null, wanted, tried);
  const [path, setPath] = useState('clear');
  const [receiver, setReceiver] = useState('good');
  const places = HEARD_AT[stage];
  if (!voice)
    return (
      <Box>
        <h2>What to expect</h2>
        <p>
          No recording of your voice yet: with one of your overs the model tells reach, naturalness and the level into the ALC, and lets you
          hear them.
        </p>
      </Box>
    );
  const [before, after] = places ?? ['voice', 'heard'];
  const way: Way = { path: PATHS[path].path, receiver: RECEIVERS[receiver].receiver };
  const render = async () => {
    const first = isChanged ? { card: now, elsewhere, at: after } : { card: wanted, ...tried, at: before };
    const { sounds, rateHz } = await modelWork().hear(voice, [first, { card: wanted, ...tried, at: after }], way);
    return { before: { samples: sounds[0], rateHz }, after: { samples: sounds[1], rateHz } };
  };
  const labels = isChanged
    ? { before: 'A as it stands', after: 'B with these values' }
    : stage === 'heard'
      ? { before: 'A your own voice', after: 'B as heard' }
      : { before: 'A before this stage', after: 'B behind it' };
  return (
    <Box style={{ maxWidth: 'none' }}>
      <h2>What to expect</h2>
      <p className="soft">
        {isJudged
          ? `Calculated from your recorded voice and a model of the radio${matchedTo((elsewhere ?? voice).driven, now, standing)}. An expectation, not a measurement.`
          : 'Your recorded voice through a model of the radio. Reach and naturalness are calculated for single sideband only.'}
      </p>
      <Beside>
        {isJudged && <Numbers rig={rig} standing={standing} trying={isChanged ? trying : null} />}
        <div>
          {stage === 'heard' && (
            <Bar>
              <Picker label="Path" value={path} choices={choices(PATHS)} onChange={setPath} />
              <Picker label="Receiver" value={receiver} choices={choices(RECEIVERS)} onChange={setReceiver} />
            </Bar>
          )}
          <Bar>
            <Hear
              render={render}
              renderKey={JSON.stringify([now.values, wanted.values, wantedUse, stage, path, receiver])}
              labels={labels}
              text={isChanged ? 'Hear both' : stage === 'heard' ? 'Hear it there' : 'Hear this stage'}
            />
          </Bar>
        </div>
      </Beside>
    </Box>
  );
}

/** What the model's gain goes by. A processor that holds the level may keep it from the ALC that was read. */
function matchedTo({ card, alc }: Driven, now: Card, standing: Judged): string {
  if (alc === null) return ', its gain assumed so that the ALC was in the zone';
  const isNow = JSON.stringify(card.values) === JSON.stringify(now.values);
  const isFar = isNow && standing.kind === 'done' && Math.abs((standing.judged.alc.usual ?? 0) - alc) > FAR;
  return `, its gain matched to the ALC you read${isFar ? ' as far as its processor lets the level through' : ''}`;
}
const FAR: Fraction = 0.1;

const choices = (ways: Readonly<Record<string, { text: string }>>) => Object.entries(ways).map(([id, { text }]) => ({ id, text }));

const ROWS: readonly { readonly name: string; readonly of: (judged: JudgedCard, rig: RigProfile) => string }[] = [
  {
    name: 'Reach against your flat, uncompressed voice',
    of: ({ reach: { reachDb, uncertaintyDb } }) =>
      reachDb === null ? 'not readable' : `${signed(reachDb, 1)} dB ± ${fixed(uncertaintyDb ?? 0, 1)}`,
  },
  { name: 'Naturalness, of 100', of: ({ naturalness }) => String(Math.round(naturalness.score)) },
  { name: 'ALC on speech peaks', of: ({ alc }, rig) => (alc.usual === null ? 'no drive' : readingText(rig.alc, alc.usual)) },
  { name: 'Peak over average', of: ({ peakToAverageDb }) => `${fixed(peakToAverageDb, 1)} dB` },
  { name: 'Distortion re the voice', of: ({ reach }) => `${fixed(Math.max(-60, reach.distortionDb), 0)} dB` },
];

function Numbers({ rig, standing, trying }: { rig: RigProfile; standing: Judged; trying: Judged | null }) {
  const cell = (judged: Judged, of: (typeof ROWS)[number]['of']) =>
    judged.kind === 'done' ? of(judged.judged, rig) : judged.kind === 'working' ? '…' : '–';
  const why = [standing, trying].find((each) => each?.kind === 'impossible');
  if (why?.kind === 'impossible') return <p>{why.why}</p>;
  return (
    <Table aria-label="What the model expects">
      <TableHead columns={['What', { number: 'as the card stands' }, ...(trying ? [{ number: 'with these values' }] : [])]} />
      <tbody>
        {ROWS.map(({ name, of }) => (
          <tr key={name}>
            <td>{name}</td>
            <td className="num">{cell(standing, of)}</td>
            {trying && <td className="num new">{cell(trying, of)}</td>}
          </tr>
        ))}
      </tbody>
    </Table>
  );
}
