'use client';
/** Meter readings of the card: what they are worth now, the next mic gain, a new reading, and those before. */
import { useState } from 'react';
import styled from 'styled-components';
import { useDraft } from '@/client/useDraft.ts';
import { useForm } from '@/client/useForm.ts';
import { useSave } from '@/client/useSave.ts';
import { type AlcStanding, gainSentence, SAID, SAID_LABELS, type Said } from '@/core/advice/index.ts';
import {
  alcError,
  dialInRole,
  fullScale,
  ofScale,
  parseAlc,
  parseReading,
  type RigProfile,
  readingText,
  valueOn,
  valueText,
} from '@/core/rig/index.ts';
import { fixed } from '@/core/units/index.ts';
import type { BenchView } from '@/server/bench/bench.ts';
import { saveReading } from '@/server/readings/actions.ts';
import type { ReadingView } from '@/server/readings/readings.ts';
import { Bar, Button } from '@/ui/parts/Button.tsx';
import { RefusalNotice } from '@/ui/parts/DraftNotice.tsx';
import { Field } from '@/ui/parts/Field.tsx';
import { Picker } from '@/ui/parts/Picker.tsx';
import { Scroll, Table } from '@/ui/parts/Table.tsx';
import { TableHead } from '@/ui/parts/TableHead.tsx';
import { SaveNotice } from '@/ui/shell/SaveNotice.tsx';
import { utc } from '@/ui/utc.ts';

const Row = styled.form`display: flex; flex-wrap: wrap; gap: 10px 14px; align-items: end; margin: 6px 0 10px; label + * { max-width: 110px; }`;
const Part = styled.section`margin-top: 18px; max-width: 760px; h2 { margin-bottom: 4px; }`;
const Next = styled.p`font-size: 17px; font-weight: 700; margin: 4px 0;`;

export function Readings({ bench, standing }: { bench: BenchView; standing: AlcStanding }) {
  const { card, readings } = bench;
  return (
    <Part aria-label="Meter readings">
      <h2>Meter readings</h2>
      <Worth rig={card.rig.profile} standing={standing} />
      <NextGain bench={bench} standing={standing} />
      <NewReading key={card.revisions[0].id} bench={bench} />
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
  return (
    <>
      <Next>{gainSentence(card.rig.profile, gain)}</Next>
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

const EMPTY = { alc: '', compression: '', power: '', swr: '', said: 'talk' as Said };

function NewReading({ bench: { card, over } }: { bench: BenchView }) {
  const [newest] = card.revisions;
  const full = fullScale(card.rig.profile.alc);
  const form = useDraft(`reading ${card.id}`, EMPTY);
  const [isKept, setIsKept] = useState(false);
  const { alc, compression, power, swr, said } = form.value;
  const read = {
    alc: parseAlc(alc, full),
    compressionDb: parseReading(compression, 60, true),
    powerW: parseReading(power, 5000),
    swr: swrOf(swr),
  };
  const numbers = Object.values(read);
  const isGood = numbers.every((each) => each !== undefined) && numbers.some((each) => each !== null);
  const overId = over?.revision.id === newest.id ? over.id : null;
  const { refusal, isSaving, submit } = useForm(
    form,
    async () =>
      saveReading({
        cardRevisionId: newest.id,
        overId,
        said,
        alc: read.alc ?? null,
        compressionDb: read.compressionDb ?? null,
        powerW: read.powerW ?? null,
        swr: read.swr ?? null,
      }),
    () => {
      form.discard();
      setIsKept(true);
    },
  );
  const set = (change: Partial<typeof EMPTY>) => {
    setIsKept(false);
    form.set(change);
  };
  return (
    <>
      <Row
        aria-label="New reading"
        onSubmit={(event) => {
          event.preventDefault();
          if (isGood) submit();
        }}
      >
        <Field
          label={`ALC, 0 to ${full}`}
          value={alc}
          onChange={(text) => set({ alc: text })}
          inputMode="decimal"
          error={read.alc === undefined ? alcError(full) : undefined}
        />
        <Picker
          label="Read on"
          choices={SAID.map((id) => ({ id, text: SAID_LABELS[id] }))}
          value={said}
          onChange={(id) => set({ said: id as Said })}
        />
        <Field
          label="Compression, dB"
          value={compression}
          onChange={(text) => set({ compression: text })}
          inputMode="decimal"
          error={read.compressionDb === undefined ? '0 to 60 dB.' : undefined}
        />
        <Field
          label="Power, W"
          value={power}
          onChange={(text) => set({ power: text })}
          inputMode="decimal"
          error={read.powerW === undefined ? 'Up to 5000 W.' : undefined}
        />
        <Field
          label="SWR"
          value={swr}
          onChange={(text) => set({ swr: text })}
          inputMode="decimal"
          error={read.swr === undefined ? '1 to 100.' : undefined}
        />
        <Button type="submit" isDisabled={!isGood || isSaving}>
          Save reading
        </Button>
        {isKept && <span role="status">Saved with revision {newest.number}.</span>}
      </Row>
      <RefusalNotice refusal={refusal} onForce={submit} />
    </>
  );
}

const swrOf = (text: string): number | null | undefined => {
  const value = parseReading(text, 100);
  return typeof value === 'number' && value < 1 ? undefined : value;
};

/** What the meters showed, newest first, with where the gain stood. */
function Before({ bench: { card, readings } }: { bench: BenchView }) {
  const rig = card.rig.profile;
  const gain = dialInRole(rig, 'mic-gain', card.mode);
  const meters = ({ compressionDb, powerW, swr }: ReadingView): string =>
    [compressionDb !== null && `compression ${compressionDb} dB`, powerW !== null && `${powerW} W`, swr !== null && `SWR ${fixed(swr, 1)}`]
      .filter(Boolean)
      .join(', ');
  return (
    <Scroll>
      <Table>
        <TableHead
          columns={['UTC', { number: 'revision' }, { number: gain?.label ?? 'mic gain' }, { number: 'ALC' }, 'read on', 'other meters']}
        />
        <tbody>
          {readings.map((reading) => (
            <tr key={reading.key}>
              <td className="mono whole">{utc(reading.takenAt)}</td>
              <td className="num">{reading.revision.number}</td>
              <td className="num">{gain ? valueText(gain, valueOn({ mode: card.mode, values: reading.revision.values }, gain)) : ''}</td>
              <td className="num">{reading.alc === null ? '' : readingText(rig.alc, reading.alc)}</td>
              <td>{reading.said ? SAID_LABELS[reading.said] : `over ${reading.overId}`}</td>
              <td>{meters(reading)}</td>
            </tr>
          ))}
        </tbody>
      </Table>
    </Scroll>
  );
}
