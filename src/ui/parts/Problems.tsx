'use client';
/** What is wrong, one line each, with where. */
import styled from 'styled-components';

const List = styled.ul`
  margin: 6px 0; padding: 0; list-style: none;
  li { border-left: 3px solid var(--fault); padding: 3px 10px; margin: 4px 0; background: var(--sheet); }
  .place { color: var(--soft); font-size: 13px; }`;

export function Problems({ problems }: { problems: readonly { readonly place: string; readonly text: string }[] }) {
  return (
    <List role="alert">
      {problems.map(({ place, text }) => (
        <li key={`${place} ${text}`}>
          {text} {place && <span className="place mono">{place}</span>}
        </li>
      ))}
    </List>
  );
}
