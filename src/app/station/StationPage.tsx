'use client';
import { type ReactNode, useState, useTransition } from 'react';
/** What the station has, and a way to add to each. */
import { FileTrigger } from 'react-aria-components';
import styled from 'styled-components';
import { MODE_LABELS } from '@/core/station/card.ts';
import { equalizerText } from '@/core/station/equalizer.ts';
import type { Answer } from '@/server/answer.ts';
import type { Station } from '@/server/station.ts';
import { Bar, Button, ButtonLink } from '@/ui/parts/Button.tsx';
import { Dialog } from '@/ui/parts/Dialog.tsx';
import { Field } from '@/ui/parts/Field.tsx';
import { Notice } from '@/ui/parts/Notice.tsx';
import { Picker } from '@/ui/parts/Picker.tsx';
import { Table } from '@/ui/parts/Table.tsx';
import { makeMicrophone, makeOperator, makeReceiver, makeRig } from '../actions.ts';
import { Page, Shell } from '../shell/Shell.tsx';

const Grid = styled.div`
  display: grid; grid-template-columns: 1fr 1fr; gap: 8px 40px; align-items: start;
  @media (max-width: 900px) { grid-template-columns: 1fr; }
  section { padding: 10px 0 16px; }`;

const RECEIVER_KINDS = [
  { id: 'local', text: 'second receiver nearby' },
  { id: 'remote', text: 'remote receiver' },
  { id: 'in-line', text: 'tap in the antenna line' },
  { id: 'monitor', text: "the radio's own monitor" },
] as const;
type ReceiverKind = (typeof RECEIVER_KINDS)[number]['id'];
const kindText = (kind: string) => RECEIVER_KINDS.find(({ id }) => id === kind)?.text ?? kind;

export function StationPage({ station: { operators, rigs, microphones, receivers } }: { station: Station }) {
  return (
    <Shell>
      <Page>
        <h1>Station</h1>
        <p className="soft">Who talks, into what, on which radio, and where it is heard.</p>
        <Grid>
          <Part
            title="Operators"
            headings={['name', 'callsign', '']}
            rows={operators.map(({ id, name, callsign, note }) => [String(id), name, callsign, note])}
            add={<AddOperator />}
          />
          <Part
            title="Rigs"
            headings={['name', 'modes', 'equalizer', 'profile']}
            rows={rigs.map(({ id, name, profile }) => [
              String(id),
              name,
              profile.modes.map((mode) => MODE_LABELS[mode]).join(', '),
              equalizerText(profile),
              <a key="file" href={`/api/rigs/${id}`} aria-label={`Profile of ${name} as a file`}>
                JSON
              </a>,
            ])}
            add={<AddRig />}
          />
          <Part
            title="Microphones"
            headings={['name', 'kind', 'distance']}
            rows={microphones.map(({ id, name, kind, distanceCm }) => [
              String(id),
              name,
              kind,
              distanceCm === null ? '' : `${distanceCm} cm`,
            ])}
            add={<AddMicrophone />}
          />
          <Part
            title="Receivers"
            headings={['name', 'kind', 'hears', '']}
            rows={receivers.map(({ id, name, kind, lowHz, highHz, note }) => [
              String(id),
              name,
              kindText(kind),
              `${lowHz}–${highHz} Hz`,
              note,
            ])}
            add={<AddReceiver />}
          />
        </Grid>
        <Bar>
          <ButtonLink href="/cards">Make a card of these</ButtonLink>
        </Bar>
      </Page>
    </Shell>
  );
}

