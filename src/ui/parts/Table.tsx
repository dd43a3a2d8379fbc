'use client';
/** The look of tables: light lines, right-aligned tabular numbers. */
import styled from 'styled-components';

export const Table = styled.table`
  width: 100%; border-collapse: collapse; font-size: 14.5px;
  th { text-align: left; font-weight: 400; color: var(--soft); font-size: 13px; border-bottom: 1px solid var(--line); padding: 2px 8px; }
  td { padding: 5px 8px; border-bottom: 1px solid var(--grid); vertical-align: middle; }
  .whole { white-space: nowrap; }
  th.num { text-align: right; }
  td.num { text-align: right; white-space: nowrap; font-family: 'Atkinson Hyperlegible Mono Variable', ui-monospace, monospace; font-variant-numeric: tabular-nums; }
  .new { color: var(--signal); font-weight: 700; }
  tr.dials td { padding-block: 1px; height: 31px; }
  tr.same td { color: var(--soft); }
  tr.dead td { color: var(--soft); }
  tr.dead .value { background: repeating-linear-gradient(-45deg, transparent 0 4px, var(--line) 4px 5px); text-decoration: line-through; }
  tr.dead .value input, tr.dead .value button { text-decoration: line-through; }
`;

/** Wide tables scroll by themselves, also by keyboard. */
export const Scroll = styled.div.attrs({ tabIndex: 0 })`overflow-x: auto;`;
