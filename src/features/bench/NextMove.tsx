'use client';
/** The one thing to do next, why, and what to expect of it. */
import { useOptimistic, useRef, useState, useTransition } from 'react';
import styled from 'styled-components';
import { useAddRecording } from '@/client/addRecording.ts';
import { asked } from '@/client/asked.ts';
import { driveOfCard, hasOwnLevel, schooledRig } from '@/client/cardStanding.ts';
import type { FitState } from '@/client/useFit.ts';
import { useNextAnswer } from '@/client/useNextAnswer.ts';
import { useSave } from '@/client/useSave.ts';
import {
  type AlcStanding,
  driveKnee,
  type LevelInput,
  type NextStep,
  nextStep,
  type RadioGain,
  type StepInput,
} from '@/core/advice/index.ts';
import type { StageKey } from '@/core/rig/index.ts';
import type { BenchView } from '@/server/bench/bench.ts';
import type { CardEvidence } from '@/server/bench/cardEvidence.ts';
import { notThis } from '@/server/cards/actions.ts';
import { SettingsTable } from '@/ui/dials/SettingsTable.tsx';
import { useKeys } from '@/ui/keys.ts';
import { Bar, Button, ButtonLink } from '@/ui/parts/Button.tsx';
import { Notice } from '@/ui/parts/Notice.tsx';
import { SaveNotice } from '@/ui/shell/SaveNotice.tsx';

const Box = styled.section`
  .kicker { font-size: 13px; color: var(--soft); font-weight: 400; margin: 0; }
  .do { font-size: 21px; line-height: 1.25; font-weight: 700; margin: 3px 0 6px; outline-offset: 4px; text-wrap: balance; }
  table { margin: 4px 0 8px; }
  .expect { border-left: 3px solid var(--signal); padding: 3px 0 3px 10px; color: var(--soft); margin: 0 0 6px; }`;

interface NextMoveProps {
  readonly bench: BenchView;
  readonly fit: FitState;
  readonly standing: AlcStanding;
  /** Null until it is there. */
  readonly evidence: CardEvidence | null;
  readonly radioGain: RadioGain | null;
  readonly onShow: (stage: StageKey) => void;
}

export function NextMove({ bench, fit, standing, evidence, radioGain, onShow }: NextMoveProps) {
  const { skipped, setSkipped, message } = useSetAside(bench);
  const heading = useRef<HTMLHeadingElement>(null);
  const { save, isSaving, refusal, forget } = useSave(bench);
  useKeys({ n: () => heading.current?.focus() });
  const engine = useNextAnswer(bench);
  const knee = driveKnee(bench.card.rig.profile, evidence?.history ?? [], standing.gain?.to ?? null);
  const step = nextStep({
    ...stepInput(bench, fit, standing, skipped, { answer: engine.answer, knee, radioGain, hasOwnLevel: hasOwnLevel(bench, evidence) }),
    isThinking: engine.isThinking,
  });
  const { moves, skips, all = 0 } = step;
  return (
    <Box aria-label="Next move">
      <h2 className="kicker">Next move</h2>
      <h3 className="do" tabIndex={-1} ref={heading}>
        {step.title}
      </h3>
      {moves && moves.length > 1 && <SettingsTable label="Dials to set" settings={moves} />}
      <p>{step.text}</p>
      {step.expect && <p className="expect">{step.expect}</p>}
      <Bar>
        {moves && (
          <Button
            primary
            isDisabled={isSaving}
            onPress={() =>
              save({
                values: Object.fromEntries(moves.map(({ dial, to }) => [dial.id, to])),
                reason: 'next move',
                why: Object.fromEntries(moves.map(({ dial, why }) => [dial.id, why])),
              })
            }
          >
            Put {moves.length === 1 ? 'it' : 'them'} on the card
          </Button>
        )}
        <Elsewhere bench={bench} step={step} onShow={onShow} />
        {skips && (
          <Button onPress={() => setSkipped([...skipped, skips])}>
            {moves ? 'Not this' : step.kind === 'record-again' ? 'Use it anyway' : 'Go on anyway'}
          </Button>
        )}
        {moves && all > 1 && (
          <Button aria-label={`All ${all} moves of the fit`} onPress={() => onShow('equalizer')}>
            All {all}
          </Button>
        )}
      </Bar>
      {skipped.length > 0 && (
        <Bar>
          <Button onPress={() => setSkipped([])}>Show skipped moves</Button>
        </Bar>
      )}
      {message && <Notice tone="fault">{message}</Notice>}
      <SaveNotice refusal={refusal} forget={forget} />
    </Box>
  );
}

