'use client';
/** Overs, newest first: when, who, with what, where heard, what was found. */
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useEffect } from 'react';
import styled from 'styled-components';
import type { OverSummary } from '@/server/overs.ts';
import { decibels, utc } from '@/ui/format.ts';
import { Bar, Button, ButtonLink } from '@/ui/parts/Button.tsx';
import { StateMark } from '@/ui/parts/StateMark.tsx';
import { Scroll, Table } from '@/ui/parts/Table.tsx';
import { Page, Shell } from '../shell/Shell.tsx';
import { useAddRecording } from './DropAnywhere.tsx';

const Drop = styled.div`
  border: 2px dashed var(--line); border-radius: 6px; padding: 12px 16px; margin: 8px 0 14px; display: flex; align-items: center; gap: 16px; flex-wrap: wrap;
  p { margin: 0; }`;
const Head = styled.div`display: flex; justify-content: space-between; align-items: baseline;`;
const Found = styled.span`display: inline-flex; gap: 7px; align-items: baseline;`;

const REFRESH_MS = 1500;

export function OversList({ overs, page, pages, total }: { overs: readonly OverSummary[]; page: number; pages: number; total: number }) {
  const addRecording = useAddRecording();
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
            Drop recordings anywhere: WAV, or what this browser can play. Up to 1 GiB each; they stay on this machine, in its own database.
          </p>
          <Button primary onPress={() => addRecording()}>
            Choose files
          </Button>
        </Drop>
        {overs.length === 0 ? (
          <p>No over yet. Record 15 seconds of your transmission on a second receiver or a remote one, and drop the file here.</p>
        ) : (
          <Scroll>
            <Table>
              <thead>
                <tr>
                  <th>over</th>
                  <th>when</th>
                  <th>operator</th>
                  <th>card</th>
                  <th>heard on</th>
                  <th className="num">over noise</th>
                  <th>found</th>
                  <th>note</th>
                </tr>
              </thead>
              <tbody>
                {overs.map((over) => (
                  <tr key={over.id}>
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
                      {over.receiver}
                      <div className="soft">
                        {over.load}
                        {over.powerW === null ? '' : `, ${over.powerW} W`}
                      </div>
                    </td>
                    <td className="num">{over.snrDb === null ? '' : decibels(over.snrDb)}</td>
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
        {pages > 1 && (
          <Bar>
            {page > 1 && <ButtonLink href={`/overs?page=${page - 1}`}>Newer</ButtonLink>}
            <span className="soft">
              page {page} of {pages}
            </span>
            {page < pages && <ButtonLink href={`/overs?page=${page + 1}`}>Older</ButtonLink>}
          </Bar>
        )}
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
