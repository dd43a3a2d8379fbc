'use client';
/** Meter readings of the card: what they are worth now, the next mic gain, a new reading, and those before. */
import styled from 'styled-components';
import { useSave } from '@/client/useSave.ts';
import { type AlcStanding, gainSentence, SAID_LABELS, stepSentence } from '@/core/advice/index.ts';
import { dialInRole, hasAlc, ofScale, type RigProfile, readingText, valueOn, valueText } from '@/core/rig/index.ts';
import { decibels, fixed } from '@/core/units/index.ts';
import type { BenchView } from '@/server/bench/bench.ts';
import type { ReadingView } from '@/server/readings/readings.ts';
import { Bar, Button } from '@/ui/parts/Button.tsx';
import { Scroll, Table } from '@/ui/parts/Table.tsx';
import { TableHead } from '@/ui/parts/TableHead.tsx';
import { ReadingForm } from '@/ui/readings/ReadingForm.tsx';
import { SaveNotice } from '@/ui/shell/SaveNotice.tsx';
import { utc } from '@/ui/utc.ts';

const Part = styled.section`margin-top: 18px; max-width: 760px; h2 { margin-bottom: 4px; }`;
const Next = styled.p`font-size: 17px; font-weight: 700; margin: 4px 0;`;

interface ReadingsProps {
  readonly bench: BenchView;
  readonly standing: AlcStanding;
  /** Depth or deviation says where the gain goes. */
  readonly hasOwnLevel: boolean;
}

export function Readings({ bench, standing, hasOwnLevel }: ReadingsProps) {
  const { card, over, readings } = bench;
  return (
    <Part aria-label="Meter readings">
      <h2>Meter readings</h2>
      {hasAlc(card) && <Worth rig={card.rig.profile} standing={standing} />}
      {!hasOwnLevel && <NextGain bench={bench} standing={standing} />}
      <ReadingForm key={card.revisions[0].id} card={card} overId={over?.revision.id === card.revisions[0].id ? over.id : null} />
      {readings.length > 0 && <Before bench={bench} />}
    </Part>
  );
}

/** The newest ALC reading: whether it still holds, and what to expect if not. */
function Worth({ rig, standing: { newest } }: { rig: RigProfile; standing: AlcStanding }) {
  if (!newest)
    return (
      <p>No ALC reading yet. Talk into a dummy load, look at the meter on speech peaks, and type what it shows; no recording is needed.</p>
    );
  const read = `${readingText(rig.alc, newest.alc)} ${ofScale(rig.alc)}`;
  if (newest.changed.length === 0) return <p>The ALC reads {read} on speech peaks.</p>;
  const [low, likely, high] = newest.expected.map((each) => readingText(rig.alc, each));
  return (
    <p>
      <b>Stale:</b> it read {read}, and since then {newest.changed.join(', ')} changed. Expect about {likely} ({low} to {high}), and read it
      again.
    </p>
  );
}

function NextGain({ bench, standing: { gain } }: { bench: BenchView; standing: AlcStanding }) {
  const { card } = bench;
  const { save, isSaving, refusal, forget } = useSave({ card, over: null });
  if (!gain || bench.readings.every(({ alc }) => alc === null)) return null;
  const { dial, from, to } = gain;
  const step = stepSentence(card.rig.profile, gain);
  return (
    <>
      <Next>{gainSentence(card.rig.profile, gain)}</Next>
      {from !== to && <p className="soft">By the readings alone, with nothing else turned.</p>}
      {step && <p className="soft">{step}</p>}
      {from !== to && (
        <Bar>
          <Button primary isDisabled={isSaving} onPress={() => save({ values: { [dial.id]: to }, reason: 'mic gain by the ALC readings' })}>
            Put {valueText(dial, to)} on the card
          </Button>
        </Bar>
      )}
      <SaveNotice refusal={refusal} forget={forget} />
    </>
  );
}

/** What the meters showed, newest first, with where the gain stood. */
function Before({ bench: { card, readings } }: { bench: BenchView }) {
  const rig = card.rig.profile;
  const isAlcRead = hasAlc(card);
  const gain = dialInRole(rig, 'mic-gain', card.mode);
  const meters = ({ compressionDb, powerW, swr, adjacentDb }: ReadingView): string =>
    [
      compressionDb !== null && `compression ${compressionDb} dB`,
      powerW !== null && `${powerW} W`,
      swr !== null && `SWR ${fixed(swr, 1)}`,
      adjacentDb !== null && `next channel ${decibels(adjacentDb, 0)}`,
    ]
      .filter(Boolean)
      .join(', ');
  return (
    <Scroll>
      <Table>
        <TableHead
          columns={[
            'UTC',
            { number: 'revision' },
            { number: gain?.label ?? 'mic gain' },
            ...(isAlcRead ? [{ number: 'ALC' }] : []),
            'read on',
            isAlcRead ? 'other meters' : 'meters',
          ]}
        />
        <tbody>
          {readings.map((reading) => (
            <tr key={reading.key}>
              <td className="mono whole">{utc(reading.takenAt)}</td>
              <td className="num">{reading.revision.number}</td>
              <td className="num">{gain ? valueText(gain, valueOn({ mode: card.mode, values: reading.revision.values }, gain)) : ''}</td>
              {isAlcRead && <td className="num">{reading.alc === null ? '' : readingText(rig.alc, reading.alc)}</td>}
              <td>{reading.said ? SAID_LABELS[reading.said] : `over ${reading.overId}`}</td>
              <td>{meters(reading)}</td>
            </tr>
          ))}
        </tbody>
      </Table>
    </Scroll>
  );
}
