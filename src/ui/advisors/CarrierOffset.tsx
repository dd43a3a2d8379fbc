'use client';
/** The carrier offset bracketed: what was tried, sharp to mellow, what to try next, and the two it ends with. */
import { useMemo } from 'react';
import styled from 'styled-components';
import { carrierBracketOf } from '@/client/carrierBracketOf.ts';
import { useCardEvidence } from '@/client/useCardEvidence.ts';
import { useSave } from '@/client/useSave.ts';
import { type CarrierBracket, canWait, type OffsetLine, offsetVoiceNote, passbandWords } from '@/core/advice/index.ts';
import type { JudgedCard } from '@/core/intelligibility/index.ts';
import { type Dial, type DialValues, dialInRole, effective, valueOn, valueText } from '@/core/rig/index.ts';
import { signed } from '@/core/units/index.ts';
import type { BenchView } from '@/server/bench/bench.ts';
import type { CardEvidence } from '@/server/bench/cardEvidence.ts';
import { Bar, Button } from '../parts/Button.tsx';
import { Scroll, Table } from '../parts/Table.tsx';
import { TableHead } from '../parts/TableHead.tsx';
import { SaveNotice } from '../shell/SaveNotice.tsx';
import { JudgedChoices } from './JudgedChoices.tsx';

const Part = styled.section`margin-top: 18px; max-width: 760px; h2 { margin-bottom: 4px; } .next { font-weight: 700; font-size: 17px; margin: 8px 0 4px; }`;

/** Nothing where the radio has no such dial. @param given what the page has of the evidence already */
export function CarrierOffset({ bench, given }: { bench: BenchView; given?: CardEvidence }) {
  const { card } = bench;
  if (!dialInRole(card.rig.profile, 'carrier-offset', card.mode)) return null;
  return <Bracket bench={bench} given={given} />;
}

function Bracket({ bench, given }: { bench: BenchView; given?: CardEvidence }) {
  const evidence = useCardEvidence(bench, given);
  const bracket = useMemo(() => evidence && carrierBracketOf(bench, evidence), [bench, evidence]);
  if (!bracket) return null;
  const { card } = bench;
  const now = Number(valueOn({ mode: card.mode, values: card.revisions[0].values }, bracket.dial));
  const line = bracket.lines.find(({ offset }) => offset === now);
  return (
    <Part aria-label="Carrier offset">
      <h2>Carrier offset, bracketed</h2>
      <p className="soft">
        It slides the voice along the filter. 500 Hz at a time until one side is too sharp and the other too mellow, then 100 Hz, then
        single steps. Words of other stations count as well as recordings.
      </p>
      {bracket.lines.length > 0 && <Tried bracket={bracket} />}
      {line && canWait(bench.card.rig.profile, bracket, line) && (
        <p>
          It stands where the factory put it, and the tone dials mend as much as that: it can wait for them. To bracket it all the same:
        </p>
      )}
      <Next bench={bench} bracket={bracket} />
    </Part>
  );
}

const WORDS = { sharp: 'sharp', balanced: 'balanced', mellow: 'mellow' } as const;

function Tried({ bracket: { dial, lines } }: { bracket: CarrierBracket }) {
  return (
    <Scroll>
      <Table aria-label="Offsets that were tried, sharp to mellow">
        <TableHead
          columns={[{ number: dial.label }, { number: 'passes, Hz' }, { number: 'highs over lows' }, { number: 'words' }, 'sounds']}
        />
        <tbody>
          {lines.map(({ offset, passbandHz, leanDb, words, side }) => (
            <tr key={offset}>
              <td className="num">{valueText(dial, offset)}</td>
              <td className="num">
                {Math.round(passbandHz[0])}–{Math.round(passbandHz[1])}
              </td>
              <td className="num">{leanDb === null ? '–' : `${signed(leanDb, 1)} dB`}</td>
              <td className="num">{words === 0 ? '–' : signed(words, 1)}</td>
              <td>{WORDS[side]}</td>
            </tr>
          ))}
        </tbody>
      </Table>
    </Scroll>
  );
}

function Next({ bench, bracket: { dial, lines, next, sharp, mellow } }: { bench: BenchView; bracket: CarrierBracket }) {
  const { card } = bench;
  const { save, isSaving, refusal, forget } = useSave({ card, over: null });
  const now = Number(card.revisions[0].values[dial.id] ?? dial.rest);
  if (next)
    return (
      <>
        <p className="next">
          {next.offset === now
            ? `Make an over at ${valueText(dial, now)}`
            : `${dial.label} ${valueText(dial, now)} → ${valueText(dial, next.offset)}`}
        </p>
        <p>{next.why}</p>
        {next.offset !== now && (
          <Bar>
            <Button isDisabled={isSaving} onPress={() => save({ values: { [dial.id]: next.offset }, reason: 'carrier offset bracketed' })}>
              Put {valueText(dial, next.offset)} on the card
            </Button>
          </Bar>
        )}
        <SaveNotice refusal={refusal} forget={forget} />
      </>
    );
  const values = (offset: number): DialValues => ({ [dial.id]: offset });
  const end = 'as far as the dial goes';
  const candidates = [
    { ...(sharp ?? lines[0]), name: 'Sharp', note: sharp ? 'usually penetrates better' : end },
    { ...(mellow ?? lines[lines.length - 1]), name: 'Mellow', note: mellow ? 'usually nicer to listen to' : end },
  ].filter(({ offset }, k, all) => all.findIndex((each) => each.offset === offset) === k);
  const note = voiceNote(bench, dial, candidates);
  return (
    <>
      <p className="next">
        {sharp && mellow
          ? 'Bracketed. Two candidates; then check on a remote receiver.'
          : `The dial ends before the voice gets too ${sharp ? 'mellow' : 'sharp'}.`}
      </p>
      <JudgedChoices
        label="Candidate"
        bench={bench}
        choices={candidates.map(({ name, note, offset }) => ({
          name,
          note,
          value: valueText(dial, offset),
          values: values(offset),
          isNow: offset === now,
        }))}
        reason={({ name }) => `carrier offset: the ${name.toLowerCase()} one`}
        words={candidates.length === 2 ? wordsOf : undefined}
      />
      {note && (
        <p className="soft" style={{ marginTop: 8 }}>
          {note}
        </p>
      )}
    </>
  );
}

const wordsOf = (answers: readonly { readonly name: string; readonly judged: JudgedCard }[]): string =>
  passbandWords(answers.map(({ name, judged }) => ({ name: `the ${name.toLowerCase()} one`, judged })));

/** The numbers of both come from one recording, and what that went through decides what they can tell. */
function voiceNote(bench: BenchView, dial: Dial, candidates: readonly OffsetLine[]): string | null {
  const over = bench.voice?.over;
  if (!over || over.rig.id !== bench.card.rig.id || candidates.length < 2) return null;
  const { passbandHz } = effective(over.rig.profile, { mode: over.card.mode, values: over.revision.values });
  const edges = candidates.flatMap((candidate) => candidate.passbandHz);
  const at = valueText(dial, over.revision.values[dial.id] ?? dial.rest);
  return offsetVoiceNote(at, passbandHz, [Math.min(...edges), Math.max(...edges)]);
}
