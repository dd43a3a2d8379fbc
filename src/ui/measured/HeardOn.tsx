'use client';
/** One over on all its receivers: what each heard, whether its word counts, and what they agree on. */
import Link from 'next/link';
import { useMemo } from 'react';
import styled from 'styled-components';
import { oneOver } from '@/core/advice/index.ts';
import { standsOut } from '@/core/findings/index.ts';
import { KIND_NAMES, RECEIVER_KINDS, receiverKindText, type VoiceMeasurement } from '@/core/measure/index.ts';
import { decibels } from '@/core/units/index.ts';
import type { OverView } from '@/server/overs/overView.ts';
import { Play } from '../listen/Play.tsx';
import { StateMark } from '../parts/StateMark.tsx';
import { Scroll, Table } from '../parts/Table.tsx';
import { TableHead } from '../parts/TableHead.tsx';

const Rows = styled(
  Table,
)`td { vertical-align: middle; } td:first-child { width: 46px; } td:nth-child(2) { min-width: 128px; } small { display: block; color: var(--soft); font-size: 13px; } .shown { font-weight: 700; } .shown small { font-weight: 400; }`;
const rank = ({ receiver }: OverView): number => RECEIVER_KINDS.findIndex(({ id }) => id === receiver.kind);

/** @param captures of one over; @param shownId the one that the page is about */
export function HeardOn({ captures, shownId }: { captures: readonly OverView[]; shownId?: number }) {
  const ranked = useMemo(() => captures.toSorted((a, b) => rank(a) - rank(b)), [captures]);
  const voices = ranked.filter(
    (each): each is OverView & { evidence: { result: VoiceMeasurement } } => each.evidence?.result.kind === 'voice',
  );
  const heard = useMemo(
    () => oneOver(voices.map(({ receiver, evidence }) => ({ name: receiver.name, kind: receiver.kind, measurement: evidence.result }))),
    [voices],
  );
  return (
    <>
      {voices.length > 1 && <p>{heard.sentence}</p>}
      <Scroll>
        <Rows aria-label="Receivers of this over">
          <TableHead columns={[{ unseen: 'listen' }, 'receiver', { number: 'S/N' }, 'heard there']} />
          <tbody>
            {ranked.map((each) => (
              <HearingRow
                key={each.capture?.id}
                over={each}
                isShown={each.capture?.id === shownId}
                word={heard.lines[voices.findIndex(({ capture }) => capture?.id === each.capture?.id)]}
              />
            ))}
          </tbody>
        </Rows>
      </Scroll>
    </>
  );
}

interface HearingRowProps {
  readonly over: OverView;
  readonly isShown: boolean;
  readonly word: { readonly counts: boolean; readonly text: string } | undefined;
}

function HearingRow({ over, isShown, word }: HearingRowProps) {
  const { id, receiver, capture, evidence, measurement } = over;
  const findings = evidence?.result.findings.filter(({ severity }) => severity !== 'ok') ?? [];
  const snrDb = evidence?.result.kind === 'voice' ? evidence.result.snrDb : null;
  return (
    <tr>
      <td>{capture && evidence && <Play captureId={capture.id} label={receiver.name} />}</td>
      <td className={isShown ? 'shown' : undefined}>
        {isShown || !capture ? receiver.name : <Link href={`/overs/${id}?capture=${capture.id}`}>{receiver.name}</Link>}
        <small>{capture && capture.kind !== 'voice' ? KIND_NAMES[capture.kind] : receiverKindText(receiver.kind)}</small>
      </td>
      <td className="num">{snrDb === null ? '' : decibels(snrDb, 0)}</td>
      <td>
        {evidence ? (
          <>
            <StateMark state={findings[0]?.severity ?? 'ok'} /> {standsOut(findings)}
          </>
        ) : measurement?.status === 'failed' ? (
          'could not be measured'
        ) : (
          'being measured'
        )}
        {word && word.text !== '' && <small>{word.text}</small>}
      </td>
    </tr>
  );
}
