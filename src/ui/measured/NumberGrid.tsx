'use client';
/** A measurement's numbers, each with its note where it has one. */
import styled from 'styled-components';

const Numbers = styled.dl`
  display: grid; grid-template-columns: repeat(auto-fill, minmax(124px, 1fr)); gap: 8px 16px; margin: 10px 0;
  div { border-top: 1px solid var(--line); padding-top: 4px; }
  dt { color: var(--soft); font-size: 13px; } dd { margin: 0; font-weight: 600; }
  dd small { font-weight: 400; color: var(--soft); display: block; font-size: 12.5px; }`;

export interface NumberTold {
  readonly name: string;
  readonly text: string;
  /** Why it is missing or bounded. */
  readonly note?: string;
}

export const NOT_MEASURABLE = 'not measurable';

/** Noise explains more than half of it: the number is an upper bound. */
export const isBound = (note: string | undefined): boolean => note?.startsWith('Noise-limited: an upper bound') ?? false;

export function NumberGrid({ numbers }: { numbers: readonly NumberTold[] }) {
  return (
    <Numbers>
      {numbers.map(({ name, text, note }) => (
        <div key={name}>
          <dt>{name}</dt>
          <dd>
            {isBound(note) ? `≤ ${text}` : text}
            {note && <small>{isBound(note) ? 'noise-limited: at most this' : note}</small>}
          </dd>
        </div>
      ))}
    </Numbers>
  );
}
