'use client';
/** What the equalizer's dials really do, found out on purpose: three overs, and the profile corrected by them. */
import { useMemo, useState } from 'react';
import { useCardEvidence } from '@/client/useCardEvidence.ts';
import { useSave } from '@/client/useSave.ts';
import { useTuneMove } from '@/client/useTuneMove.ts';
import { dialExperiment, type Learned as Known, type NextInput } from '@/core/advice/index.ts';
import { clickOf } from '@/core/rig/index.ts';
import { fixed, percent } from '@/core/units/index.ts';
import type { BenchView } from '@/server/bench/bench.ts';
import type { CardEvidence } from '@/server/bench/cardEvidence.ts';
import { Bar, Button } from '../parts/Button.tsx';
import { StateMark } from '../parts/StateMark.tsx';
import { SaveNotice } from '../shell/SaveNotice.tsx';
import { Learned } from './Learned.tsx';

export function Experiment({ bench }: { bench: BenchView }) {
  const [isOpen, setIsOpen] = useState(false);
  const { equalizer } = bench.card.rig.profile;
  if (equalizer.kind === 'none') return null;
  return (
    <section aria-label="What the dials really do" style={{ marginTop: 22, maxWidth: 720 }}>
      <h2>What these dials really do</h2>
      <p className="soft">
        {equalizer.kind === 'parametric' ? 'Width numbers mean opposite things on different radios, and a' : 'A'} decibel on a dial is
        rarely one decibel. Three overs made on purpose tell.
      </p>
      {isOpen ? <Steps bench={bench} /> : <Button onPress={() => setIsOpen(true)}>Find out</Button>}
    </section>
  );
}

function Steps({ bench }: { bench: BenchView }) {
  const evidence = useCardEvidence(bench);
  return evidence ? <Open bench={bench} evidence={evidence} /> : <p>Loading the overs of this card ...</p>;
}

function Open({ bench, evidence: { history } }: { bench: BenchView; evidence: CardEvidence }) {
  const { card, target } = bench;
  const rig = card.rig.profile;
  const [{ values, id }] = card.revisions;
  const { save, isSaving, refusal, forget } = useSave({ card, over: null });
  const experiment = useMemo(() => dialExperiment(rig, { mode: card.mode, values }, history), [rig, card.mode, values, history]);
  const input: NextInput = {
    rig,
    mode: card.mode,
    purpose: card.purpose,
    school: { alcZone: rig.alc.zone, compression: 'none' },
    overs: history,
    target,
    scope: ['tone'],
  };
  const move = useTuneMove(history.length > 0 ? input : null, { mode: card.mode, values }, ['experiment', card.id, id, history.length]);
  if (!experiment) return <p>No equalizer band works in this mode.</p>;
  const { steps, next } = experiment;
  const learned = move.kind === 'done' ? (move.move.answer?.learned ?? null) : null;
  return (
    <>
      <ol style={{ paddingLeft: 20, margin: '8px 0' }}>
        {steps.map(({ text, isDone }, k) => (
          <li key={text} style={{ padding: '3px 0' }}>
            <StateMark state={isDone ? 'ok' : 'unknown'} hidden /> {text}
            {isDone
              ? ' Recorded.'
              : k === next && Object.keys(steps[k].set).length === 0
                ? ' On the card: talk for 15 seconds and record it.'
                : ''}
          </li>
        ))}
      </ol>
      {next !== null && Object.keys(steps[next].set).length > 0 && (
        <Bar>
          <Button isDisabled={isSaving} onPress={() => save({ values: steps[next].set, reason: 'finding out what the dials do' })}>
            Put number {next + 1} on the card
          </Button>
        </Bar>
      )}
      <SaveNotice refusal={refusal} forget={forget} />
      {learned?.equalizer && <p aria-live="polite">{soFar(learned.equalizer, clickOf(rig))}</p>}
      {learned && <Learned card={card} learned={learned} />}
    </>
  );
}

function soFar({ octaves, clickDb: [low, likely, high] }: NonNullable<Known['equalizer']>, said: number): string {
  const click = `A decibel on a dial is ${fixed(likely, 2)} dB (${fixed(low, 2)} to ${fixed(high, 2)}; the profile has ${fixed(said, 2)}).`;
  if (octaves === null) return click;
  const chance = Math.max(octaves, 1 - octaves);
  return `So far the width number is ${octaves >= 0.5 ? 'octaves' : 'Q'} with ${percent(chance)}. ${click}`;
}
