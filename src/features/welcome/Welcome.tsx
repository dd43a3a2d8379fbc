'use client';
/** The first five minutes: the demo club to look at, or a station of one's own, step by step to the first over. */
import { useRouter } from 'next/navigation';
import { useState, useTransition } from 'react';
import styled from 'styled-components';
import { asked } from '@/client/asked.ts';
import type { CardSummary } from '@/server/cards/cardList.ts';
import { lookAtDemo } from '@/server/demo/actions.ts';
import type { Station } from '@/server/station/station.ts';
import { Bar, Button, ButtonLink } from '@/ui/parts/Button.tsx';
import { Notice } from '@/ui/parts/Notice.tsx';
import { Page, Shell } from '@/ui/shell/Shell.tsx';
import { CardStep } from './CardStep.tsx';
import { FirstOver } from './FirstOver.tsx';
import { MicrophoneStep } from './MicrophoneStep.tsx';
import { OperatorStep } from './OperatorStep.tsx';
import { RadioStep } from './RadioStep.tsx';
import { STEP_NAMES, STEPS, type Step, stepOf } from './steps.ts';

const Choices = styled.div`
  display: grid; grid-template-columns: repeat(2, minmax(0, 1fr)); gap: 20px; margin: 18px 0; max-width: 900px;
  section { border: 1px solid var(--line); border-radius: 4px; background: var(--sheet); padding: 16px 18px; display: grid; align-content: space-between; gap: 8px; }
  @media (max-width: 700px) { grid-template-columns: minmax(0, 1fr); }`;
const Path = styled.ol`
  display: flex; flex-wrap: wrap; gap: 6px 24px; list-style: none; padding: 0; margin: 10px 0 18px; color: var(--soft);
  [aria-current] { color: var(--ink); font-weight: 700; border-bottom: 3px solid var(--signal); }`;

interface WelcomeProps {
  readonly station: Station;
  readonly card: CardSummary | null;
  readonly isSettingUp: boolean;
}

export function Welcome({ station, card, isSettingUp }: WelcomeProps) {
  const step = stepOf(station, card !== null);
  return (
    <Shell>
      <Page>{step === 'operator' && !isSettingUp ? <Start /> : <SetUp step={step} station={station} card={card} />}</Page>
    </Shell>
  );
}

function Start() {
  const router = useRouter();
  const [message, setMessage] = useState<string | null>(null);
  const [isLoading, start] = useTransition();
  const look = () =>
    start(async () => {
      const answer = await asked(lookAtDemo({}));
      if (answer.ok) router.push('/bench');
      else setMessage(answer.message);
    });
  return (
    <>
      <h1>Welcome to Dial Tune</h1>
      <p>It tells which transmit dial to move next, by how much, why, what to expect, and afterwards whether it came true.</p>
      <Choices>
        <section>
          <div>
            <h2>Set up my station</h2>
            <p>Your call, your radio, your microphone; then your first over, or a practice radio if you have no second receiver.</p>
          </div>
          <Bar>
            <ButtonLink $primary href="/welcome?setup=1">
              Set up my station
            </ButtonLink>
          </Bar>
        </section>
        <section>
          <div>
            <h2>Look at the demo club</h2>
            <p>
              An invented club with four radios, its cards and a week of overs, to click through. You can empty it again on the Station
              page.
            </p>
          </div>
          <Bar>
            <Button isDisabled={isLoading} onPress={look}>
              {isLoading ? 'Loading its overs, half a minute ...' : 'Look at the demo club'}
            </Button>
          </Bar>
        </section>
      </Choices>
      {message && <Notice tone="fault">{message}</Notice>}
    </>
  );
}

function SetUp({ step, station, card }: { step: Step; station: Station; card: CardSummary | null }) {
  return (
    <>
      <h1>Set up my station</h1>
      <Path aria-label="Steps">
        {STEPS.map((each, k) => (
          <li key={each} aria-current={each === step ? 'step' : undefined}>
            {k + 1}. {STEP_NAMES[each]}
          </li>
        ))}
      </Path>
      {step === 'operator' && <OperatorStep />}
      {step === 'radio' && <RadioStep />}
      {step === 'microphone' && <MicrophoneStep />}
      {step === 'card' && <CardStep station={station} />}
      {step === 'over' && card && <FirstOver card={card} station={station} />}
    </>
  );
}
