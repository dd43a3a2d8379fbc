'use client';
/** The transmit path from voice to listener: navigation and dashboard at once. */
import styled from 'styled-components';
import type { StageView } from '@/core/advice/index.ts';
import { STATE_WORDS } from '@/core/findings/index.ts';
import { STAGE_NAMES, type StageKey } from '@/core/rig/index.ts';
import { StateMark } from '@/ui/parts/StateMark.tsx';

const Row = styled.nav`
  position: relative; display: grid; grid-template-columns: repeat(9, minmax(0, 1fr)); padding: 0 20px; background: var(--sheet); border-bottom: 1px solid var(--line);
  @media (max-width: 1100px) { grid-template-columns: repeat(9, minmax(126px, 1fr)); overflow-x: auto; scroll-snap-type: x proximity; scrollbar-width: thin; }
  @media (max-width: 560px) { padding: 0; }`;
const Stage = styled.button`
  padding: 11px 8px 8px 12px; border: 0; border-left: 1px solid var(--line); background: none; text-align: left; min-height: 86px; cursor: pointer;
  display: grid; align-content: start; gap: 1px; font: inherit; color: inherit;
  scroll-snap-align: start;
  &:first-child { border-left: 0; }
  &:hover { background: var(--band); }
  &[aria-current] { background: var(--signal-wash); box-shadow: inset 0 -3px 0 var(--signal); }
  .name { display: flex; align-items: center; gap: 6px; color: var(--soft); font-size: 13px; }
  b { font-size: 14.5px; line-height: 1.25; overflow-wrap: anywhere; display: -webkit-box; -webkit-line-clamp: 2; -webkit-box-orient: vertical; overflow: hidden; }
  small { color: var(--soft); font-size: 12.5px; line-height: 1.25; display: -webkit-box; -webkit-line-clamp: 2; -webkit-box-orient: vertical; overflow: hidden; }`;

export function Ribbon({
  stages,
  current,
  onChoose,
}: {
  stages: readonly StageView[];
  current: StageKey;
  onChoose: (key: StageKey) => void;
}) {
  return (
    <Row aria-label="Transmit path">
      {stages.map(({ key, value, note, state }) => (
        <Stage key={key} type="button" aria-current={key === current ? 'step' : undefined} onClick={() => onChoose(key)} title={note}>
          <span className="name">
            <StateMark state={state} hidden />
            {STAGE_NAMES[key]}
            <span className="unseen">: {STATE_WORDS[state]}</span>
          </span>
          {value && <b>{value}</b>}
          <small>{note}</small>
        </Stage>
      ))}
    </Row>
  );
}
