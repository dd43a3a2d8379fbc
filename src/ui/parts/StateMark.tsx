'use client';
/** State as a shape with a word: colour only supports it. */
import styled from 'styled-components';
import { STATE_WORDS, type State } from '@/core/findings/index.ts';

const Svg = styled.svg`flex: none; overflow: visible;`;

/** @param hidden leave the word to the text beside it */
export function StateMark({ state, hidden = false }: { state: State; hidden?: boolean }) {
  const label = hidden ? { 'aria-hidden': true as const } : { role: 'img', 'aria-label': STATE_WORDS[state] };
  return (
    <Svg width="10" height="10" viewBox="0 0 10 10" {...label}>
      {!hidden && <title>{STATE_WORDS[state]}</title>}
      {state === 'ok' && <circle cx="5" cy="5" r="4.5" fill="var(--ok)" />}
      {state === 'watch' && <path d="M5 0 L10 9.5 L0 9.5 Z" fill="var(--watch)" />}
      {state === 'fault' && <rect x="0.5" y="0.5" width="9" height="9" fill="var(--fault)" />}
      {state === 'stale' && <circle cx="5" cy="5" r="4" fill="none" stroke="var(--watch)" strokeWidth="2" strokeDasharray="3.2 2" />}
      {state === 'unknown' && <circle cx="5" cy="5" r="4" fill="none" stroke="var(--soft)" strokeWidth="1.5" />}
    </Svg>
  );
}
