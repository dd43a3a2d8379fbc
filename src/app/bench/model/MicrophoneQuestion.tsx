'use client';
import { proxy } from 'comlink';
/** Is a new microphone worth it? The same voice through usual kinds, each with the best fit of the present rig. */
import { useState } from 'react';
import type { CurvePoint } from '@/core/formats/curve.ts';
import type { Card } from '@/core/station/card.ts';
import { fixed, signed } from '@/ui/format.ts';
import { Bar, Button } from '@/ui/parts/Button.tsx';
import { Progress } from '@/ui/parts/Progress.tsx';
import { Table } from '@/ui/parts/Table.tsx';
import { TableHead } from '@/ui/parts/TableHead.tsx';
import { modelWork } from '@/workers/coreWork.ts';
import type { Elsewhere, MicrophoneAnswer, ModelVoice } from '@/workers/model.worker.ts';
import { Box } from './ModelPanel.tsx';

interface MicrophoneQuestionProps {
  readonly voice: ModelVoice;
  readonly card: Card;
  readonly aim: readonly CurvePoint[];
  readonly elsewhere: Elsewhere | undefined;
}

export function MicrophoneQuestion({ voice, card, aim, elsewhere }: MicrophoneQuestionProps) {
  const [answer, setAnswer] = useState<readonly MicrophoneAnswer[] | string | null>(null);
  const [share, setShare] = useState<number | null>(null);
  const ask = async () => {
    setShare(0);
    setAnswer(
      await modelWork()
        .microphones(voice, card, aim, elsewhere, proxy(setShare))
        .catch((error: Error) => `The model failed: ${error.message}`),
    );
    setShare(null);
  };
  return (
    <Box>
      <h2>Is a new microphone worth it?</h2>
      <p className="soft">
        Your voice through usual kinds of microphone, each at its usual distance in its usual room, with the best that this radio’s
        equalizer can do. Rough figures, common practice.
      </p>
      <Bar>
        <Button onPress={() => void ask()} isDisabled={share !== null}>
          Ask for this voice
        </Button>
      </Bar>
      {share !== null && <Progress label="Trying microphones" share={share} />}
      <div aria-live="polite" style={{ marginTop: 8 }}>
        {typeof answer === 'string' && <p>{answer}</p>}
        {answer && typeof answer !== 'string' && (
          <>
            <p>{words(answer)}</p>
            <Table>
              <TableHead
                columns={[
                  'Microphone',
                  { number: 'off the aim' },
                  { number: 'reach' },
                  { number: 'naturalness' },
                  { number: 'room noise' },
                ]}
              />
              <tbody>
                {answer.map(({ name, errorDb, reachDb, score, noiseDb }) => (
                  <tr key={name}>
                    <td>{name}</td>
                    <td className="num">{errorDb === null ? '–' : `${fixed(errorDb, 1)} dB`}</td>
                    <td className="num">{reachDb === null ? 'not readable' : `${signed(reachDb, 1)} dB`}</td>
                    <td className="num">{Math.round(score)}</td>
                    <td className="num">{noiseDb === null ? 'as recorded' : `${fixed(noiseDb, 0)} dB`}</td>
                  </tr>
                ))}
              </tbody>
            </Table>
          </>
        )}
      </div>
    </Box>
  );
}

/** What is worth buying shows in a decibel of tone or reach. */
const WORTH_DB = 1;

function words([own, ...others]: readonly MicrophoneAnswer[]): string {
  const gain = (each: MicrophoneAnswer) => Math.max((own.errorDb ?? 0) - (each.errorDb ?? 0), (each.reachDb ?? -99) - (own.reachDb ?? -99));
  const best = others.reduce((a, b) => (gain(b) > gain(a) ? b : a));
  return gain(best) < WORTH_DB
    ? 'No: with the equalizer set, none of these kinds gains as much as a decibel of tone or reach.'
    : `Perhaps: a ${best.name} could gain ${fixed(gain(best), 1)} dB (${(own.errorDb ?? 0) - (best.errorDb ?? 0) >= (best.reachDb ?? -99) - (own.reachDb ?? -99) ? 'of tone' : 'of reach'}) over yours.`;
}
