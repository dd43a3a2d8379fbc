'use client';
/** Overs, newest first: when, who, with what, where heard, what was found. */
import Link from 'next/link';
import { useState } from 'react';
import styled from 'styled-components';
import { useAddRecording } from '@/client/addRecording.ts';
import { useRefreshWhile } from '@/client/useRefreshWhile.ts';
import { standsOut } from '@/core/findings/index.ts';
import { KIND_NAMES } from '@/core/measure/index.ts';
import type { OverSummary } from '@/server/overs/overs.ts';
import { Play } from '@/ui/listen/Play.tsx';
import { Bar, Button, ButtonLink } from '@/ui/parts/Button.tsx';
import { Check } from '@/ui/parts/Check.tsx';
import { Paging } from '@/ui/parts/Paging.tsx';
import { SearchBar } from '@/ui/parts/SearchBar.tsx';
import { StateMark } from '@/ui/parts/StateMark.tsx';
import { Scroll, Table } from '@/ui/parts/Table.tsx';
import { TableHead } from '@/ui/parts/TableHead.tsx';
import { Page, Shell } from '@/ui/shell/Shell.tsx';
import { utc } from '@/ui/utc.ts';
import { MOST_OVERS } from './most.ts';

const Drop = styled.div`
  border: 2px dashed var(--line); border-radius: 6px; padding: 12px 16px; margin: 8px 0 14px; display: flex; align-items: center; gap: 16px;
  p { margin: 0; flex: 1; } > div { margin: 0; flex: none; }
  @media (max-width: 640px) { display: block; > div { margin-top: 8px; } }`;
const Head = styled.div`display: flex; justify-content: space-between; align-items: baseline;`;
const Found = styled.span`display: inline-flex; gap: 9px; align-items: center;`;

const Tools = styled.div`display: flex; flex-wrap: wrap; gap: 8px 20px; align-items: center; margin: 0 0 8px;`;

/** What was found comes first; two short lines a row. */
const Log = styled(Table)`
  td { padding-block: 4px; line-height: 1.3; }
  small, time { display: block; color: var(--soft); font-size: 13px; }
  .note { min-width: 160px; font-size: 13.5px; }
  @media (max-width: 640px) {
    &, tbody { display: block; }
    thead { display: none; }
    tr { display: grid; grid-template-columns: 34px minmax(0, 1fr) auto; padding: 7px 0; border-bottom: 1px solid var(--line); }
    td { border: 0; padding: 1px 4px; grid-column: 2; white-space: normal; }
    td:first-child { grid-row: 1; grid-column: 1; }
    td:nth-child(2) { grid-row: 1; }
    td:nth-child(4) { grid-row: 1; grid-column: 3; text-align: right; }
    td:nth-child(n + 5) { grid-column: 2 / 4; }
  }`;

const REFRESH_MS = 1500;

export interface OversListProps {
  readonly overs: readonly OverSummary[];
  readonly page: number;
  readonly pages: number;
  readonly total: number;
  readonly search?: string;
}

export function OversList({ overs, page, pages, total, search }: OversListProps) {
  const [picked, setPicked] = useState<readonly number[]>([]);
  useRefreshWhile(
    overs.some(({ status }) => status === 'queued' || status === 'running'),
    REFRESH_MS,
  );
  return (
    <Shell>
      <Page>
        <Head>
          <h1>Overs</h1>
          <span className="soft">
            {total} {total === 1 ? 'over' : 'overs'}; times in UTC
          </span>
        </Head>
        <DropHere />
        <Tools className="no-print">
          <SearchBar label="Find" />
          {total > 0 && <a href="/api/overs.csv">Save the log as CSV</a>}
          <Link href="/reports">Reports</Link>
          {picked.length > 0 && (
            <ButtonLink $primary={picked.length > 1} href={`/overs/compare?overs=${picked.join(',')}`} aria-disabled={picked.length < 2}>
              {picked.length < 2 ? 'Pick another to compare with' : `Compare ${picked.length} overs`}
            </ButtonLink>
          )}
        </Tools>
        {overs.length === 0 && search ? (
          <p>No over has “{search}” in its note or in the names of its card, operator, rig or receiver.</p>
        ) : overs.length === 0 ? (
          <p>No over yet. Record 15 seconds of your transmission on a second receiver or a remote one, and drop the file here.</p>
        ) : (
          <LogTable overs={overs} picked={picked} onPick={setPicked} />
        )}
        <Paging page={page} pages={pages} path="/overs" />
      </Page>
    </Shell>
  );
}

