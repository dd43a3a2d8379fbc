'use client';
/** Judgements on a measurement, worst first, each with its evidence. */
import styled from 'styled-components';
import type { Finding } from '@/core/findings/index.ts';
import { StateMark } from '../parts/StateMark.tsx';

const List = styled.ul`
  list-style: none; margin: 0 0 10px; padding: 0;
  li { display: grid; grid-template-columns: 14px 1fr; gap: 8px; padding: 5px 0; border-top: 1px solid var(--grid); align-items: baseline; }
  small { color: var(--soft); font-size: 13px; display: block; }`;

export function Findings({ findings }: { findings: readonly Finding[] }) {
  if (findings.length === 0) {
    return (
      <p className="soft">
        <StateMark state="ok" /> Nothing stands out.
      </p>
    );
  }
  return (
    <List aria-label="Findings">
      {findings.map(({ code, severity, text, evidence }) => (
        <li key={code}>
          <StateMark state={severity} />
          <div>
            {text}
            <small>{evidence}</small>
          </div>
        </li>
      ))}
    </List>
  );
}
