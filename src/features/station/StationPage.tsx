'use client';
/** Operators, rigs, microphones and receivers of this station, and the ways to add one. */
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState, useTransition } from 'react';
import styled from 'styled-components';
import { asked } from '@/client/asked.ts';
import { receiverKindText } from '@/core/measure/index.ts';
import { equalizerText, hasUnknownWidth } from '@/core/rig/index.ts';
import type { PartKind } from '@/server/requests/requests.ts';
import { retire } from '@/server/station/actions.ts';
import type { RigView, Station } from '@/server/station/station.ts';
import { useDistance } from '@/ui/distance.ts';
import { useKeys } from '@/ui/keys.ts';
import { Bar, Button, ButtonLink } from '@/ui/parts/Button.tsx';
import { Check } from '@/ui/parts/Check.tsx';
import { Field } from '@/ui/parts/Field.tsx';
import { Notice } from '@/ui/parts/Notice.tsx';
import { StateMark } from '@/ui/parts/StateMark.tsx';
import { Page, Shell } from '@/ui/shell/Shell.tsx';
import { Backup } from './Backup.tsx';
import { ImportPart } from './ImportPart.tsx';
import { OperatorSheet } from './OperatorSheet.tsx';
import { Doings, nameOf, type PartRow, PartTable } from './PartTable.tsx';
import { Preferences } from './Preferences.tsx';
import { ReceiverSheet } from './ReceiverSheet.tsx';

const Grid = styled.div`
  display: grid; grid-template-columns: 5fr 6fr; gap: 8px 36px; align-items: start;
  @media (max-width: 900px) { grid-template-columns: minmax(0, 1fr); }
  section { padding: 10px 0 16px; min-width: 0; }
  .do { white-space: nowrap; text-align: right; }
  .do button, .do a { border: 0; background: none; padding: 0 0 0 10px; color: var(--signal); cursor: pointer; text-decoration: underline; text-underline-offset: 3px; font-size: 14px; min-height: 0; }
  @media (max-width: 560px) {
    .do { white-space: normal; min-width: 70px; }
    .do button, .do a { display: inline-flex; align-items: center; min-height: 30px; padding-left: 12px; }
  }`;
const Top = styled.div`display: flex; gap: 12px 24px; align-items: end; flex-wrap: wrap; margin: 6px 0;`;

interface StationPageProps {
  readonly station: Station;
  readonly staleMemories: Readonly<Record<number, readonly number[]>>;
  readonly withRetired: boolean;
  readonly who: string;
}

type Editing = { readonly kind: 'operator' | 'receiver'; readonly id?: number; readonly isCopy?: boolean };

export function StationPage({ station, staleMemories, withRetired, who }: StationPageProps) {
  const [words, setWords] = useState('');
  const router = useRouter();
  useKeys({ r: () => router.push('/station/rigs/new') });
  return (
    <Shell>
      <Page>
        <h1>Station</h1>
        <p className="soft">Who talks, into what, on which radio, and where it is heard.</p>
        <Top>
          <Preferences operators={station.operators} who={who} />
          <Field label="Find" value={words} onChange={setWords} maxLength={60} />
          <Check isSelected={withRetired} onChange={(isOn) => router.replace(isOn ? '/station?retired=1' : '/station')}>
            Show retired
          </Check>
        </Top>
        <Parts station={station} shown={found(station, words)} staleMemories={staleMemories} />
        <Bar>
          <ButtonLink href="/cards">Make a card of these</ButtonLink>
        </Bar>
        <Bar>
          <ButtonLink href="/station/limits">Limits for findings</ButtonLink>
          <ButtonLink href="/testbench">Test bench: signals and calculators</ButtonLink>
        </Bar>
        <Backup />
      </Page>
    </Shell>
  );
}

/** Retiring a part and taking that back. */
function useRetiring() {
  const [gone, setGone] = useState<{ kind: PartKind; id: number; name: string } | null>(null);
  const [message, setMessage] = useState<string | null>(null);
  const [isBusy, start] = useTransition();
  const put = (kind: PartKind, { id, name }: Pick<PartRow, 'id' | 'name'>, isRetired: boolean) =>
    start(async () => {
      const answer = await asked(retire({ kind, id, isRetired }));
      setMessage(answer.ok ? null : answer.message);
      setGone(answer.ok && isRetired ? { kind, id, name } : null);
    });
  return { gone, message, isBusy, put };
}

