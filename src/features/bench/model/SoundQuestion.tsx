'use client';
/** Mic, mixer or equalizer? One answer: what each way to a better sound is worth for this voice. */
import { proxy } from 'comlink';
import { useState } from 'react';
import styled from 'styled-components';
import { modelWork } from '@/client/workers/coreWork.ts';
import type { ModelVoice } from '@/client/workers/model.worker.ts';
import { type Elsewhere, isUnknown, type SoundAnswer, soundWords } from '@/core/advice/index.ts';
import type { CurvePoint } from '@/core/curve/index.ts';
import type { Card } from '@/core/rig/index.ts';
import { fixed, signed } from '@/core/units/index.ts';
import { Bar, Button, ButtonLink } from '@/ui/parts/Button.tsx';
import { Progress } from '@/ui/parts/Progress.tsx';
import { Scroll, Table } from '@/ui/parts/Table.tsx';
import { TableHead } from '@/ui/parts/TableHead.tsx';
import { Box } from './ModelPanel.tsx';

const Wide = styled(Box)`max-width: none; p, ul { max-width: 660px; }`;

interface SoundQuestionProps {
  readonly voice: ModelVoice;
  readonly card: Card;
  readonly target: readonly CurvePoint[];
  readonly elsewhere: Elsewhere | undefined;
  readonly microphoneId: number;
}

export function SoundQuestion({ voice, card, target, elsewhere, microphoneId }: SoundQuestionProps) {
  const [answers, setAnswers] = useState<readonly SoundAnswer[] | string | null>(null);
  const [share, setShare] = useState<number | null>(null);
  const { microphone } = elsewhere ?? voice;
  const unknown = isUnknown(microphone) ? microphone.name : null;
  const ask = async () => {
    setShare(0);
    setAnswers(
      await modelWork()
        .soundWays(voice, card, target, elsewhere, proxy(setShare))
        .catch((error: Error) => `The model failed: ${error.message}`),
    );
    setShare(null);
  };
  return (
    <Wide>
      <h2>Mic, mixer or equalizer?</h2>
      <p className="soft">
        Your voice with every option, each set as well as possible: the microphone you have, the radio’s own equalizer, an outboard one,
        other kinds of microphone. Each with the ALC in the middle of its zone, off target by this recording alone: so the numbers differ
        from those of the card. Other microphones and outboard gear are rough figures, common practice.
      </p>
      <Bar>
        <Button onPress={() => void ask()} isDisabled={share !== null}>
          Calculate for this voice
        </Button>
        {unknown && <ButtonLink href="/testbench">Make a test sweep</ButtonLink>}
        {unknown && <ButtonLink href={`/station/microphones/${microphoneId}`}>Enter the microphone’s curve</ButtonLink>}
      </Bar>
      {share !== null && <Progress label="Trying every option" share={share} />}
      <div aria-live="polite" style={{ marginTop: 8 }}>
        {typeof answers === 'string' && <p>{answers}</p>}
        {answers && typeof answers !== 'string' && <Answers answers={answers} unknown={unknown} />}
      </div>
    </Wide>
  );
}

function Answers({ answers, unknown }: { answers: readonly SoundAnswer[]; unknown: string | null }) {
  return (
    <>
      <ul>
        {soundWords(answers, unknown).map((sentence) => (
          <li key={sentence}>{sentence}</li>
        ))}
      </ul>
      <Scroll>
        <Table>
          <TableHead
            columns={[
              'Option',
              { number: 'off target' },
              { number: 'reach' },
              { number: 'naturalness' },
              { number: 'room noise' },
              'set to',
              'does not fix',
            ]}
          />
          <tbody>
            {answers.map(({ name, errorDb, reachDb, naturalness, noiseDb, settings, cannot }) => (
              <tr key={name}>
                <td>{name}</td>
                <td className="num">{errorDb === null ? '–' : `${fixed(errorDb, 1)} dB`}</td>
                <td className="num">{reachDb === null ? 'not readable' : `${signed(reachDb, 1)} dB`}</td>
                <td className="num">{Math.round(naturalness)}</td>
                <td className="num">{`${fixed(noiseDb, 0)} dB`}</td>
                <td>{settings}</td>
                <td>{cannot}</td>
              </tr>
            ))}
          </tbody>
        </Table>
      </Scroll>
    </>
  );
}
