'use client';
/** The one thing to do next at this step, what to expect of it, and whether the last one came true. */
import styled from 'styled-components';
import { useSave } from '@/client/useSave.ts';
import type { TuneMoveState } from '@/client/useTuneMove.ts';
import {
  alcAbout,
  compressionCameText,
  type ExpectedGot,
  type NextAnswer,
  nextChannelCameText,
  rangeAbout,
  type SeenOver,
  toneCameText,
} from '@/core/advice/index.ts';
import { type RigProfile, readingText, valueOn, valueText } from '@/core/rig/index.ts';
import type { TuneRun } from '@/core/tune/index.ts';
import { decibels, fixed } from '@/core/units/index.ts';
import type { BenchView } from '@/server/bench/bench.ts';
import { SettingsTable } from '@/ui/dials/SettingsTable.tsx';
import { Bar, Button, ButtonLink } from '@/ui/parts/Button.tsx';
import { StateMark } from '@/ui/parts/StateMark.tsx';
import { SaveNotice } from '@/ui/shell/SaveNotice.tsx';

const Box = styled.section`
  h2 { font-size: 13px; font-weight: 400; color: var(--soft); margin: 0; }
  .do { font-size: 20px; line-height: 1.25; font-weight: 700; margin: 3px 0 6px; text-wrap: balance; }
  .expect { border-left: 3px solid var(--signal); padding: 3px 0 3px 10px; color: var(--soft); margin: 6px 0; }
  .came { display: flex; gap: 8px; align-items: baseline; margin: 4px 0; }
  table { margin: 6px 0; }`;

interface MoveBoxProps {
  readonly move: TuneMoveState;
  readonly bench: BenchView;
  readonly history: readonly SeenOver[];
  readonly run: TuneRun;
  /** What the change is named after on the card. */
  readonly stage: string;
}

export function MoveBox({ move, bench, history, run, stage }: MoveBoxProps) {
  const rig = bench.card.rig.profile;
  return (
    <Box aria-label="Next move">
      <h2>Next move</h2>
      <div aria-live="polite">
        {move.kind === 'working' && <p className="do">Calculating ...</p>}
        {move.kind === 'impossible' && <p>{move.why}</p>}
        {move.kind === 'done' && move.move.kind === 'first-over' && <FirstOver run={run} />}
        {move.kind === 'done' && move.move.kind === 'make-over' && (
          <MakeOver rig={rig} bench={bench} history={history} answer={move.move.answer} run={run} />
        )}
        {move.kind === 'done' && move.move.kind === 'answer' && move.move.answer && (
          <Answer answer={move.move.answer} bench={bench} stage={stage} />
        )}
      </div>
      {move.kind === 'done' && move.move.came && <CameTrue came={move.move.came} rig={rig} />}
    </Box>
  );
}

function FirstOver({ run: { ears } }: { run: TuneRun }) {
  return (
    <>
      <p className="do">Make the first over</p>
      <p>
        {ears === 'none'
          ? 'Talk as you do on the air, look at the ALC on speech peaks, and type what it shows.'
          : 'Talk for 15 seconds about anything and read the ALC on speech peaks: the next move is worked out from both.'}
      </p>
    </>
  );
}

interface MakeOverProps {
  readonly rig: RigProfile;
  readonly bench: BenchView;
  readonly history: readonly SeenOver[];
  readonly answer: NextAnswer | null;
  readonly run: TuneRun;
}

/** The dials that moved since the last over. */
function MakeOver({ rig, bench: { card }, history, answer, run }: MakeOverProps) {
  const then = { mode: card.mode, values: history[history.length - 1]?.card.values ?? {} };
  const now = { mode: card.mode, values: card.revisions[0].values };
  const moved = rig.dials.filter((dial) => valueOn(then, dial) !== valueOn(now, dial));
  return (
    <>
      <p className="do">{run.ears === 'practice' ? 'Talk again' : 'Set these on the radio, and talk again'}</p>
      <SettingsTable
        label="Dials that moved since the last over"
        settings={moved.map((dial) => ({ dial, from: valueOn(then, dial), to: valueOn(now, dial) }))}
      />
      {answer && <Expected answer={answer} rig={rig} />}
      {run.ears !== 'practice' && (
        <Bar>
          <ButtonLink href={`/cards/${card.id}/sheet`}>Dial sheet</ButtonLink>
        </Bar>
      )}
    </>
  );
}

