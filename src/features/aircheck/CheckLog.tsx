'use client';
/** The lines of an air check with what each was understood as; any can be taken back. */
import { useState } from 'react';
import styled from 'styled-components';
import { asked } from '@/client/asked.ts';
import type { AirCheck, CheckStep } from '@/core/advice/index.ts';
import { type RigProfile, readingText } from '@/core/rig/index.ts';
import type { Answer } from '@/server/requests/answer.ts';
import { Button } from '@/ui/parts/Button.tsx';
import { Notice } from '@/ui/parts/Notice.tsx';
import { Scroll, Table } from '@/ui/parts/Table.tsx';
import { TableHead } from '@/ui/parts/TableHead.tsx';
import { readText } from '@/ui/reports/ReportLines.tsx';
import { utcTime } from '@/ui/utc.ts';

const Log = styled(Table)`
  td { vertical-align: top; padding-block: 6px; }
  td:last-child { white-space: nowrap; text-align: right; }
  td:last-child button { border: 0; background: none; padding: 0 0 0 8px; min-height: 0; color: var(--signal); text-decoration: underline; text-underline-offset: 3px; font-size: 14px; }
  @media (max-width: 560px) { td:last-child { white-space: normal; } td:last-child button { min-height: 30px; } }
  .said { font-style: italic; overflow-wrap: anywhere; width: 40%; }
  .undone { text-decoration: line-through; color: var(--soft); }
  small { display: block; color: var(--soft); font-size: 13px; }
  @media (max-width: 560px) { td { padding-inline: 4px; } }`;

/** A line as it is listed; null while the server has not acknowledged it. */
export interface ShownLine {
  readonly id: number;
  readonly saidAt: string | null;
}

interface CheckLogProps {
  readonly check: AirCheck;
  readonly lines: readonly ShownLine[];
  readonly rig: RigProfile;
  readonly onOffer?: (line: string) => void;
  readonly onTakeBack?: (id: number, isUndone: boolean) => Promise<Answer<unknown>>;
}

export function CheckLog({ check, lines, rig, onOffer, onTakeBack }: CheckLogProps) {
  const [message, setMessage] = useState<string | null>(null);
  const takeBack = async (id: number, isUndone: boolean) => {
    if (!onTakeBack) return;
    const answer = await asked(onTakeBack(id, isUndone));
    setMessage(answer.ok ? null : answer.message);
  };
  if (check.steps.length === 0)
    return <p>Nothing said yet. For example: “mic gain down to 40”, “meter peaks at two thirds”, “a bit muffled”.</p>;
  return (
    <>
      {message && <Notice tone="fault">{message}</Notice>}
      <Scroll>
        <Log>
          <TableHead columns={['UTC', 'said', 'understood', { unseen: 'take back' }]} />
          <tbody>
            {check.steps.map((step, k) => {
              const { saidAt } = lines[k];
              const { id, text, isUndone } = step.line;
              return (
                <tr key={id}>
                  <td className="mono soft">{saidAt === null ? '...' : utcTime(saidAt)}</td>
                  <td className={isUndone ? 'said undone' : 'said'}>{text}</td>
                  <td>{isUndone ? <span className="soft">taken back</span> : <Understood step={step} rig={rig} onOffer={onOffer} />}</td>
                  <td>
                    {onTakeBack && saidAt !== null && (
                      <Button
                        aria-label={`${isUndone ? 'Put in again' : 'Take back'}: ${text.slice(0, 60)}`}
                        onPress={() => void takeBack(id, !isUndone)}
                      >
                        {isUndone ? 'Put in again' : 'Take back'}
                      </Button>
                    )}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </Log>
      </Scroll>
    </>
  );
}

const NO_SIGNAL = { readability: null, strength: null, overS9Db: null };

function Understood({ step, rig, onOffer }: { step: CheckStep; rig: RigProfile; onOffer?: (line: string) => void }) {
  const { kind, explained, warnings, remarks, signal, offers, reading } = step;
  const remarkText = kind === 'remark' ? readText(signal ?? NO_SIGNAL, remarks) : null;
  return (
    <>
      {remarkText && <div>{remarkText}</div>}
      {explained.map((sentence) => (
        <div key={sentence} className={kind === 'note' ? 'soft' : undefined}>
          {sentence}
        </div>
      ))}
      {kind === 'note' && explained.length === 0 && <span className="soft">a note</span>}
      {reading?.alc !== undefined && explained.length === 0 && <div>ALC {readingText(rig.alc, reading.alc)}</div>}
      {warnings.map((sentence) => (
        <small key={sentence}>{sentence}</small>
      ))}
      {offers.map((line) => (
        <small key={line}>
          {onOffer ? (
            <Button style={{ minHeight: 26, padding: '0 9px', marginTop: 3 }} onPress={() => onOffer(line)}>
              Do it: {line}
            </Button>
          ) : (
            `advice: ${line}`
          )}
        </small>
      ))}
    </>
  );
}
