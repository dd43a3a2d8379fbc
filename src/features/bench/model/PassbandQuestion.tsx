'use client';
/** Narrow or wide, for this voice: asked when pressed, answered in a sentence and three lines. */
import { useState } from 'react';
import { modelWork } from '@/client/workers/coreWork.ts';
import type { ModelVoice } from '@/client/workers/model.worker.ts';
import type { Elsewhere, PassbandAnswer } from '@/core/advice/index.ts';
import type { Card } from '@/core/rig/index.ts';
import { signed } from '@/core/units/index.ts';
import { Bar, Button } from '@/ui/parts/Button.tsx';
import { Table } from '@/ui/parts/Table.tsx';
import { TableHead } from '@/ui/parts/TableHead.tsx';
import { Box } from './ModelPanel.tsx';

type Answer = { readonly answers: readonly PassbandAnswer[]; readonly words: string } | string;

export function PassbandQuestion({ voice, card, elsewhere }: { voice: ModelVoice; card: Card; elsewhere: Elsewhere | undefined }) {
  const [answer, setAnswer] = useState<Answer | null>(null);
  const [isAsking, setIsAsking] = useState(false);
  const ask = async () => {
    setIsAsking(true);
    setAnswer(
      await modelWork()
        .passbands(voice, card, elsewhere)
        .catch((error: Error) => `The model failed: ${error.message}`),
    );
    setIsAsking(false);
  };
  return (
    <Box>
      <h2>Narrow or wide?</h2>
      <Bar>
        <Button onPress={() => void ask()} isDisabled={isAsking}>
          {isAsking ? 'Calculating ...' : 'Calculate for this voice'}
        </Button>
      </Bar>
      <div aria-live="polite" style={{ marginTop: 8 }}>
        {typeof answer === 'string' && <p>{answer}</p>}
        {answer && typeof answer !== 'string' && (
          <>
            <p>{answer.words}</p>
            <Table style={{ maxWidth: 560 }}>
              <TableHead columns={['Passband', { number: 'Hz' }, { number: 'reach' }, { number: 'naturalness' }]} />
              <tbody>
                {answer.answers.map(({ name, edges, judged: { reach, naturalness } }) => (
                  <tr key={name}>
                    <td>{name}</td>
                    <td className="num">{edges}</td>
                    <td className="num">
                      {reach.reachDb === null
                        ? 'not readable'
                        : `${signed(reach.reachDb, 1)} ± ${(reach.uncertaintyDb ?? 0).toFixed(1)} dB`}
                    </td>
                    <td className="num">{Math.round(naturalness.score)}</td>
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