function Expected({ answer: { expected, goal }, rig }: { answer: NextAnswer; rig: RigProfile }) {
  const { alc, compressionDb, toneErrorDb, adjacentDb } = expected;
  const nextChannel = adjacentDb && `the next channel ${rangeAbout(adjacentDb)}`;
  const parts = [
    alc && `ALC ${alcAbout(rig, alc)}`,
    compressionDb && `compression ${rangeAbout(compressionDb)}`,
    nextChannel,
    toneErrorDb && toneWords(toneErrorDb, goal.toneErrorDb),
  ].filter((part) => part !== null);
  if (parts.length === 0) return null;
  return <p className="expect">Expect {parts.join(', ')}, in four overs of five.</p>;
}

/** While few overs are known, one more tells the tone no closer than their texts differ. */
function toneWords([low, likely, high]: readonly [number, number, number], now: number | null): string {
  const range = `${fixed(low, 1)} to ${fixed(high, 1)}`;
  return now !== null && likely > now - 0.2 ? `tone ${range} dB off target` : `tone about ${decibels(likely, 1)} off target (${range})`;
}

interface AnswerProps extends Pick<MoveBoxProps, 'bench' | 'stage'> {
  readonly answer: NextAnswer;
}

function Answer({ answer, bench, stage }: AnswerProps) {
  const { status, why, set, runnersUp } = answer;
  const { save, isSaving, refusal, forget } = useSave(bench);
  const rig = bench.card.rig.profile;
  if (status !== 'move')
    return (
      <>
        <p className="do">{TITLES[status]}</p>
        <p>{why}</p>
      </>
    );
  const [first] = set;
  const title =
    set.length === 1
      ? `${first.dial.label} ${valueText(first.dial, first.from)} → ${valueText(first.dial, first.to)}`
      : `Set ${set.length} dials together`;
  return (
    <>
      <p className="do">{title}</p>
      {set.length > 1 && <SettingsTable label="Dials to set" settings={set} />}
      <p>{why}</p>
      <Expected answer={answer} rig={rig} />
      {runnersUp.map((text) => (
        <p key={text} className="soft">
          {text}
        </p>
      ))}
      <Bar>
        <Button
          primary
          isDisabled={isSaving}
          onPress={() =>
            save({
              values: Object.fromEntries(set.map(({ dial, to }) => [dial.id, to])),
              reason: `tune: ${stage.toLowerCase()}`,
              why: Object.fromEntries(set.map(({ dial }) => [dial.id, why.slice(0, 300)])),
            })
          }
        >
          Put {set.length === 1 ? 'it' : 'them'} on the card
        </Button>
      </Bar>
      <SaveNotice refusal={refusal} forget={forget} />
    </>
  );
}

const TITLES = { measure: 'One more over', done: 'Nothing more to turn here', stop: 'Stop' } as const;

/** What was expected of the last move, and what was seen. */
function CameTrue({ came: { alc, compressionDb, toneErrorDb, adjacentDb }, rig }: { came: ExpectedGot; rig: RigProfile }) {
  const others = [
    { came: compressionDb, textOf: compressionCameText },
    { came: adjacentDb, textOf: nextChannelCameText },
    { came: toneErrorDb, textOf: toneCameText },
  ].flatMap(({ came, textOf }) => (came ? [{ isInside: came.isInside, text: textOf(came) }] : []));
  if (!alc && others.length === 0) return null;
  return (
    <>
      <h2 style={{ marginTop: 14 }}>What came of the last one</h2>
      {alc && (
        <p className="came">
          <StateMark state={alc.isInside ? 'ok' : 'watch'} />
          <span>
            ALC: expected {alcAbout(rig, alc.expected)}, got {readingText(rig.alc, alc.got)}
            {alc.isInside ? '.' : ', which was not expected.'}
          </span>
        </p>
      )}
      {others.map(({ isInside, text }) => (
        <p key={text} className="came">
          <StateMark state={isInside ? 'ok' : 'watch'} />
          <span>{text}</span>
        </p>
      ))}
    </>
  );
}