function DropHere() {
  const addRecording = useAddRecording();
  return (
    <Drop>
      <p>
        Drop evidence on any page: receiver audio (WAV, or what this browser plays), I/Q recordings (stereo WAV, SigMF), test sweeps, curves
        and scope traces (CSV). Up to 1 GiB each; they stay on this machine.
      </p>
      <Bar>
        <Button primary onPress={() => addRecording()}>
          Choose files
        </Button>
        <ButtonLink href="/live">Record live</ButtonLink>
      </Bar>
    </Drop>
  );
}

interface LogTableProps {
  readonly overs: readonly OverSummary[];
  readonly picked: readonly number[];
  readonly onPick: (picked: readonly number[]) => void;
}

function LogTable({ overs, picked, onPick }: LogTableProps) {
  return (
    <Scroll>
      <Log>
        <TableHead columns={[{ unseen: 'compare' }, 'over', 'found', 'measured', 'card', 'receiver', 'note']} />
        <tbody>
          {overs.map((over) => (
            <OverRow
              key={over.id}
              over={over}
              isPicked={picked.includes(over.id)}
              mayPick={picked.length < MOST_OVERS || picked.includes(over.id)}
              onPick={(isPicked) => onPick(isPicked ? [...picked, over.id] : picked.filter((id) => id !== over.id))}
            />
          ))}
        </tbody>
      </Log>
    </Scroll>
  );
}

interface OverRowProps {
  readonly over: OverSummary;
  readonly isPicked: boolean;
  readonly mayPick: boolean;
  readonly onPick: (isPicked: boolean) => void;
}

function OverRow({ over, isPicked, mayPick, onPick }: OverRowProps) {
  return (
    <tr>
      <td>
        <Check
          aria-label={`Compare over ${over.id}`}
          isSelected={isPicked}
          isDisabled={over.status !== 'done' || !mayPick}
          onChange={onPick}
        />
      </td>
      <td className="whole">
        <Link href={`/overs/${over.id}`}>Over {over.id}</Link>
        <time className="mono" dateTime={over.madeAt} title={`${new Date(over.madeAt).toLocaleString()} here`} suppressHydrationWarning>
          {utc(over.madeAt)}
        </time>
      </td>
      <td>
        <Found>
          {over.status === 'done' && over.captureId !== null && over.kind !== 'power' && (
            <Play captureId={over.captureId} label={`over ${over.id}`} />
          )}
          <FoundText over={over} />
        </Found>
      </td>
      <td className="whole">
        {over.headline ?? ''}
        <small>{over.kind && KIND_NAMES[over.kind]}</small>
      </td>
      <td className="whole">
        <Link href={`/cards/${over.cardId}`}>{over.card}</Link>, rev. {over.revision}
        {over.practiceRadio !== null && <b> practice</b>}
        <small>
          {over.operator} on {over.rig}
        </small>
      </td>
      <td className="whole">
        {over.captures > 1 ? `${over.captures} receivers` : over.receiver}
        <small>
          {over.captures > 1 ? `${over.receiver} and others, ` : ''}
          {over.load}
          {over.powerW === null ? '' : `, ${over.powerW} W`}
        </small>
      </td>
      <td className="soft note">{over.note}</td>
    </tr>
  );
}

function FoundText({ over: { status, findings } }: { over: OverSummary }) {
  if (status === 'queued' || status === 'running') return <>being measured</>;
  if (status === 'failed') return <>could not be measured</>;
  if (status === null) return <span className="soft">no recording</span>;
  const [worst] = findings;
  return (
    <Found>
      <StateMark state={worst?.severity ?? 'ok'} />
      {standsOut(findings)}
    </Found>
  );
}
