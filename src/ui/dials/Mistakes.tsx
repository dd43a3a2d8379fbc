'use client';
/** What is possibly overlooked on a card, and what sets it right. */
import styled from 'styled-components';
import { type Card, mistakesOn, type RigProfile } from '@/core/rig/index.ts';
import { StateMark } from '../parts/StateMark.tsx';

const List = styled.ul`
  list-style: none; margin: 10px 0 0; padding: 0;
  li { border-left: 3px solid var(--watch); background: var(--sheet); padding: 7px 12px; margin: 5px 0; display: flex; gap: 9px; align-items: baseline; }`;

export function Mistakes({ rig, card }: { rig: RigProfile; card: Card }) {
  const found = mistakesOn(rig, card);
  if (found.length === 0) return null;
  return (
    <List aria-label="Possibly overlooked">
      {found.map(({ code, text, remedy, dials }) => (
        <li key={`${code} ${dials.join()}`}>
          <StateMark state="watch" />
          <span>
            {text} <span className="soft">{remedy}</span>
          </span>
        </li>
      ))}
    </List>
  );
}
