'use client';
/** The edges that a test sweep measured for this card and rig, beside what the profile says. */
import Link from 'next/link';
import { useState, useTransition } from 'react';
import { asked } from '@/client/asked.ts';
import { withMeasuredEdges } from '@/core/rig/index.ts';
import { frequency } from '@/core/units/index.ts';
import type { BenchView } from '@/server/bench/bench.ts';
import { takeEdges } from '@/server/station/actions.ts';
import { Bar, Button, ButtonLink } from '@/ui/parts/Button.tsx';
import { Notice } from '@/ui/parts/Notice.tsx';

/** Edges this close to the profile's are the same. */
const SAME_HZ = 15;

export function MeasuredPassband({ bench, said }: { bench: BenchView; said: readonly [number, number] }) {
  const { card, response } = bench;
  const [message, setMessage] = useState<string | null>(null);
  const [isSending, start] = useTransition();
  const result = response?.evidence?.result;
  if (!response || result?.kind !== 'response') {
    return (
      <Bar>
        <ButtonLink href="/testbench">Make a test sweep</ButtonLink>
        <span className="soft">Played into the mic socket and recorded on a second receiver, it measures the real edges.</span>
      </Bar>
    );
  }
  const [low, high] = result.passbandHz ?? [null, null];
  const measured = { mode: card.mode, values: response.revision.values };
  const isOld = response.revision.id !== card.revisions[0].id;
  const isSame = low !== null && high !== null && Math.abs(low - said[0]) < SAME_HZ && Math.abs(high - said[1]) < SAME_HZ;
  const hasPlace = low !== null && high !== null && withMeasuredEdges(card.rig.profile, measured, [low, high]) !== null;
  return (
    <>
      <p>
        Measured at −6 dB by <Link href={`/overs/${response.id}`}>the sweep of over {response.id}</Link>
        {isOld ? ` (revision ${response.revision.number})` : ''}: <b>{low === null ? 'no lower edge' : frequency(low)}</b> to{' '}
        <b>{high === null ? 'no upper edge' : frequency(high)}</b>
        {isSame ? ', as the profile says.' : '.'}
      </p>
      {hasPlace && !isSame && (
        <Bar>
          <Button
            isDisabled={isSending}
            onPress={() =>
              start(async () => {
                const answer = await asked(takeEdges({ overId: response.id }));
                setMessage(answer.ok ? null : answer.message);
              })
            }
          >
            Put the measured edges into the rig profile
          </Button>
          <span className="soft">Every card of {card.rig.name} with this filter then counts with them.</span>
        </Bar>
      )}
      {message && <Notice tone="fault">{message}</Notice>}
    </>
  );
}
