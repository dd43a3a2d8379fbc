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
  /* On a phone a dial is a small card: name and value to set, menu address and what stands now, why. */
  @media (max-width: 640px) {
    &.stacks { display: block; }
    &.stacks thead { display: none; }
    &.stacks tbody { display: block; }
    &.stacks tr { display: grid; grid-template-columns: 54px minmax(0, 1fr) auto; align-items: center; padding: 5px 0; border-bottom: 1px solid var(--grid); }
    &.stacks tr td { border: 0; padding: 0 4px; height: auto; }
    &.stacks td.now { grid-row: 2; grid-column: 2; text-align: left; font-size: 13px; color: var(--soft); }
    &.stacks td.now::before { content: 'now '; font-family: 'Atkinson Hyperlegible Next Variable', sans-serif; }
    &.stacks td.set { grid-row: 1 / 3; grid-column: 3; }
    &.stacks td.why { grid-column: 2 / 4; font-size: 13.5px; }
    &.stacks tr.same td.why { display: none; }
    &.stacks td.why:empty { display: none; }
  }
`;

/** Wide tables scroll by themselves, also by keyboard. */
export const Scroll = styled.div.attrs({ tabIndex: 0 })`position: relative; overflow-x: auto;`;
