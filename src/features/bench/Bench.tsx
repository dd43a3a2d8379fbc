'use client';
/** The main screen: ribbon, the work area of one stage, next move and trail. */
import dynamic from 'next/dynamic';
import { useMemo, useState } from 'react';
import styled from 'styled-components';
import { analyserDbOf, hasOwnLevel, radioGainOf, schooledRig } from '@/client/cardStanding.ts';
import { lineContext, runDialLine } from '@/client/dialLineRun.ts';
import { sentenceOf } from '@/client/sentence.ts';
import { useCardEvidence } from '@/client/useCardEvidence.ts';
import { useFit } from '@/client/useFit.ts';
import { elsewhereOf, modelVoiceOf, useJudged } from '@/client/useJudged.ts';
import { useWorkingCard } from '@/client/useWorkingCard.ts';
import { type AlcStanding, isWorthwhile, ribbon } from '@/core/advice/index.ts';
import { headline } from '@/core/measure/index.ts';
import { type RigProfile, STAGES, type StageKey } from '@/core/rig/index.ts';
import type { BenchView } from '@/server/bench/bench.ts';
import { DialLine } from '@/ui/dialLine/DialLine.tsx';
import { useDistance } from '@/ui/distance.ts';
import { useKeys } from '@/ui/keys.ts';
import { type Neighbours, Sentence } from '@/ui/shell/Sentence.tsx';
import { Shell } from '@/ui/shell/Shell.tsx';
import { EqualizerStage } from './EqualizerStage.tsx';
import { NextMove } from './NextMove.tsx';
import { Ribbon } from './Ribbon.tsx';
import { Trail } from './Trail.tsx';

const Columns = styled.div`
  display: grid; grid-template-columns: minmax(0, 1fr) 372px; min-height: calc(100vh - 139px);
  @media (min-width: 1500px) { grid-template-columns: minmax(0, 1fr) 440px; }
  @media (max-width: 900px) { display: flex; flex-direction: column; min-height: 0; }`;
const Work = styled.section`
  padding: 16px 20px 24px; min-width: 0;
  @media (max-width: 900px) { order: 2; }
  @media (max-width: 560px) { padding: 14px 12px 20px; }`;
/** In one column what to do next comes first, and the trail last. */
const Side = styled.aside`
  border-left: 1px solid var(--line); background: var(--sheet); padding: 16px 18px; display: flex; flex-direction: column; gap: 14px;
  @media (max-width: 900px) {
    display: contents;
    > * { background: var(--sheet); padding: 14px 20px; }
    > :last-child { order: 3; border-top: 1px solid var(--line); }
  }
  @media (max-width: 560px) { > * { padding: 12px; } }`;

/** Stages beside the one that is worked on most come when they are shown. */
const VoiceStage = dynamic(async () => (await import('./VoiceStage.tsx')).VoiceStage);
const MicStage = dynamic(async () => (await import('./MicStage.tsx')).MicStage);
const DialStage = dynamic(async () => (await import('./DialStage.tsx')).DialStage);
const OnAirStage = dynamic(async () => (await import('./OnAirStage.tsx')).OnAirStage);

const isStage = (text: string | undefined): text is StageKey => STAGES.includes(text as StageKey);
/** Where a card is looked at first. */
const usualStage = ({ equalizer }: RigProfile): StageKey => (equalizer.kind === 'none' ? 'gain' : 'equalizer');

interface BenchProps {
  readonly bench: BenchView;
  /** What the readings say of it: worked out by the server, since a page that is still loading has other work. */
  readonly standing: AlcStanding;
  readonly neighbours: Neighbours;
  readonly firstStage?: string;
}

export function Bench({ bench, standing, neighbours, firstStage }: BenchProps) {
  const { card, over } = bench;
  useWorkingCard(card.id);
  const distance = useDistance();
  const [stage, setStage] = useState<StageKey>(isStage(firstStage) ? firstStage : usualStage(card.rig.profile));
  // A link to another stage of this page.
  const [asked, setAsked] = useState(firstStage);
  if (firstStage !== asked) {
    setAsked(firstStage);
    if (isStage(firstStage)) setStage(firstStage);
  }
  const fit = useFit(bench);
  const [newest] = card.revisions;
  const now = { mode: card.mode, values: newest.values };
  const context = useMemo(() => lineContext(card), [card]);
  const evidence = useCardEvidence(bench);
  const radioGain = evidence && radioGainOf(bench, evidence);
  const choose = (key: StageKey) => {
    setStage(key);
    const url = new URL(window.location.href);
    url.searchParams.set('stage', key);
    window.history.replaceState(window.history.state, '', url);
  };
  useKeys(Object.fromEntries(STAGES.map((key, i) => [String(i + 1), () => choose(key)])));
  const model = useJudged(modelVoiceOf(bench), now, { elsewhere: elsewhereOf(bench, card) });
  const stages = ribbon({
    rig: schooledRig(bench),
    card: now,
    microphone: { name: card.microphone.name, use: newest.use },
    distanceUnit: distance.unit,
    voice: over?.measured?.result ?? null,
    radio: bench.radio?.evidence
      ? {
          headline: headline(bench.radio.evidence.result),
          findings: bench.radio.evidence.result.findings,
          isOld: bench.radio.revision.id !== newest.id,
        }
      : null,
    radioGain,
    movesLeft: fit.kind === 'done' ? (isWorthwhile(fit.answer.fit) ? fit.answer.fit.best.moves.length : 0) : null,
    alcReading: standing.newest?.alc ?? null,
    alcExpected: standing.newest?.expected[1] ?? null,
    analyserDb: analyserDbOf(bench),
    isChangedSince: (standing.newest?.changed.length ?? 0) > 0,
    model: model.kind === 'done' ? model.judged : null,
    isModelling: model.kind === 'working',
  });
  return (
    <Shell sentence={<Sentence card={card} neighbours={neighbours} {...sentenceOf(card)} />}>
      <div data-card={card.id}>
        <Ribbon stages={stages} current={stage} onChoose={choose} />
        <Columns>
          <Work aria-label="Stage">
            {stage === 'voice' && <VoiceStage bench={bench} />}
            {stage === 'equalizer' && <EqualizerStage bench={bench} fit={fit} />}
            {stage === 'mic' && <MicStage key={newest.id} bench={bench} />}
            {!['voice', 'mic', 'equalizer'].includes(stage) && (
              <DialStage key={stage} stage={stage} bench={bench} standing={standing} hasOwnLevel={hasOwnLevel(bench, evidence)} />
            )}
            {stage === 'on-air' && <OnAirStage bench={bench} />}
          </Work>
          <Side>
            <NextMove bench={bench} fit={fit} standing={standing} evidence={evidence} radioGain={radioGain} onShow={choose} />
            <DialLine
              rig={card.rig.profile}
              card={now}
              context={context}
              enter={(line, words) => runDialLine(line, words, { card, over: over && lineOver(over) })}
            />
            <Trail bench={bench} />
          </Side>
        </Columns>
      </div>
    </Shell>
  );
}

const lineOver = ({ id, revision, measured }: NonNullable<BenchView['over']>) => ({
  id,
  revisionId: revision.id,
  isMeasured: measured !== null,
});
