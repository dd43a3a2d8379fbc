'use client';
/** What the station has, with the ways to describe, copy, retire and move it. */
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { type ReactNode, useState, useTransition } from 'react';
import styled from 'styled-components';
import { asked } from '@/client/asked.ts';
import { receiverKindText } from '@/core/measure/index.ts';
import { equalizerText, hasUnknownWidth } from '@/core/rig/index.ts';
import { DISTANCE_UNIT_LABELS, DISTANCE_UNITS, type DistanceUnit } from '@/core/units/index.ts';
import type { PartKind } from '@/server/requests/requests.ts';
import { chooseDistance, chooseWho, retire } from '@/server/station/actions.ts';
import type { Station } from '@/server/station/station.ts';
import { useDistance } from '@/ui/distance.ts';
import { useKeys } from '@/ui/keys.ts';
import { Bar, Button, ButtonLink } from '@/ui/parts/Button.tsx';
import { Check } from '@/ui/parts/Check.tsx';
import { Field } from '@/ui/parts/Field.tsx';
import { Notice } from '@/ui/parts/Notice.tsx';
import { Picker } from '@/ui/parts/Picker.tsx';
import { StateMark } from '@/ui/parts/StateMark.tsx';
import { Table } from '@/ui/parts/Table.tsx';
import { Page, Shell } from '@/ui/shell/Shell.tsx';
import { Backup } from './Backup.tsx';
import { ImportPart } from './ImportPart.tsx';
import { OperatorSheet } from './OperatorSheet.tsx';
import { ReceiverSheet } from './ReceiverSheet.tsx';

const Grid = styled.div`
  display: grid; grid-template-columns: 5fr 6fr; gap: 8px 36px; align-items: start;
  @media (max-width: 900px) { grid-template-columns: 1fr; }
  section { padding: 10px 0 16px; }
  .do { white-space: nowrap; text-align: right; }
  .do button, .do a { border: 0; background: none; padding: 0 0 0 10px; color: var(--signal); cursor: pointer; text-decoration: underline; text-underline-offset: 3px; font-size: 14px; min-height: 0; }`;
const Top = styled.div`display: flex; gap: 24px; align-items: end; flex-wrap: wrap; margin: 6px 0;`;

type Editing = { readonly kind: 'operator' | 'receiver'; readonly id?: number; readonly isCopy?: boolean } | null;

