'use client';
/** A guided run: the steps, the one it stands at, and what comes next. */
import { useMemo } from 'react';
import styled from 'styled-components';
import { driveOfCard, hasOwnLevel, radioGainOf } from '@/client/cardStanding.ts';
import { carrierBracketOf } from '@/client/carrierBracketOf.ts';
import { useTuneMove } from '@/client/useTuneMove.ts';
import { useWorkingCard } from '@/client/useWorkingCard.ts';
import type { AlcStanding, NextInput } from '@/core/advice/index.ts';
import { MODE_LABELS, type Mode, STAGE_NAMES } from '@/core/rig/index.ts';
import { stepName, stepsOf, type TuneEvidence, type TuneRun, type TuneStepKey, tuneStep, wishOf } from '@/core/tune/index.ts';
import type { BenchView } from '@/server/bench/bench.ts';
import type { CardEvidence } from '@/server/bench/cardEvidence.ts';
import type { TuneRunSummary } from '@/server/tune/tuneRuns.ts';
import { Learned } from '@/ui/advisors/Learned.tsx';
import { Shell } from '@/ui/shell/Shell.tsx';

import { MoveBox } from './MoveBox.tsx';
import { OverBox } from './OverBox.tsx';
import { SoFar } from './SoFar.tsx';
import { Step } from './Step.tsx';
import { StepTools } from './StepTools.tsx';
import { useTuneAct } from './useTuneAct.ts';

const Columns = styled.div`
  display: grid; grid-template-columns: 196px minmax(0, 1fr) 400px; min-height: calc(100vh - 53px);
  > section { padding: 18px 22px 30px; min-width: 0; }
  > aside { border-left: 1px solid var(--line); background: var(--sheet); padding: 18px 18px 30px; display: flex; flex-direction: column; gap: 22px; min-width: 0; }
  @media (max-width: 1100px) { grid-template-columns: 168px minmax(0, 1fr); > aside { grid-column: 1 / -1; border-left: 0; border-top: 1px solid var(--line); } }
  @media (max-width: 640px) { display: flex; flex-direction: column; min-height: 0; > section, > aside { padding: 14px 12px; } }`;
const Path = styled.nav`
  position: relative; border-right: 1px solid var(--line); padding: 18px 0 18px 20px;
  ol { list-style: none; margin: 0; padding: 0; }
  button { display: grid; grid-template-columns: 20px 1fr; gap: 6px; width: 100%; text-align: left; border: 0; background: none; padding: 7px 10px 7px 0; cursor: pointer; color: var(--soft); align-items: baseline; }
  button[aria-current] { color: var(--ink); font-weight: 700; box-shadow: inset -3px 0 var(--signal); }
  button:hover { background: var(--signal-wash); }
  .n { font-family: 'Atkinson Hyperlegible Mono Variable', monospace; font-size: 13px; text-align: right; }
  @media (max-width: 640px) {
    border-right: 0; border-bottom: 1px solid var(--line); padding: 0 12px; overflow-x: auto; contain: paint;
    ol { display: flex; } button { white-space: nowrap; padding: 10px 12px 10px 0; } button[aria-current] { box-shadow: inset 0 -3px var(--signal); }
  }`;

/** Long names are cut: the whole of them stands on the card. */
const Line = styled.div`overflow: hidden; text-overflow: ellipsis; white-space: nowrap;`;

interface TunePageProps {
  readonly tune: TuneRunSummary;
  readonly bench: BenchView;
  /** Of the card. */
  readonly evidence: CardEvidence;
  /** What the readings say of it, in the zone that the run is after. */
  readonly standing: AlcStanding;
}

export function TunePage({ tune, bench, evidence: seen, standing }: TunePageProps) {
  const { history } = seen;
  const { run } = tune;
  const { card } = bench;
  useWorkingCard(card.id);
  const act = useTuneAct(tune.id);
  const rig = card.rig.profile;
  const [newest] = card.revisions;
  const now = { mode: card.mode, values: newest.values };
  const bracket = useMemo(() => carrierBracketOf(bench, seen), [bench, seen]);
  const evidence: TuneEvidence = {
    rig,
    card: now,
    standing,
    goal: null,
    asksAgain: false,
    bracket,
    swr: bench.readings.find(({ swr }) => swr !== null)?.swr ?? null,
    heard: heardOf(bench),
    tooMuchDrive: driveOfCard(bench),
    radioGain: radioGainOf(bench, seen),
    reports: new Set(bench.reports.map(({ station }) => station)).size,
  };
  const { scope } = tuneStep(run, run.at, evidence);
  const input: NextInput | null = scope && {
    rig,
    mode: card.mode,
    purpose: card.purpose,
    school: wishOf(run, rig),
    overs: history,
    target: bench.target,
    scope,
    hasOwnLevel: hasOwnLevel(bench, seen),
  };
  const move = useTuneMove(input, now, [card.id, newest.id, history.length, bench.readings.length, ...bench.heard.map(stateOf)]);
  const told = move.kind === 'done' ? move.move : null;
  const step = tuneStep(run, run.at, { ...evidence, goal: told?.goal ?? null, asksAgain: told?.answer?.status === 'measure' });
  return (
    <Shell
      sentence={
        <Line>
          {card.operator.name} on {card.rig.name}, {MODE_LABELS[card.mode]}, card {card.name} rev. {newest.number}
        </Line>
      }
    >
      <Columns data-card={card.id}>
        <Steps run={run} mode={card.mode} onGo={(key) => act({ kind: 'go', step: key })} />
        <Step run={run} step={step} isWorking={move.kind === 'working'} onAct={act}>
          <StepTools step={step} bench={bench} run={run} evidence={seen} />
        </Step>
        <aside aria-label="What to do">
          {step.scope && <MoveBox move={move} bench={bench} history={history} run={run} stage={STAGE_NAMES[stageOf(run.at)]} />}
          {told?.answer && <Learned card={card} learned={told.answer.learned} />}
          {step.takesOvers && <OverBox bench={bench} run={run} />}
          <SoFar tune={tune} bench={bench} />
        </aside>
      </Columns>
    </Shell>
  );
}

const stateOf = ({ measurement }: BenchView['heard'][number]) => measurement?.id;

/** The stage of the path that a step's changes are named after. */
const stageOf = (step: TuneStepKey) => (step === 'compressor' ? 'compressor' : step === 'equalizer' ? 'equalizer' : 'gain');

/** What was heard of the card as it stands. */
function heardOf({ card, over }: BenchView): TuneEvidence['heard'] {
  if (!over?.measured || over.revision.id !== card.revisions[0].id) return null;
  return { findings: over.measured.result.findings, isMonitor: over.receiver.kind === 'monitor' };
}

function Steps({ run, mode, onGo }: { run: TuneRun; mode: Mode; onGo: (step: TuneStepKey) => void }) {
  return (
    <Path aria-label="Steps">
      <ol>
        {stepsOf(run).map((key, k) => {
          const state = run.done.includes(key) ? 'done' : run.skipped.includes(key) ? 'skipped' : 'open';
          return (
            <li key={key}>
              <button type="button" aria-current={key === run.at ? 'step' : undefined} onClick={() => onGo(key)}>
                <span className="n" aria-hidden>
                  {state === 'done' ? '✓' : state === 'skipped' ? '–' : k + 1}
                </span>
                <span>
                  {stepName(key, mode)}
                  {state !== 'open' && <span className="unseen">, {state}</span>}
                </span>
              </button>
            </li>
          );
        })}
      </ol>
    </Path>
  );
}
