'use client';
/** Who hears the over. Each keeps it as a recording, on a card of the practice radio's own. */
import Link from 'next/link';
import { useState, useTransition } from 'react';
import styled from 'styled-components';
import { asked } from '@/client/asked.ts';
import type { DialValues } from '@/core/rig/index.ts';
import { PRACTICE_RECEIVERS } from '@/core/simulate/index.ts';
import type { CardView } from '@/server/cards/cards.ts';
import { practise, talkInPractice } from '@/server/practice/actions.ts';
import { Button } from '@/ui/parts/Button.tsx';
import { Notice } from '@/ui/parts/Notice.tsx';
import { Table } from '@/ui/parts/Table.tsx';

const Heard = styled(Table)`td { padding-block: 3px; } button { padding: 2px 10px; min-height: 28px; font-size: 13.5px; }`;

interface ReceiversProps {
  readonly card: CardView;
  readonly values: DialValues;
  readonly radio: number;
  readonly load: 'dummy load' | 'antenna';
  /** The dials stand on the practice card now. */
  readonly onRecorded: () => void;
}

export function Receivers({ card, values, radio, load, onRecorded }: ReceiversProps) {
  const [busy, setBusy] = useState<number | null>(null);
  const [error, setError] = useState<string | null>(null);
  const [made, setMade] = useState<{ over: number; card: number } | null>(null);
  const [, start] = useTransition();
  const record = (receiver: number) =>
    start(async () => {
      setBusy(receiver);
      setError(null);
      const kept = await asked(practise({ cardId: card.id, radio, values: { ...values } }));
      const over = kept.ok ? await asked(talkInPractice({ cardId: kept.value, receiver, isIq: true, load })) : kept;
      setBusy(null);
      if (!over.ok || !kept.ok) return setError(over.ok ? null : over.message);
      setMade({ over: over.value, card: kept.value });
      onRecorded();
    });
  return (
    <>
      <h2>Record an over</h2>
      <p className="soft">
        {card.practiceRadio === null
          ? `It goes to a card of its own, “${card.name}, practice radio ${radio}”: nothing simulated enters the real log.`
          : 'It goes to this practice card, with its meter readings.'}
      </p>
      {error && <Notice tone="fault">{error}</Notice>}
      {made && (
        <p role="status">
          <Link href={`/overs/${made.over}`}>Over {made.over}</Link> is being measured;{' '}
          <Link href={`/bench?card=${made.card}`}>to its Bench</Link>, <Link href={`/tune?card=${made.card}`}>or tune it</Link>.
        </p>
      )}
      <Heard>
        <tbody>
          {PRACTICE_RECEIVERS.map(({ name }, k) => (
            <tr key={name}>
              <td>{name}</td>
              <td style={{ textAlign: 'right' }}>
                <Button aria-label={`Record on ${name}`} isDisabled={busy !== null} onPress={() => record(k)}>
                  {busy === k ? 'Talking ...' : 'Record'}
                </Button>
              </td>
            </tr>
          ))}
        </tbody>
      </Heard>
    </>
  );
}
