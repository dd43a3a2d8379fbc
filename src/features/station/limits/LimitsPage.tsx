'use client';
/** Limits for findings, row by row: where from, and what this station sets instead. */
import { useState, useTransition } from 'react';
import styled from 'styled-components';
import { asked } from '@/client/asked.ts';
import { useDraft } from '@/client/useDraft.ts';
import { LIMIT_NAMES, LIMITS, type Limit, type LimitName, type OwnLimits } from '@/core/findings/index.ts';
import { typedNumber } from '@/core/units/index.ts';
import { judgeAllAgain, saveLimit } from '@/server/measuring/actions.ts';
import { Button } from '@/ui/parts/Button.tsx';
import { Field } from '@/ui/parts/Field.tsx';
import { Notice } from '@/ui/parts/Notice.tsx';
import { Scroll, Table } from '@/ui/parts/Table.tsx';
import { TableHead } from '@/ui/parts/TableHead.tsx';
import { Page, Shell } from '@/ui/shell/Shell.tsx';

/** Stays in view while the list is scrolled. */
const Told = styled.div`position: sticky; top: 0; z-index: 2; background: var(--paper);`;

export function LimitsPage({ own }: { own: OwnLimits }) {
  const [message, setMessage] = useState<string | null>(null);
  const [isSending, start] = useTransition();
  return (
    <Shell>
      <Page>
        <h1>Limits for findings</h1>
        <p>
          From here on a measured number is worth a look, or a fault. Most are rules of thumb of the trade; set your own where you know
          better. New limits count from the next measurement on.
        </p>
        <Button
          isDisabled={isSending}
          onPress={() =>
            start(async () => {
              const answer = await asked(judgeAllAgain({}));
              setMessage(answer.ok ? `${answer.value} overs are being measured again.` : answer.message);
            })
          }
        >
          Measure all overs again
        </Button>
        {message && (
          <Told>
            <Notice>{message}</Notice>
          </Told>
        )}
        <Scroll>
          <Table>
            <TableHead columns={['what', 'unit', 'bad when', 'watch', 'fault', 'source', { unseen: 'save' }]} />
            <tbody>
              {LIMIT_NAMES.map((name) => (
                <Row key={`${name}-${JSON.stringify(own[name])}`} name={name} own={own[name] ?? null} onTold={setMessage} />
              ))}
            </tbody>
          </Table>
        </Scroll>
      </Page>
    </Shell>
  );
}

/** The smallest limit means: at any. */
const AT_ANY = 1e-7;
const textOf = (value: number | null): string => (value === null ? '' : value === AT_ANY ? 'any' : String(value));

/** Empty is "never"; undefined when it is no number. */
const limitTyped = (text: string): number | null | undefined => (text.trim() === 'any' ? AT_ANY : typedNumber(text));

type Pair = { watch: number | null; fault: number | null };

interface RowProps {
  readonly name: LimitName;
  readonly own: Pair | null;
  readonly onTold: (message: string | null) => void;
}

function Row({ name, own, onTold }: RowProps) {
  const limit: Limit = LIMITS[name];
  const now = own ?? limit;
  const draft = useDraft(`limit ${name}`, { watch: textOf(now.watch), fault: textOf(now.fault), own: JSON.stringify(own) });
  const { watch, fault } = draft.value;
  const [isSending, start] = useTransition();
  const [w, f] = [limitTyped(watch), limitTyped(fault)];
  const isChanged = w !== now.watch || f !== now.fault;
  const send = (wanted: Pair | null) =>
    start(async () => {
      const answer = await asked(saveLimit({ name, limit: wanted, base: JSON.parse(draft.base.own) }));
      if (answer.ok) draft.saved();
      onTold(
        answer.ok ? (wanted ? `${limit.what}: your own limit is saved.` : `${limit.what}: back to the built-in limit.`) : answer.message,
      );
    });
  return (
    <tr>
      <td>{limit.what}</td>
      <td className="whole">{limit.unit}</td>
      <td>{limit.bad}</td>
      <LimitCell label={`Watch ${limit.bad}: ${limit.what}`} text={watch} onChange={(text) => draft.set({ watch: text })} />
      <LimitCell label={`Fault ${limit.bad}: ${limit.what}`} text={fault} onChange={(text) => draft.set({ fault: text })} />
      <td className="soft">{own ? 'this station’s own limit' : limit.source}</td>
      <td className="whole">
        <Button
          isDisabled={isSending || !isChanged || w === undefined || f === undefined}
          onPress={() => send({ watch: w ?? null, fault: f ?? null })}
          aria-label={`Save the limit for ${limit.what}`}
        >
          Save
        </Button>{' '}
        {own && (
          <Button isDisabled={isSending} onPress={() => send(null)} aria-label={`Built-in limit for ${limit.what}`}>
            Built-in
          </Button>
        )}
      </td>
    </tr>
  );
}

function LimitCell({ label, text, onChange }: { label: string; text: string; onChange: (text: string) => void }) {
  const error = limitTyped(text) === undefined ? 'A number, or nothing.' : undefined;
  return (
    <td style={{ width: 110 }}>
      <Field hideLabel label={label} value={text} onChange={onChange} error={error} />
    </td>
  );
}
