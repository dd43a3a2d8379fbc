'use client';
/** The moves made on this card, newest first, with what was expected and what came of it. */
import Link from 'next/link';
import styled from 'styled-components';
import { changeText, expectedText, groupMoves, type TrailGroup } from '@/core/advice/index.ts';
import { signed } from '@/core/units/index.ts';
import type { BenchView } from '@/server/bench/bench.ts';
import { Notice } from '@/ui/parts/Notice.tsx';
import { utc, utcDay, utcTime } from '@/ui/utc.ts';

const Box = styled.section`
  border-top: 1px solid var(--line); padding-top: 10px;
  h2 { font-size: 13px; margin: 0 0 6px; color: var(--soft); font-weight: 400; display: flex; justify-content: space-between; }
  ol { list-style: none; margin: 0; padding: 0; }
  li { display: grid; grid-template-columns: 48px 1fr; gap: 6px; padding: 6px 0; border-bottom: 1px dotted var(--line); }
  li.day { display: block; border: 0; color: var(--soft); font-size: 13px; padding: 8px 0 0; }
  time { color: var(--soft); font-size: 13px; padding-top: 1px; }
  .then { font-size: 13.5px; color: var(--soft); }
  .then b { color: var(--ink); }`;

export function Trail({ bench: { card, trail, levelDrop } }: { bench: BenchView }) {
  let day = '';
  return (
    <Box aria-label="Trail">
      <h2>
        <span>Trail</span>
        <Link href={`/cards/${card.id}`}>all revisions</Link>
      </h2>
      {levelDrop && <Notice>{levelDrop}</Notice>}
      {trail.length === 0 && <p className="soft">No moves yet. What you put on the card is kept here with what you expected of it.</p>}
      <ol>
        {groupMoves(trail).map((group) => {
          const [{ madeAt }] = group.moves;
          const isNewDay = utcDay(madeAt) !== day;
          day = utcDay(madeAt);
          return [
            isNewDay && (
              <li className="day" key={day}>
                {day}
              </li>
            ),
            <Entry key={group.revision} card={card} group={group} />,
          ];
        })}
      </ol>
    </Box>
  );
}

type EntryProps = { readonly card: BenchView['card']; readonly group: TrailGroup<BenchView['trail'][number]> };

function Entry({ card, group: { moves, telling } }: EntryProps) {
  const [{ madeAt }] = moves;
  const outcome = telling?.outcome;
  const basis = outcome
    ? `Heard on over ${outcome.overId}, over all that changed since over ${telling.overId}`
    : 'Checked when an over with these numbers is measured on the same receiver';
  return (
    <li>
      <time
        className="mono"
        dateTime={madeAt}
        title={`${utc(madeAt)} UTC, ${new Date(madeAt).toLocaleString()} here`}
        suppressHydrationWarning
      >
        {utcTime(madeAt)}
      </time>
      <div>
        {moves.map((move) => (
          <div key={move.id}>{changeOf(card, move)}</div>
        ))}
        {telling && (
          <div className="then" title={basis}>
            {moves.length > 1 ? 'together ' : ''}expected {expectedText(telling)},{' '}
            {outcome ? <b>got {signed(outcome.changeDb, 1)}</b> : 'not checked yet'}
          </div>
        )}
      </div>
    </li>
  );
}

function changeOf(card: BenchView['card'], { dialId, from, to }: BenchView['trail'][number]): string {
  // The profile may have lost the dial since.
  const dial = card.rig.profile.dials.find((each) => each.id === dialId);
  return dial ? `${dial.label} ${changeText(dial, from, to)}` : `${dialId} ${from} → ${to}`;
}
