'use client';
/** What the practice radio hides, what was found of it, and how many overs the advice engine needs for the same. */
import { useQuery } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { useTuneMove } from '@/client/useTuneMove.ts';
import type { NextInput, SeenOver } from '@/core/advice/index.ts';
import { dialOf, readingText, valueText } from '@/core/rig/index.ts';
import { hiddenRadio } from '@/core/simulate/index.ts';
import { practiceScore } from '@/core/tune/index.ts';
import { decibels } from '@/core/units/index.ts';
import type { BenchView } from '@/server/bench/bench.ts';
import type { EngineOver } from '@/server/practice/practice.ts';
import { Bar, Button } from '@/ui/parts/Button.tsx';
import { StateMark } from '@/ui/parts/StateMark.tsx';
import { Scroll, Table } from '@/ui/parts/Table.tsx';
import { TableHead } from '@/ui/parts/TableHead.tsx';

interface ScoreProps {
  readonly bench: BenchView;
  readonly radio: number;
  /** Overs of this practice radio, oldest first. */
  readonly history: readonly SeenOver[];
}

export function Score({ bench, radio, history }: ScoreProps) {
  const { card } = bench;
  const [isRevealed, setIsRevealed] = useState(false);
  const rig = card.rig.profile;
  const now = { mode: card.mode, values: card.revisions[0].values };
  const input: NextInput | null =
    isRevealed && history.length > 0
      ? { rig, mode: card.mode, purpose: card.purpose, school: bench.school.wish, overs: history, target: bench.target }
      : null;
  const move = useTuneMove(input, now, ['score', card.id, history.length]);
  const answer = move.kind === 'done' ? move.move.answer : null;
  const lines = useMemo(() => practiceScore(rig, hiddenRadio(rig, radio), history, answer?.learned ?? null), [rig, radio, history, answer]);
  if (!isRevealed)
    return (
      <>
        <h2 style={{ marginTop: 18 }}>What it hides</h2>
        <p className="soft">Find out by measuring first: its decibels, its width numbers, its carrier, its room.</p>
        <Button onPress={() => setIsRevealed(true)}>Show what it hides</Button>
      </>
    );
  const told = lines.filter(({ isRight }) => isRight !== null);
  return (
    <>
      <h2 style={{ marginTop: 18 }}>What it hides, and what you found</h2>
      {history.length > 0 && (
        <p>
          {told.filter(({ isRight }) => isRight).length} of {told.length} found right after {history.length}{' '}
          {history.length === 1 ? 'over' : 'overs'}.{answer && ` ${goalText(answer.goal)}`}
        </p>
      )}
      <Scroll>
        <Table aria-label="What the radio hides">
          <TableHead columns={['What', 'hidden', 'found']} />
          <tbody>
            {lines.map(({ what, is, found, isRight }) => (
              <tr key={what}>
                <td>{what}</td>
                <td>{is}</td>
                <td>
                  {isRight !== null && <StateMark state={isRight ? 'ok' : 'watch'} />}{' '}
                  {found ?? (
                    <span className="soft" style={{ whiteSpace: 'nowrap' }}>
                      not measured
                    </span>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </Table>
      </Scroll>
      {card.practiceRadio !== null && <Engine cardId={card.id} bench={bench} overs={history.length} />}
    </>
  );
}

const ALC_WORDS = { ok: 'in the zone', low: 'below the zone', high: 'above the zone', unknown: 'not read' } as const;

function goalText({
  alc,
  drive,
  toneErrorDb,
  bestToneErrorDb,
}: {
  alc: keyof typeof ALC_WORDS;
  drive: string;
  toneErrorDb: number | null;
  bestToneErrorDb: number | null;
}): string {
  const tone =
    toneErrorDb === null || bestToneErrorDb === null
      ? 'not measured'
      : `${decibels(toneErrorDb, 1)} off target, ${decibels(bestToneErrorDb, 1)} possible`;
  return `Now: ALC ${ALC_WORDS[alc]}, next channel ${drive === 'ok' ? 'clean' : drive === 'high' ? 'full' : 'not measured'}, tone ${tone}.`;
}

/** The engine on the same radio, from the card that practice began with. */
function Engine({ cardId, bench, overs: own }: { cardId: number; bench: BenchView; overs: number }) {
  const [isAsked, setIsAsked] = useState(false);
  const { data, error } = useQuery({
    queryKey: ['engine', cardId],
    enabled: isAsked,
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: async ({ signal }): Promise<readonly EngineOver[]> => {
      const response = await fetch(`/api/practice/engine?card=${cardId}`, { signal });
      const answer = await response.json();
      if (!response.ok) throw new Error(answer.message);
      return answer.overs;
    },
  });
  const rig = bench.card.rig.profile;
  const isDone = data?.at(-1)?.status === 'done';
  return (
    <>
      <h2 style={{ marginTop: 18 }}>The advice on the same radio</h2>
      {!isAsked && (
        <Bar>
          <Button onPress={() => setIsAsked(true)}>Let it play the radio</Button>
        </Bar>
      )}
      <div aria-live="polite">
        {isAsked && !data && !error && <p>Playing: up to ten overs, a minute or two ...</p>}
        {error && <p>{error.message}</p>}
        {data && (
          <p>
            {isDone ? `It was done after ${data.length} overs` : `It was not done after ${data.length} overs`}; you have made {own}.
          </p>
        )}
      </div>
      {data && (
        <Scroll>
          <Table aria-label="Overs of the advice">
            <TableHead columns={[{ number: 'over' }, { number: 'ALC' }, { number: 'off target' }, 'then']} />
            <tbody>
              {data.map(({ alc, toneErrorDb, status, set }, k) => (
                <tr key={k}>
                  <td className="num">{k + 1}</td>
                  <td className="num">{alc === null ? '–' : readingText(rig.alc, alc)}</td>
                  <td className="num">{toneErrorDb === null ? '–' : decibels(toneErrorDb, 1)}</td>
                  <td>
                    {set.length > 0
                      ? set.map(({ dialId, to }) => `${dialOf(rig, dialId).label} ${valueText(dialOf(rig, dialId), to)}`).join(', ')
                      : status === 'done'
                        ? 'done'
                        : status === 'stop'
                          ? 'stopped'
                          : 'one more look'}
                  </td>
                </tr>
              ))}
            </tbody>
          </Table>
        </Scroll>
      )}
    </>
  );
}