/** What is not wanted is remembered with the card. */
function useSetAside({ card }: Pick<BenchView, 'card'>) {
  const [message, setMessage] = useState<string | null>(null);
  const [, start] = useTransition();
  const [skipped, show] = useOptimistic(card.setAside);
  const setSkipped = (setAside: readonly string[]) =>
    start(async () => {
      show(setAside);
      const answer = await asked(notThis({ cardId: card.id, setAside: [...setAside] }));
      setMessage(answer.ok ? null : answer.message);
    });
  return { skipped, setSkipped, message };
}

/** What a step that is no move of a dial leads to. */
function Elsewhere({ bench: { card, over, overs }, step, onShow }: Pick<NextMoveProps, 'bench' | 'onShow'> & { step: NextStep }) {
  const addRecording = useAddRecording();
  const [newest] = card.revisions;
  const newer = newerOver({ card, overs });
  const adds = (primary: boolean) => (
    <Button primary={primary} onPress={() => addRecording(card.id)}>
      Add a recording
    </Button>
  );
  switch (step.kind) {
    case 'record':
    case 'record-again':
      return adds(true);
    case 'one-more':
      return (
        <>
          {adds(true)}
          <Button onPress={() => onShow('alc')}>Type a reading</Button>
        </>
      );
    case 'distance':
      return (
        <>
          <Button primary onPress={() => onShow('mic')}>
            Talking distance
          </Button>
          {adds(false)}
        </>
      );
    case 'wait':
    case 'no-change':
      return adds(false);
    case 'together':
      return (
        <>
          <Button primary onPress={() => onShow('equalizer')}>
            Show them
          </Button>
          {over?.revision.id !== newest.id && adds(false)}
        </>
      );
    case 'newer':
      return (
        <ButtonLink $primary href={`/bench?card=${card.id}&over=${newer?.id}&stage=equalizer`}>
          Show over {newer?.id}
        </ButtonLink>
      );
    case 'make-over':
      return (
        <>
          {adds(true)}
          <ButtonLink href={`/cards/${card.id}/sheet?from=${over?.revision.number}`}>Dial sheet</ButtonLink>
        </>
      );
    default:
      return null;
  }
}

const newerOver = ({ card, overs }: Pick<BenchView, 'card' | 'overs'>) =>
  overs.find(({ revision, status }) => revision === card.revisions[0].number && status === 'done');

function stepInput(
  bench: BenchView,
  fit: FitState,
  standing: AlcStanding,
  skipped: readonly string[],
  known: Pick<LevelInput, 'answer' | 'knee' | 'radioGain' | 'hasOwnLevel'>,
): Omit<StepInput, 'isThinking'> {
  const { card, over } = bench;
  const [newest] = card.revisions;
  // A recording of the radio signal speaks for the card it was made with.
  return {
    over: over && {
      id: over.id,
      revision: over.revision.number,
      status: over.measurement?.status ?? 'none',
      error: over.measurement?.error ?? null,
      findings: over.measured?.result.findings ?? null,
    },
    revision: newest.number,
    level: {
      rig: schooledRig(bench),
      card: { mode: card.mode, values: newest.values },
      standing,
      ...known,
      swr: bench.readings.find(({ swr }) => swr !== null)?.swr ?? null,
      tooMuchDrive: driveOfCard(bench),
    },
    newerOverId: newerOver(bench)?.id ?? null,
    fit: fit.kind === 'done' ? fit.answer : fit.kind === 'impossible' ? fit.why : null,
    skipped,
  };
}