function Part({
  title,
  headings,
  rows,
  add,
}: {
  title: string;
  headings: readonly string[];
  rows: readonly (readonly ReactNode[])[];
  add: ReactNode;
}) {
  return (
    <section aria-label={title}>
      <h2>{title}</h2>
      {rows.length === 0 ? (
        <p className="soft">None yet.</p>
      ) : (
        <Table>
          <thead>
            <tr>
              {headings.map((heading, i) => (
                <th key={i}>{heading}</th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map(([key, ...cells]) => (
              <tr key={String(key)}>
                {cells.map((cell, i) => (
                  <td key={i} className={i === 0 || /\d Hz$/.test(String(cell)) ? 'whole' : undefined}>
                    {cell}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </Table>
      )}
      <Bar>{add}</Bar>
    </section>
  );
}

/** A button that opens a sheet with fields and keeps it open until the server has taken them. */
function AddSheet({
  title,
  save,
  isReady,
  children,
}: {
  title: string;
  save: () => Promise<Answer<unknown>>;
  isReady: boolean;
  children: ReactNode;
}) {
  const [isOpen, setIsOpen] = useState(false);
  const [message, setMessage] = useState<string | null>(null);
  const [isSaving, start] = useTransition();
  const submit = () =>
    start(async () => {
      const answer = await save();
      setMessage(answer.ok ? null : answer.message);
      if (answer.ok) setIsOpen(false);
    });
  return (
    <>
      <Button onPress={() => setIsOpen(true)}>{title}</Button>
      <Dialog title={title} isOpen={isOpen} onClose={() => setIsOpen(false)}>
        <form
          style={{ display: 'grid', gap: 12, marginTop: 10 }}
          onSubmit={(event) => {
            event.preventDefault();
            if (isReady) submit();
          }}
        >
          {children}
          {message && <Notice tone="fault">{message}</Notice>}
          <Bar>
            <Button primary type="submit" isDisabled={!isReady || isSaving}>
              Add
            </Button>
            <Button onPress={() => setIsOpen(false)}>Leave it</Button>
          </Bar>
        </form>
      </Dialog>
    </>
  );
}

function AddOperator() {
  const [name, setName] = useState('');
  const [callsign, setCallsign] = useState('');
  const isCall = /^[A-Za-z0-9/]{3,20}$/.test(callsign);
  return (
    <AddSheet title="Add an operator" isReady={name.trim() !== '' && isCall} save={() => makeOperator({ name, callsign })}>
      <Field label="Name" value={name} onChange={setName} maxLength={80} />
      <Field
        label="Callsign"
        value={callsign}
        onChange={setCallsign}
        maxLength={20}
        error={callsign !== '' && !isCall ? 'Letters, digits and /, at least three.' : undefined}
      />
    </AddSheet>
  );
}

function AddMicrophone() {
  const [name, setName] = useState('');
  const [kind, setKind] = useState('');
  const [distance, setDistance] = useState('');
  const cm = distance.trim() === '' ? null : Number(distance.replace(',', '.'));
  const isGood = cm === null || (cm > 0 && cm <= 200);
  return (
    <AddSheet
      title="Add a microphone"
      isReady={name.trim() !== '' && kind.trim() !== '' && isGood}
      save={() => makeMicrophone({ name, kind, distanceCm: cm })}
    >
      <Field label="Name" value={name} onChange={setName} maxLength={80} />
      <Field label="Kind, for example dynamic boom mic" value={kind} onChange={setKind} maxLength={60} />
      <Field
        label="Talking distance in cm"
        hint="5 to 10 for a boom or desk mic is common; then keep it."
        value={distance}
        onChange={setDistance}
        error={isGood ? undefined : 'A number up to 200.'}
      />
    </AddSheet>
  );
}

function AddReceiver() {
  const [name, setName] = useState('');
  const [kind, setKind] = useState<ReceiverKind>('local');
  const [low, setLow] = useState('100');
  const [high, setHigh] = useState('3500');
  const [lowHz, highHz] = [Number(low), Number(high)];
  const isGood = lowHz >= 10 && highHz <= 20000 && lowHz < highHz;
  return (
    <AddSheet title="Add a receiver" isReady={name.trim() !== '' && isGood} save={() => makeReceiver({ name, kind, lowHz, highHz })}>
      <Field label="Name" value={name} onChange={setName} maxLength={80} />
      <Picker label="Kind" choices={RECEIVER_KINDS} value={kind} onChange={(id) => setKind(id as ReceiverKind)} />
      <Field label="Lowest frequency it lets through, Hz" value={low} onChange={setLow} />
      <Field
        label="Highest, Hz"
        value={high}
        onChange={setHigh}
        error={isGood ? undefined : 'From 10 to 20000 Hz, the lowest below the highest.'}
      />
    </AddSheet>
  );
}

function AddRig() {
  const [message, setMessage] = useState<{ tone: 'plain' | 'fault'; text: string } | null>(null);
  const read = async (file: File | undefined) => {
    if (!file) return;
    if (file.size > 1_000_000) return setMessage({ tone: 'fault', text: `${file.name} is too large for a rig profile.` });
    const answer = await makeRig(await file.text());
    setMessage(answer.ok ? { tone: 'plain', text: `${file.name} was added.` } : { tone: 'fault', text: answer.message });
  };
  return (
    <>
      <FileTrigger acceptedFileTypes={['.json']} onSelect={(files) => void read(files?.[0])}>
        <Button>Add a rig from its profile file</Button>
      </FileTrigger>
      <span className="soft">Save one of these as JSON and change it to your radio: docs/formats says how.</span>
      {message && <Notice tone={message.tone}>{message.text}</Notice>}
    </>
  );
}
