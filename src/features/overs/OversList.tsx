'use client';
/** Overs, newest first: when, who, with what, where heard, what was found. */
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import styled from 'styled-components';
import { useAddRecording } from '@/client/addRecording.ts';
import { KIND_NAMES } from '@/core/measure/index.ts';
import type { OverSummary } from '@/server/overs/overs.ts';
import { Button, ButtonLink } from '@/ui/parts/Button.tsx';
import { Check } from '@/ui/parts/Check.tsx';
import { Paging } from '@/ui/parts/Paging.tsx';
import { SearchBar } from '@/ui/parts/SearchBar.tsx';
import { StateMark } from '@/ui/parts/StateMark.tsx';
import { Scroll, Table } from '@/ui/parts/Table.tsx';
import { Page, Shell } from '@/ui/shell/Shell.tsx';
import { utc } from '@/ui/utc.ts';
import { MOST_OVERS } from './most.ts';

const Drop = styled.div`
  border: 2px dashed var(--line); border-radius: 6px; padding: 12px 16px; margin: 8px 0 14px; display: flex; align-items: center; gap: 16px;
  p { margin: 0; } button { flex: none; }`;
const Head = styled.div`display: flex; justify-content: space-between; align-items: baseline;`;
const Found = styled.span`display: inline-flex; gap: 7px; align-items: baseline;`;

const Tools = styled.div`display: flex; gap: 20px; align-items: center; margin: 0 0 8px;`;

const REFRESH_MS = 1500;

export function OversList({
  overs,
  page,
  pages,
  total,
  search,
}: {
  overs: readonly OverSummary[];
  page: number;
  pages: number;
  total: number;
  search?: string;
}) {
  const addRecording = useAddRecording();
  const [picked, setPicked] = useState<readonly number[]>([]);
  const router = useRouter();
  const isWaiting = overs.some(({ status }) => status === 'queued' || status === 'running');
  useEffect(() => {
    if (!isWaiting) return;
    const timer = setInterval(() => router.refresh(), REFRESH_MS);
    return () => clearInterval(timer);
  }, [isWaiting, router]);
  return (
    <Shell>
      <Page>
        <Head>
          <h1>Overs</h1>
          <span className="soft">
            {total} {total === 1 ? 'over' : 'overs'}; times in UTC
          </span>
        </Head>
        <Drop>
          <p>
            Drop evidence anywhere: receiver audio (WAV, or what this browser plays), I/Q recordings (stereo WAV, SigMF), test sweeps,
            curves and scope traces (CSV). Up to 1 GiB each; they stay on this machine, in its own database.
          </p>
          <Button primary onPress={() => addRecording()}>
            Choose files
          </Button>
        </Drop>
        <Tools className="no-print">
          <SearchBar label="Find" />
          {total > 0 && <a href="/api/overs.csv">Save the log as CSV</a>}
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
          <Scroll>
            <Table>
              <thead>
                <tr>
                  <th>
                    <span className="unseen">compare</span>
                  </th>
                  <th>over</th>
                  <th>when</th>
                  <th>operator</th>
                  <th>card</th>
                  <th>heard on</th>
                  <th>measured</th>
                  <th>found</th>
                  <th>note</th>
                </tr>
              </thead>
              <tbody>
                {overs.map((over) => (
                  <tr key={over.id}>
                    <td>
                      <Check
                        aria-label={`Compare over ${over.id}`}
                        isSelected={picked.includes(over.id)}
                        isDisabled={over.status !== 'done' || (picked.length === MOST_OVERS && !picked.includes(over.id))}
                        onChange={(isPicked) =>
                          setPicked((before) => (isPicked ? [...before, over.id] : before.filter((id) => id !== over.id)))
                        }
                      />
                    </td>
                    <td>
                      <Link href={`/overs/${over.id}`}>{over.id}</Link>
                    </td>
                    <td
                      className="mono"
                      style={{ whiteSpace: 'nowrap' }}
                      title={`${new Date(over.madeAt).toLocaleString()} here`}
                      suppressHydrationWarning
                    >
                      {utc(over.madeAt)}
                    </td>
                    <td>{over.operator}</td>
                    <td>
                      <Link href={`/cards/${over.cardId}`}>{over.card}</Link>, rev. {over.revision}
                      <div className="soft">{over.rig}</div>
                    </td>
                    <td>
                      <span className="whole">{over.receiver}</span>
                      <div className="soft">
                        {over.load}
                        {over.powerW === null ? '' : `, ${over.powerW} W`}
                      </div>
                    </td>
                    <td className="whole">
                      {over.told ?? ''}
                      <div className="soft">{over.kind && KIND_NAMES[over.kind]}</div>
                    </td>
                    <td>
                      <FoundText over={over} />
                    </td>
                    <td className="soft">{over.note}</td>
                  </tr>
                ))}
              </tbody>
            </Table>
          </Scroll>
        )}
        <Paging page={page} pages={pages} path="/overs" />
      </Page>
    </Shell>
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
      {worst ? findings.map(({ code }) => code.replaceAll('-', ' ')).join(', ') : 'nothing stands out'}
    </Found>
  );
}
