'use client';
/** The sheet with tick boxes, on screen and on paper; only what must change is on it. */
import { Printer } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { Fragment, useRef, useState } from 'react';
import styled from 'styled-components';
import { useWorkingCard } from '@/client/useWorkingCard.ts';
import { MODE_LABELS, nameOf, PURPOSE_LABELS, type SheetLine, valueText } from '@/core/rig/index.ts';
import type { CardView } from '@/server/cards/cards.ts';
import type { RadioState } from '@/server/station/radioState.ts';
import { useDistance } from '@/ui/distance.ts';
import { useKeys } from '@/ui/keys.ts';
import { Bar, Button, ButtonLink } from '@/ui/parts/Button.tsx';
import { Check } from '@/ui/parts/Check.tsx';
import { Notice } from '@/ui/parts/Notice.tsx';
import { Picker } from '@/ui/parts/Picker.tsx';
import { Table } from '@/ui/parts/Table.tsx';
import { TableHead } from '@/ui/parts/TableHead.tsx';
import { Page, Shell } from '@/ui/shell/Shell.tsx';
import { utc } from '@/ui/utc.ts';
import { linesOf, type SheetStart, startId, startText } from './sheetStart.ts';
import { type Ticks, useTicks } from './useTicks.ts';
import { Walk } from './Walk.tsx';

const Big = styled.div`max-width: 820px; table { font-size: 16px; } td { padding: 8px; } .done td { color: var(--soft); }
  tr.bank td { font-weight: 700; padding-top: 14px; border-bottom-color: var(--ink); }
  @media (max-width: 560px) { th, td { padding-inline: 4px; } td.num { white-space: normal; } }`;

export function Sheet({ card, ...now }: { card: CardView; radio: RadioState; start: SheetStart }) {
  useWorkingCard(card.id);
  const distance = useDistance();
  const router = useRouter();
  // Fixed while the sheet is open: what is ticked off stays on it.
  const [{ radio, start, lines }] = useState(() => ({ ...now, lines: linesOf(card, now.radio, now.start) }));
  const ticks = useTicks(card);
  const [isWalking, setIsWalking] = useState(false);
  const [newest] = card.revisions;
  useKeys({ w: () => setIsWalking(lines.length > 0) });
  return (
    <Shell>
      <Page data-card={card.id}>
        <Big>
          <h1>Dial sheet: {card.name}</h1>
          <p className="soft">
            {card.operator.name} ({card.operator.callsign}), {card.rig.name}, {card.microphone.name} ({distance.useText(newest.use)}),{' '}
            {MODE_LABELS[card.mode]}, for {PURPOSE_LABELS[card.purpose]}. To revision {newest.number} of {utc(newest.madeAt)} UTC from{' '}
            {startText(start)}
            {start.kind === 'radio' && radio.tickedAt ? ` (${utc(radio.tickedAt)} UTC)` : ''}, in menu order.
          </p>
          <div className="no-print" style={{ margin: '4px 0 14px' }}>
            <StartPicker card={card} radio={radio} start={start} onChoose={(id) => router.push(`/cards/${card.id}/sheet?from=${id}`)} />
          </div>
          {lines.length === 0 ? <p>Nothing has to change.</p> : <Lines lines={lines} ticks={ticks} />}
          <p style={{ marginTop: 12 }}>
            Then read the ALC again: every change makes its reading stale. Tune into a dummy load at low power.
          </p>
          {ticks.message && <Notice tone="fault">{ticks.message}</Notice>}
          <Doings card={card} lines={lines} ticks={ticks} onWalk={() => setIsWalking(true)} />
        </Big>
        {isWalking && <Walk lines={lines} ticks={ticks} onClose={() => setIsWalking(false)} />}
      </Page>
    </Shell>
  );
}

interface DoingsProps {
  readonly card: CardView;
  readonly lines: readonly SheetLine[];
  readonly ticks: Ticks;
  readonly onWalk: () => void;
}

function Doings({ card, lines, ticks, onWalk }: DoingsProps) {
  const left = lines.filter(({ dial }) => !ticks.done.has(dial.id));
  return (
    <Bar className="no-print">
      {lines.length > 0 && (
        <Button primary onPress={onWalk}>
          Walk me through
        </Button>
      )}
      {left.length > 0 && <Button onPress={() => ticks.set(left, true)}>All {left.length} are set</Button>}
      <Button onPress={() => window.print()}>
        <Printer size={16} aria-hidden /> Print
      </Button>
      <ButtonLink href={`/cards/${card.id}`}>Back to the card</ButtonLink>
      {lines.length > 0 && (
        <span className="soft" role="status">
          {ticks.done.size} of {lines.length} ticked off{ticks.isSaving ? ', saving ...' : ''}. What you tick is what {card.rig.name} is set
          to.
        </span>
      )}
    </Bar>
  );
}

interface StartPickerProps {
  readonly card: CardView;
  readonly radio: RadioState;
  readonly start: SheetStart;
  readonly onChoose: (id: string) => void;
}

function StartPicker({ card, radio, start, onChoose }: StartPickerProps) {
  const choices = [
    ...(radio.tickedAt ? [{ id: 'radio', text: 'what was last ticked off', note: `up to ${utc(radio.tickedAt)} UTC` }] : []),
    ...card.revisions.slice(1).map(({ number, reason }) => ({ id: String(number), text: `revision ${number}`, note: reason })),
    { id: 'factory', text: 'factory values' },
    { id: 'unknown', text: 'Unknown: list every setting' },
  ];
  return <Picker label="The radio holds now" value={startId(start)} choices={choices} onChange={onChoose} />;
}

function Lines({ lines, ticks }: { lines: readonly SheetLine[]; ticks: Ticks }) {
  const body = useRef<HTMLTableSectionElement>(null);
  /** Space ticks and goes to the next line; the arrows only go. */
  const keys = (event: React.KeyboardEvent) => {
    const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (step === undefined) return;
    event.preventDefault();
    focusLine(body.current, step);
  };
  return (
    <Table>
      <TableHead columns={['done', 'menu', 'dial', { number: 'from' }, { number: 'set to' }, { unseen: 'note' }]} />
      <tbody ref={body} onKeyDown={keys}>
        {lines.map(({ dial, from, to, dead, bank }, i) => (
          <Fragment key={dial.id}>
            {bank !== null && bank !== lines[i - 1]?.bank && (
              <tr className="bank">
                <td colSpan={6}>{bank}</td>
              </tr>
            )}
            <tr className={ticks.done.has(dial.id) ? 'done' : undefined}>
              <td>
                <Check
                  aria-label={`${nameOf(dial)} done`}
                  isSelected={ticks.done.has(dial.id)}
                  onChange={(isDone) => {
                    ticks.set([lines[i]], isDone);
                    if (isDone) focusLine(body.current, 1);
                  }}
                />
              </td>
              <td className="mono">{dial.menu || 'front'}</td>
              <td>{dial.label}</td>
              <td className="num">{from === null ? '?' : valueText(dial, from)}</td>
              <td className="num new">{valueText(dial, to)}</td>
              <td className="soft">{dead ? `no effect now: ${dead.text}` : ''}</td>
            </tr>
          </Fragment>
        ))}
      </tbody>
    </Table>
  );
}

/** Moves the focus from one line's box to another's. */
function focusLine(body: HTMLElement | null, step: number): void {
  const boxes = [...(body?.querySelectorAll<HTMLInputElement>('input[type=checkbox]') ?? [])];
  const at = boxes.indexOf(document.activeElement as HTMLInputElement);
  boxes[at + step]?.focus();
}
