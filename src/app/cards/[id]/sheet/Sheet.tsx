'use client';
/** The printable sheet with tick boxes; only what must change is on it. */
import { Printer } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { Checkbox } from 'react-aria-components';
import styled from 'styled-components';
import { factoryCard, MODE_LABELS, PURPOSE_LABELS } from '@/core/station/card.ts';
import { nameOf } from '@/core/station/effective.ts';
import { sheet, valueText } from '@/core/station/sheet.ts';
import type { CardView } from '@/server/cards.ts';
import { utc } from '@/ui/format.ts';
import { Bar, Button, ButtonLink } from '@/ui/parts/Button.tsx';
import { Picker } from '@/ui/parts/Picker.tsx';
import { Table } from '@/ui/parts/Table.tsx';
import { Page, Shell } from '../../../shell/Shell.tsx';

const Tick = styled(Checkbox)`
  display: inline-grid; cursor: pointer;
  .box { width: 20px; height: 20px; border: 1.5px solid var(--ink); border-radius: 2px; display: grid; place-items: center; font-weight: 700; line-height: 1; }
  &[data-focus-visible] .box { outline: 3px solid var(--signal); outline-offset: 2px; }`;
const Big = styled.div`max-width: 760px; table { font-size: 16px; } td { padding: 8px; } .done td { color: var(--soft); }`;

/** @param fromNumber revision that the radio holds now; null for factory values */
export function Sheet({ card, fromNumber }: { card: CardView; fromNumber: number | null }) {
  const router = useRouter();
  const [ticked, setTicked] = useState<readonly string[]>([]);
  const rig = card.rig.profile;
  const [newest] = card.revisions;
  const old = card.revisions.find(({ number }) => number === fromNumber);
  const from = old ? { mode: card.mode, values: old.values } : factoryCard(rig, card.mode);
  const lines = sheet(rig, from, { mode: card.mode, values: newest.values });
  return (
    <Shell>
      <Page data-card={card.id}>
        <Big>
          <h1>
            {card.name}, revision {newest.number}
          </h1>
          <p className="soft">
            {card.operator.name} ({card.operator.callsign}) on {rig.name}, {MODE_LABELS[card.mode]}, for {PURPOSE_LABELS[card.purpose]};{' '}
            {card.microphone.name}
            {card.microphone.distanceCm === null ? '' : ` at ${card.microphone.distanceCm} cm`}. {utc(newest.madeAt)} UTC. Only what changes
            from {old ? `revision ${old.number}` : 'the factory values'}, in menu order.
          </p>
          <div className="no-print" style={{ margin: '4px 0 14px' }}>
            <Picker
              label="The radio holds now"
              value={old ? String(old.number) : 'factory'}
              choices={[
                ...card.revisions.slice(1).map(({ number, reason }) => ({ id: String(number), text: `revision ${number}`, note: reason })),
                { id: 'factory', text: 'factory values' },
              ]}
              onChange={(id) => router.push(`/cards/${card.id}/sheet?from=${id}`)}
            />
          </div>
          {lines.length === 0 ? (
            <p>Nothing has to change.</p>
          ) : (
            <Table>
              <thead>
                <tr>
                  <th>done</th>
                  <th>menu</th>
                  <th>dial</th>
                  <th className="num">from</th>
                  <th className="num">set to</th>
                  <th />
                </tr>
              </thead>
              <tbody>
                {lines.map(({ dial, from: was, to, dead }) => (
                  <tr key={dial.id} className={ticked.includes(dial.id) ? 'done' : undefined}>
                    <td>
                      <Tick
                        aria-label={`${nameOf(dial)} done`}
                        isSelected={ticked.includes(dial.id)}
                        onChange={(isDone) => setTicked(isDone ? [...ticked, dial.id] : ticked.filter((id) => id !== dial.id))}
                      >
                        {({ isSelected }) => <span className="box">{isSelected ? '×' : ''}</span>}
                      </Tick>
                    </td>
                    <td className="mono">{dial.menu || 'front'}</td>
                    <td>{dial.label}</td>
                    <td className="num">{valueText(dial, was)}</td>
                    <td className="num new">{valueText(dial, to)}</td>
                    <td className="soft">{dead ? `no effect now: ${dead.text}` : ''}</td>
                  </tr>
                ))}
              </tbody>
            </Table>
          )}
          <p style={{ marginTop: 12 }}>
            Then look at the ALC again: every change makes its reading stale. Tune into a dummy load at low power.
          </p>
          <Bar className="no-print">
            <Button primary onPress={() => window.print()}>
              <Printer size={16} aria-hidden /> Print
            </Button>
            <ButtonLink href={`/cards/${card.id}`}>Back to the card</ButtonLink>
          </Bar>
        </Big>
      </Page>
    </Shell>
  );
}