function Parts({ station, shown, staleMemories }: Pick<StationPageProps, 'station' | 'staleMemories'> & { shown: Station }) {
  const distance = useDistance();
  const [editing, setEditing] = useState<Editing | null>(null);
  const { gone, message, isBusy, put } = useRetiring();
  const doings = (kind: PartKind, row: PartRow) => (
    <Doings
      key="do"
      kind={kind}
      row={row}
      isBusy={isBusy}
      onRetire={(isRetired) => put(kind, row, isRetired)}
      onEdit={kind === 'operator' || kind === 'receiver' ? (isCopy) => setEditing({ kind, id: row.id, isCopy }) : undefined}
    />
  );
  return (
    <>
      {message && <Notice tone="fault">{message}</Notice>}
      {gone && (
        <Notice>
          {gone.name} is retired: it is offered no more, and its cards and overs stay.
          <Button onPress={() => put(gone.kind, gone, false)}>Undo</Button>
        </Notice>
      )}
      <Grid>
        <PartTable
          title="Operators"
          headings={['name', 'callsign', '', '']}
          rows={shown.operators.map((row) => [String(row.id), nameOf(row), row.callsign, row.note, doings('operator', row)])}
          add={<Button onPress={() => setEditing({ kind: 'operator' })}>Add an operator</Button>}
        />
        <PartTable
          title="Rigs"
          headings={['name', 'modes', 'equalizer', '']}
          rows={shown.rigs.map((row) => [
            String(row.id),
            nameOf(row),
            row.profile.modes.map((mode) => mode.toUpperCase()).join(', '),
            <RigText key="eq" rig={row} stale={staleMemories[row.id]?.length ?? 0} />,
            doings('rig', row),
          ])}
          add={<Ways kind="rig" text="Describe a radio" />}
        />
        <PartTable
          title="Microphones"
          headings={['name', 'kind', 'distance', '']}
          rows={shown.microphones.map((row) => [
            String(row.id),
            nameOf(row),
            row.profile.kind,
            distance.text(row.profile.distanceCm),
            doings('microphone', row),
          ])}
          add={<Ways kind="microphone" text="Describe a microphone" />}
        />
        <PartTable
          title="Receivers"
          headings={['name', 'kind', 'hears', '']}
          rows={shown.receivers.map((row) => [
            String(row.id),
            nameOf(row),
            receiverKindText(row.kind),
            `${row.lowHz}–${row.highHz} Hz`,
            doings('receiver', row),
          ])}
          add={<Button onPress={() => setEditing({ kind: 'receiver' })}>Add a receiver</Button>}
        />
      </Grid>
      {editing && <Sheet editing={editing} station={station} onClose={() => setEditing(null)} />}
    </>
  );
}

const Ways = ({ kind, text }: { kind: 'rig' | 'microphone'; text: string }) => (
  <>
    <ButtonLink href={`/station/${kind}s/new`}>{text}</ButtonLink>
    <ImportPart kind={kind} />
  </>
);

function Sheet({ editing: { kind, id, isCopy = false }, station, onClose }: { editing: Editing; station: Station; onClose: () => void }) {
  if (kind === 'operator')
    return <OperatorSheet operator={station.operators.find((each) => each.id === id)} isCopy={isCopy} onClose={onClose} />;
  return <ReceiverSheet receiver={station.receivers.find((each) => each.id === id)} isCopy={isCopy} onClose={onClose} />;
}

/** Where a rig leads to; each link is high enough for a finger. */
const Further = styled.div`display: flex; flex-wrap: wrap; gap: 0 14px; a { display: inline-block; padding: 3px 0; }`;

/** Its equalizer, and what waits to be found out or recorded again. @param stale how many voice memories are */
function RigText({ rig: { id, profile }, stale }: { rig: RigView; stale: number }) {
  return (
    <span>
      {equalizerText(profile)}
      {hasUnknownWidth(profile) && <div className="soft">width number unknown</div>}
      <Further>
        <Link href={`/station/rigs/${id}/air`}>fit for the air?</Link>
        {(profile.voiceMemories ?? 0) > 0 && (
          <span className="whole">
            <Link href={`/station/rigs/${id}/memories`}>voice memories</Link>
            {stale > 0 && (
              <>
                {' '}
                <StateMark state="stale" /> {stale} stale
              </>
            )}
          </span>
        )}
      </Further>
    </span>
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
