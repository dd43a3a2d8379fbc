'use client';
/** Drive against splatter: overs at rising mic gain, the knee, and what to try next. AM: depth, FM: deviation against gain. */
import { useMemo } from 'react';
import styled from 'styled-components';
import { type HeardGain, newestGain, standingOf } from '@/client/cardStanding.ts';
import { useCardEvidence } from '@/client/useCardEvidence.ts';
import { useSave } from '@/client/useSave.ts';
import { driveKnee } from '@/core/advice/index.ts';
import { type Dial, type DialValue, readingText, valueText } from '@/core/rig/index.ts';
import { decibels, fixed } from '@/core/units/index.ts';
import type { BenchView } from '@/server/bench/bench.ts';
import type { CardEvidence } from '@/server/bench/cardEvidence.ts';
import { Bar, Button } from '../parts/Button.tsx';
import { StateMark } from '../parts/StateMark.tsx';
import { Scroll, Table } from '../parts/Table.tsx';
import { TableHead } from '../parts/TableHead.tsx';
import { SaveNotice } from '../shell/SaveNotice.tsx';
import { FmWidths } from './FmWidths.tsx';
import { MicrophoneUsed } from './MicrophoneUsed.tsx';

const Part = styled.section`margin-top: 18px; max-width: 760px; h2 { margin-bottom: 4px; } h3 { font-size: 15px; margin: 14px 0 4px; } h3 + p { margin: 0 0 8px; } .next { font-weight: 700; margin: 8px 0 4px; }`;

interface DriveProps {
  readonly bench: BenchView;
  /** What the page has of the evidence already. */
  readonly given?: CardEvidence;
  /** The page says what depth and deviation say of the gain: here only the turn is offered. */
  readonly isTold?: boolean;
}

export function Drive({ bench, given, isTold = false }: DriveProps) {
  const evidence = useCardEvidence(bench, given);
  if (!evidence) return null;
  const { mode } = bench.card;
  return mode === 'am' || mode === 'fm' ? (
    <RadioLevel bench={bench} evidence={evidence} mode={mode} isTold={isTold} />
  ) : (
    <Knee bench={bench} evidence={evidence} />
  );
}

function Knee({ bench, evidence: { history } }: { bench: BenchView; evidence: CardEvidence }) {
  const { card } = bench;
  const rig = card.rig.profile;
  const knee = useMemo(() => driveKnee(rig, history, standingOf(bench).gain?.to ?? null), [rig, history, bench]);
  if (!knee) return null;
  const { dial, lines, next, text } = knee;
  const hasTwoTones = lines.some(({ imd3Db }) => imd3Db !== null);
  const hasPower = lines.some(({ pepW }) => pepW !== null);
  return (
    <Part aria-label="Drive against splatter">
      <h2>Drive against splatter</h2>
      <p className="soft">
        The same words at rising mic gain, until the next channel lights up; then back. Each over with an I/Q recording, or with the next
        channel read off an analyser and noted with the meters. Into a dummy load, with short overs; an analyser only behind a tap or an
        attenuator that keeps its input within its limit. Two tones, a scope trace or the power meter of the same over stand beside it; two
        tones are continuous duty: less power, a few seconds.
      </p>
      {lines.length > 0 && (
        <Scroll>
          <Table aria-label="Drives that were tried">
            <TableHead
              columns={[
                { number: dial.label },
                { number: 'ALC' },
                { number: 'next channel' },
                ...(hasTwoTones ? [{ number: 'two tones, third order' }] : []),
                ...(hasPower ? [{ number: 'PEP' }] : []),
                '',
              ]}
            />
            <tbody>
              {lines.map(({ gain, adjacentDb, isClean, verdict, alc, imd3Db, pepW }, k) => (
                <tr key={`${k}-${gain}`}>
                  <td className="num">{valueText(dial, gain)}</td>
                  <td className="num">{alc === null ? '–' : readingText(rig.alc, alc)}</td>
                  <td className="num">{adjacentDb === null ? (imd3Db === null ? 'noise only' : '–') : decibels(adjacentDb, 0)}</td>
                  {hasTwoTones && <td className="num">{imd3Db === null ? '–' : decibels(imd3Db, 0)}</td>}
                  {hasPower && <td className="num">{pepW === null ? '–' : `${fixed(pepW, pepW < 10 ? 1 : 0)} W`}</td>}
                  <td>
                    <StateMark state={isClean ? 'ok' : 'fault'} hidden /> {verdict}
                  </td>
                </tr>
              ))}
            </tbody>
          </Table>
        </Scroll>
      )}
      <p className="next">{text}</p>
      {next !== null && <Put bench={bench} dial={dial} to={next} reason="drive against splatter" />}
    </Part>
  );
}

/** The level of AM and FM: what it is called, and what is missing without an I/Q recording. */
const LEVELS = {
  am: {
    title: 'Modulation against mic gain',
    reason: 'modulation against gain',
    missing: 'Not measured yet: an I/Q recording of an AM over tells how deep the carrier is modulated, and with it the mic gain.',
  },
  fm: {
    title: 'Deviation against mic gain',
    reason: 'deviation against gain',
    missing: 'Not measured yet: an I/Q recording of an FM over tells the deviation, and with it the mic gain.',
  },
} as const;

interface RadioLevelProps extends Omit<DriveProps, 'given'> {
  readonly evidence: CardEvidence;
  readonly mode: keyof typeof LEVELS;
}

function RadioLevel({ bench, evidence, mode, isTold = false }: RadioLevelProps) {
  const { title, missing } = LEVELS[mode];
  const heard = newestGain(bench, evidence);
  const isQuiet = isTold && (heard ? heard.advice.isRight : mode === 'am');
  if (isQuiet && mode === 'am') return null;
  return (
    <Part aria-label={title}>
      {!isQuiet && <h2>{title}</h2>}
      {!isQuiet && (heard ? <Turn bench={bench} heard={heard} mode={mode} isTold={isTold} /> : <p>{missing}</p>)}
      {mode === 'fm' && (
        <>
          <FmWidths bench={bench} />
          <p className="soft" style={{ marginTop: 10 }}>
            Into a repeater: its width, shift and tone as it lists them; radios fall back to narrow by themselves.
          </p>
        </>
      )}
    </Part>
  );
}

/** What the newest over says of the gain, to be put on the card while the card is still as it was. */
function Turn({ bench, heard, mode, isTold }: Omit<RadioLevelProps, 'evidence'> & { readonly heard: HeardGain }) {
  const { advice, overId, isNow } = heard;
  const { dial, from, to, isRight, title, text } = advice;
  return (
    <>
      {!(isNow && isTold) && <p className="next">{text}</p>}
      {!isNow && <p className="soft">By over {overId}; the card has changed since.</p>}
      {isNow && to !== from && <Put bench={bench} dial={dial} to={to} reason={LEVELS[mode].reason} />}
      {isNow && to === from && !isRight && !title && <MicrophoneUsed card={bench.card} />}
    </>
  );
}

function Put({ bench: { card }, dial, to, reason }: { bench: BenchView; dial: Dial; to: DialValue; reason: string }) {
  const { save, isSaving, refusal, forget } = useSave({ card, over: null });
  if (card.revisions[0].values[dial.id] === to) return <p>It is on the card: make the over.</p>;
  return (
    <>
      <Bar>
        <Button isDisabled={isSaving} onPress={() => save({ values: { [dial.id]: to }, reason })}>
          Put {valueText(dial, to)} on the card
        </Button>
      </Bar>
      <SaveNotice refusal={refusal} forget={forget} />
    </>
  );
}