export function StationPage({
  station,
  staleMemories,
  withRetired,
  who,
}: {
  station: Station;
  staleMemories: Readonly<Record<number, readonly number[]>>;
  withRetired: boolean;
  who: string;
}) {
  const distance = useDistance();
  const [words, setWords] = useState('');
  const { operators, rigs, microphones, receivers } = found(station, words);
  const router = useRouter();
  const [editing, setEditing] = useState<Editing>(null);
  const [gone, setGone] = useState<{ kind: PartKind; id: number; name: string } | null>(null);
  const [message, setMessage] = useState<string | null>(null);
  const [isBusy, start] = useTransition();
  useKeys({ r: () => router.push('/station/rigs/new') });
  const put = (kind: PartKind, { id, name }: { id: number; name: string }, isRetired: boolean) =>
    start(async () => {
      const answer = await asked(retire({ kind, id, isRetired }));
      setMessage(answer.ok ? null : answer.message);
      setGone(answer.ok && isRetired ? { kind, id, name } : null);
    });
  const doings = (
    kind: PartKind,
    row: { id: number; name: string; isRetired: boolean },
    edit: ReactNode,
    copy: ReactNode,
    file?: string,
  ) => (
    <>
      {edit}
      {copy}
      {file && (
        <a href={file} aria-label={`${row.name} as a file`}>
          File
        </a>
      )}
      <Button
        aria-label={`${row.isRetired ? 'Restore' : 'Retire'} ${row.name}`}
        isDisabled={isBusy}
        onPress={() => put(kind, row, !row.isRetired)}
      >
        {row.isRetired ? 'Restore' : 'Retire'}
      </Button>
    </>
  );
  const sheetDoings = (kind: 'operator' | 'receiver', row: { id: number; name: string; isRetired: boolean }) =>
    doings(
      kind,
      row,
      <Button aria-label={`Edit ${row.name}`} onPress={() => setEditing({ kind, id: row.id })}>
        Edit
      </Button>,
      <Button aria-label={`Copy ${row.name}`} onPress={() => setEditing({ kind, id: row.id, isCopy: true })}>
        Copy
      </Button>,
    );
  const pageDoings = (kind: 'rig' | 'microphone', row: { id: number; name: string; isRetired: boolean }) =>
    doings(
      kind,
      row,
      <Link href={`/station/${kind}s/${row.id}`} aria-label={`Edit ${row.name}`}>
        Edit
      </Link>,
      <Link href={`/station/${kind}s/new?copy=${row.id}`} aria-label={`Copy ${row.name}`}>
        Copy
      </Link>,
      `/api/${kind}s/${row.id}`,
    );
  const named = ({ name, isRetired }: { name: string; isRetired: boolean }) => (isRetired ? `${name} (retired)` : name);
  return (
    <Shell>
      <Page>
        <h1>Station</h1>
        <p className="soft">Who talks, into what, on which radio, and where it is heard.</p>
        <Top>
          <Picker
            label="Operator (noted with every revision)"
            choices={[
              { id: '', text: "the card's operator" },
              ...station.operators.map(({ name, callsign }) => ({ id: name, text: name, note: callsign })),
            ]}
            value={station.operators.some(({ name }) => name === who) ? who : ''}
            onChange={(by) =>
              start(async () => {
                const answer = await asked(chooseWho({ by }));
                setMessage(answer.ok ? null : answer.message);
              })
            }
          />
          <Picker
            label="Talking distances in"
            choices={DISTANCE_UNITS.map((id) => ({ id, text: DISTANCE_UNIT_LABELS[id] }))}
            value={distance.unit}
            onChange={(unit) =>
              start(async () => {
                const answer = await asked(chooseDistance({ unit: unit as DistanceUnit }));
                setMessage(answer.ok ? null : answer.message);
              })
            }
          />
          <Field label="Find" value={words} onChange={setWords} maxLength={60} />
          <Check isSelected={withRetired} onChange={(isOn) => router.replace(isOn ? '/station?retired=1' : '/station')}>
            Show retired
          </Check>
        </Top>
        {message && <Notice tone="fault">{message}</Notice>}
        {gone && (
          <Notice>
            {gone.name} is retired: it is offered no more, and its cards and overs stay.
            <Button onPress={() => put(gone.kind, gone, false)}>Undo</Button>
          </Notice>
        )}
        <Grid>
          <Part
            title="Operators"
            headings={['name', 'callsign', '', '']}
            rows={operators.map((row) => [String(row.id), named(row), row.callsign, row.note, sheetDoings('operator', row)])}
            add={<Button onPress={() => setEditing({ kind: 'operator' })}>Add an operator</Button>}
          />
          <Part
            title="Rigs"
            headings={['name', 'modes', 'equalizer', '']}
            rows={rigs.map((row) => [
              String(row.id),
              named(row),
              row.profile.modes.map((mode) => mode.toUpperCase()).join(', '),
              <span key="eq">
                {equalizerText(row.profile)}
                {hasUnknownWidth(row.profile) && <div className="soft">width number unknown</div>}
                {(row.profile.voiceMemories ?? 0) > 0 && (
                  <div className="whole">
                    <Link href={`/station/rigs/${row.id}/memories`}>voice memories</Link>
                    {staleMemories[row.id] && (
                      <span>
                        {' '}
                        <StateMark state="stale" /> {staleMemories[row.id].length} stale
                      </span>
                    )}
                  </div>
                )}
              </span>,
              pageDoings('rig', row),
            ])}
            add={
              <>
                <ButtonLink href="/station/rigs/new">Describe a radio</ButtonLink>
                <ImportPart kind="rig" />
              </>
            }
          />
          <Part
            title="Microphones"
            headings={['name', 'kind', 'distance', '']}
            rows={microphones.map((row) => [
              String(row.id),
              named(row),
              row.profile.kind,
              distance.text(row.profile.distanceCm),
              pageDoings('microphone', row),
            ])}
            add={
              <>
                <ButtonLink href="/station/microphones/new">Describe a microphone</ButtonLink>
                <ImportPart kind="microphone" />
              </>
            }
          />
          <Part
            title="Receivers"
            headings={['name', 'kind', 'hears', '']}
            rows={receivers.map((row) => [
              String(row.id),
              named(row),
              receiverKindText(row.kind),
              `${row.lowHz}–${row.highHz} Hz`,
              sheetDoings('receiver', row),
            ])}
            add={<Button onPress={() => setEditing({ kind: 'receiver' })}>Add a receiver</Button>}
          />
        </Grid>
        <Bar>
          <ButtonLink href="/cards">Make a card of these</ButtonLink>
        </Bar>
        <Bar>
          <ButtonLink href="/station/limits">Limits for findings</ButtonLink>
          <ButtonLink href="/testbench">Test bench: signals and calculators</ButtonLink>
        </Bar>
        <Backup />
        {editing?.kind === 'operator' && (
          <OperatorSheet
            operator={station.operators.find(({ id }) => id === editing.id)}
            isCopy={editing.isCopy ?? false}
            onClose={() => setEditing(null)}
          />
        )}
        {editing?.kind === 'receiver' && (
          <ReceiverSheet
            receiver={station.receivers.find(({ id }) => id === editing.id)}
            isCopy={editing.isCopy ?? false}
            onClose={() => setEditing(null)}
          />
        )}
      </Page>
    </Shell>
  );
}

/** The parts whose name, callsign, kind or note holds the words. */
function found(station: Station, words: string): Station {
  const look = words.trim().toLowerCase();
  const holds = (...texts: readonly string[]) => texts.some((text) => text.toLowerCase().includes(look));
  return {
    operators: station.operators.filter(({ name, callsign, note }) => holds(name, callsign, note)),
    rigs: station.rigs.filter(({ name, profile }) => holds(name, profile.note ?? '')),
    microphones: station.microphones.filter(({ name, profile }) => holds(name, profile.kind, profile.note ?? '')),
    receivers: station.receivers.filter(({ name, path, note }) => holds(name, path, note)),
  };
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
        <p className="soft">None here.</p>
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
                  <td key={i} className={i === 0 || /\d Hz$/.test(String(cell)) ? 'whole' : i === cells.length - 1 ? 'do' : undefined}>
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
