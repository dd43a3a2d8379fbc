'use client';
/** One step: why now, what to do, what is good enough and whether it is. */
import { type ReactNode, useOptimistic, useState, useTransition } from 'react';
import styled from 'styled-components';
import { isOver, type TuneAct, type TuneRun, type TuneStep, type TuneTask } from '@/core/tune/index.ts';
import { Bar, Button } from '@/ui/parts/Button.tsx';
import { Check } from '@/ui/parts/Check.tsx';
import { Notice } from '@/ui/parts/Notice.tsx';
import { StateMark } from '@/ui/parts/StateMark.tsx';
import type { DoAct } from './useTuneAct.ts';

const Body = styled.section`
  h1 { margin-bottom: 6px; }
  h2 { font-size: 13px; font-weight: 400; color: var(--soft); margin: 18px 0 4px; }
  > p { max-width: 62ch; }
  ul { list-style: none; margin: 0; padding: 0; max-width: 66ch; }
  li { padding: 6px 0; }
  li label { align-items: flex-start; display: inline-flex; }
  li .box { margin-top: 1px; }
  .enough { display: flex; gap: 9px; align-items: baseline; margin: 0; max-width: 62ch; }
  .safety { color: var(--fault); font-weight: 700; }`;

interface StepProps {
  readonly run: TuneRun;
  readonly step: TuneStep;
  /** The next move is being worked out. */
  readonly isWorking: boolean;
  readonly onAct: DoAct;
  readonly children: ReactNode;
}

export function Step({ run, step, isWorking, onAct, children }: StepProps) {
  const [message, setMessage] = useState<string | null>(null);
  const [isBusy, start] = useTransition();
  const act = (each: TuneAct) => start(async () => setMessage(await onAct(each)));
  const isDone = run.done.includes(step.key);
  const isGood = step.enough.state === 'ok';
  return (
    <Body aria-label="Step">
      <h1>{step.title}</h1>
      <p>{step.why}</p>
      <h2>What to do</h2>
      <Tasks key={step.key} run={run} tasks={step.tasks} onAct={onAct} onRefused={setMessage} />
      {children}
      <h2>Good enough: {step.goal}</h2>
      <p className="enough" aria-live="polite">
        {isWorking ? (
          <span className="soft">Calculating ...</span>
        ) : (
          <>
            <StateMark state={step.enough.state} /> <span>{step.enough.text}</span>
          </>
        )}
      </p>
      {message && <Notice tone="fault">{message}</Notice>}
      <Bar>
        {isDone ? (
          <Button isDisabled={isBusy} onPress={() => act({ kind: 'repeat', step: step.key })}>
            Do this step again
          </Button>
        ) : (
          <>
            <Button primary={isGood} isDisabled={isBusy} onPress={() => act({ kind: 'done', step: step.key })}>
              {isGood ? (step.key === 'finish' ? 'Done, end the run' : 'Done, next step') : 'Done all the same'}
            </Button>
            <Button isDisabled={isBusy} onPress={() => act({ kind: 'skip', step: step.key })}>
              Skip
            </Button>
          </>
        )}
      </Bar>
      {isOver(run) && <p style={{ marginTop: 14 }}>The run is finished. Any step can be done again.</p>}
    </Body>
  );
}

interface TasksProps {
  readonly run: TuneRun;
  readonly tasks: readonly TuneTask[];
  readonly onAct: DoAct;
  readonly onRefused: (message: string | null) => void;
}

function Tasks({ run, tasks, onAct, onRefused }: TasksProps) {
  const [, start] = useTransition();
  const [ticks, tick] = useOptimistic(run.ticks, (before, { id, isTicked }: { id: string; isTicked: boolean }) =>
    isTicked ? [...before, id] : before.filter((each) => each !== id),
  );
  const toggle = (id: string, isTicked: boolean) =>
    start(async () => {
      tick({ id, isTicked });
      onRefused(await onAct({ kind: isTicked ? 'tick' : 'untick', id }));
    });
  return (
    <ul>
      {tasks.map(({ id, text, isSafety }) => (
        <li key={id}>
          <Check isSelected={ticks.includes(id)} onChange={(isTicked) => toggle(id, isTicked)}>
            <span>
              {isSafety && <span className="safety">Safety: </span>}
              {text}
            </span>
          </Check>
        </li>
      ))}
    </ul>
  );
}
