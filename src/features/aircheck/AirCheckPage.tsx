'use client';
/** An air check: what is said, as it was understood; what the card comes to; one line to type in. */
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useMemo, useState, useTransition } from 'react';
import styled from 'styled-components';
import { asked } from '@/client/asked.ts';
import { useRefreshWhile } from '@/client/useRefreshWhile.ts';
import { useSayLine } from '@/client/useSayLine.ts';
import { useWorkingCard } from '@/client/useWorkingCard.ts';
import { coreWork } from '@/client/workers/coreWork.ts';
import {
  type AirCheck,
  airCheck,
  CHECK_ORDER,
  type CheckedCard,
  type CheckLine,
  orderDone,
  PATH_LABELS,
  readingFirst,
  type SchoolWish,
} from '@/core/advice/index.ts';
import { MODE_LABELS, readingText, STAGE_NAMES, valueText, zoneText } from '@/core/rig/index.ts';
import { finishAirCheck, takeBackInCheck } from '@/server/aircheck/actions.ts';
import type { AirCheckView } from '@/server/aircheck/airChecks.ts';
import type { BenchView } from '@/server/bench/bench.ts';
import type { OverView } from '@/server/overs/overView.ts';
import { Bar, Button, ButtonLink, FileLink } from '@/ui/parts/Button.tsx';
import { Notice } from '@/ui/parts/Notice.tsx';
import { Table } from '@/ui/parts/Table.tsx';
import { Shell } from '@/ui/shell/Shell.tsx';
import { CheckLog, type ShownLine } from './CheckLog.tsx';
import { Listening } from './Listening.tsx';
import { SayLine } from './SayLine.tsx';
import { TalkTimer } from './TalkTimer.tsx';
import { ToSay } from './ToSay.tsx';

const Strip = styled.div`
  display: grid; grid-template-columns: minmax(0, 1fr) minmax(0, 1.7fr) minmax(0, 0.7fr) minmax(0, 1fr); background: var(--sheet); border-bottom: 1px solid var(--line); padding: 0 20px;
  > div { padding: 9px 14px; border-left: 1px solid var(--line); min-width: 0; } > div:first-child { border-left: 0; padding-left: 0; }
  small { display: block; color: var(--soft); font-size: 13px; }
  @media (max-width: 820px) { grid-template-columns: repeat(2, minmax(0, 1fr)); padding: 0 12px; > div:nth-child(odd) { border-left: 0; padding-left: 0; } }`;
const Columns = styled.div`
  display: grid; grid-template-columns: minmax(0, 1fr) 372px; min-height: calc(100vh - 115px);
  > section { padding: 16px 20px 24px; min-width: 0; }
  > aside { border-left: 1px solid var(--line); background: var(--sheet); padding: 16px 18px; display: flex; flex-direction: column; gap: 14px; }
  h2 { font-size: 13px; font-weight: 400; color: var(--soft); margin: 0 0 4px; }
  .next { font-size: 20px; line-height: 1.3; font-weight: 700; margin: 0; }
  @media (max-width: 900px) {
    grid-template-columns: minmax(0, 1fr); min-height: 0;
    > section { padding: 12px; order: 2; } > aside { border-left: 0; border-bottom: 1px solid var(--line); padding: 12px; }
  }`;

const AGAIN_MS = 4000;

interface AirCheckPageProps {
  readonly check: AirCheckView;
  /** The newest over of this check as each receiver heard it. */
  readonly heard: readonly OverView[];
  /** What is known of the other station; null where this one is checked. */
  readonly bench: BenchView | null;
  /** What the card is to reach. */
  readonly school: SchoolWish;
}

export function AirCheckPage({ check: view, heard, bench, school }: AirCheckPageProps) {
  const { card, base, lines } = view;
  const isGuest = view.side === 'checking';
  // A guest's card is not what is worked on afterwards.
  useWorkingCard(isGuest ? null : card.id);
  const known = useMemo(() => new Set(lines.map(({ clientKey }) => clientKey)), [lines]);
  const say = useSayLine(view.id, known);
  const isOpen = view.endedAt === null;
  // Lines that another tab adds appear here too.
  useRefreshWhile(isOpen, AGAIN_MS);
  const shown = useMemo(() => shownLines(lines, say.waiting), [lines, say.waiting]);
  const check = useMemo(
    () => airCheck(card.rig.profile, { mode: card.mode, values: base.values, use: base.use }, shown),
    [card, base, shown],
  );
  return (
    <Shell
      sentence={
        <>
          Air check: {isGuest ? `I check ${card.operator.name}` : `${card.operator.name} on ${card.rig.name}`}, {MODE_LABELS[card.mode]}
          {isGuest ? '' : `, card ${card.name} rev. ${base.number}`}
        </>
      }
    >
      <div data-card={card.id}>
        <Head view={view} check={check} />
        <Columns>
          <section aria-label="As it is said">
            <h1>As it is said</h1>
            {isOpen && (
              <p className="soft no-print">
                {isGuest
                  ? 'Type where their dials stand and what you hear: “500 is at plus 9”, “their ALC is at a half”, “a bit boomy”.'
                  : 'Dials, readings and remarks sort themselves; what is not understood stays a note and changes nothing.'}
              </p>
            )}
            <CheckLog
              check={check}
              lines={shown}
              rig={card.rig.profile}
              onOffer={isOpen ? say.say : undefined}
              onTakeBack={isOpen ? (id, isUndone) => takeBackInCheck({ airCheckId: view.id, lineId: id, isUndone }) : undefined}
            />
            {say.isStuck && (
              <Notice tone="fault">
                {say.message ?? 'Not everything was sent.'} {say.waiting.length} {say.waiting.length === 1 ? 'line is' : 'lines are'} kept
                here. <Button onPress={say.again}>Send again</Button>
              </Notice>
            )}
            {isOpen && <SayLine say={say} check={check} rig={card.rig.profile} isGuest={isGuest} />}
          </section>
          <aside>
            {isOpen && bench && <ToSay bench={bench} check={check} />}
            {isOpen && !bench && (
              <Next
                checked={{
                  rig: card.rig.profile,
                  purpose: card.purpose,
                  school,
                  use: base.use,
                  heardBy: { station: view.station, path: view.path },
                }}
                check={check}
                spoken={[view.id, ...shown.map(({ text, isUndone }) => [text, isUndone])]}
              />
            )}
            <CardNow check={check} isGuest={isGuest} />
            {(isOpen || heard.length > 0) && <Listening cardId={card.id} heard={heard} isGuest={isGuest} />}
            <End view={view} isWaiting={say.waiting.length > 0} />
          </aside>
        </Columns>
      </div>
    </Shell>
  );
}

/** @param spoken stands for the check: with another line it is asked again */
function Next({ checked, check, spoken }: { checked: CheckedCard; check: AirCheck; spoken: readonly unknown[] }) {
  const first = readingFirst(check);
  const { data, error } = useQuery({
    enabled: first === null,
    queryKey: ['air check next', ...spoken],
    placeholderData: keepPreviousData,
    queryFn: () => coreWork().airCheckNext(checked, check),
  });
  return (
    <div aria-live="polite">
      <h2>Next</h2>
      <p className="next">{error ? `It could not be worked out: ${error.message}` : (first ?? data?.todo ?? 'Calculating ...')}</p>
      {!first && data?.why && <p>{data.why}</p>}
    </div>
  );
}

/** What the server has, and behind it what is still on its way. */
function shownLines(lines: AirCheckView['lines'], waiting: readonly { text: string }[]): (ShownLine & CheckLine)[] {
  return [...lines, ...waiting.map(({ text }, k) => ({ id: -1 - k, text, isUndone: false, saidAt: null }))];
}

function Head({ view: { side, station, path, endedAt, card }, check }: { view: AirCheckView; check: AirCheck }) {
  const { movedSinceAlc, steps } = check;
  const done = orderDone(check);
  const alc = steps.findLast(({ reading, line }) => reading?.alc !== undefined && !line.isUndone)?.reading?.alc;
  return (
    <Strip>
      <div>
        <small>{side === 'checking' ? 'Checking' : 'Checked by'}</small>
        <b>{station}</b> <span className="soft">{PATH_LABELS[path]}</span>
      </div>
      <div>
        <small>Order: {CHECK_ORDER.map((stage) => `${STAGE_NAMES[stage]}${done.has(stage) ? ' ✓' : ''}`).join(', ')}</small>
        <b>ALC {zoneText(card.rig.profile.alc)}</b> <span className="soft">on speech peaks</span>
      </div>
      <div>
        <small>ALC</small>
        <b>{alc === undefined ? 'not read yet' : readingText(card.rig.profile.alc, alc)}</b>
        {movedSinceAlc !== null && movedSinceAlc > 0 && <span className="soft"> stale</span>}
      </div>
      <div>{endedAt === null ? <TalkTimer /> : <b>Ended</b>}</div>
    </Strip>
  );
}

function CardNow({ check: { changed }, isGuest }: { check: AirCheck; isGuest: boolean }) {
  return (
    <div>
      <h2>{isGuest ? 'Their dials, as told' : 'The card now'}</h2>
      {changed.length === 0 ? (
        <p className="soft">{isGuest ? 'Nothing told yet.' : 'No dial has moved.'}</p>
      ) : (
        <Table aria-label="Dials moved in this check">
          <tbody>
            {changed.map(({ dial, from, to }) => (
              <tr key={dial.id}>
                {!isGuest && <td className="mono">{dial.menu || 'front'}</td>}
                <td>{dial.label}</td>
                {/* Where a guest's dial stood before it was told is not known. */}
                {!isGuest && <td className="num">{valueText(dial, from)}</td>}
                <td className="num new">{valueText(dial, to)}</td>
              </tr>
            ))}
          </tbody>
        </Table>
      )}
    </div>
  );
}

function End({ view: { id, side, endedAt, endedRevision, card }, isWaiting }: { view: AirCheckView; isWaiting: boolean }) {
  const [message, setMessage] = useState<string | null>(null);
  const [isBusy, start] = useTransition();
  const log = (
    <Bar className="no-print">
      <Button onPress={() => window.print()}>Print the log</Button>
      <FileLink href={`/api/airchecks/${id}?as=csv`}>CSV</FileLink>
      <FileLink href={`/api/airchecks/${id}?as=adi`}>ADIF</FileLink>
    </Bar>
  );
  if (endedAt !== null)
    return (
      <>
        <p>
          {endedRevision === null
            ? 'Ended; no dial moved.'
            : side === 'checking'
              ? 'Ended; their dials are in the log.'
              : `Saved as revision ${endedRevision}.`}
        </p>
        <Bar className="no-print">
          <ButtonLink $primary href={`/cards/${card.id}/sheet`}>
            Dial sheet
          </ButtonLink>
          {side === 'checked' && <ButtonLink href={`/bench?card=${card.id}`}>To the Bench</ButtonLink>}
        </Bar>
        {log}
      </>
    );
  const finish = () =>
    start(async () => {
      const answer = await asked(finishAirCheck({ airCheckId: id }));
      setMessage(answer.ok ? null : answer.message);
    });
  return (
    <>
      {message && <Notice tone="fault">{message}</Notice>}
      <Bar>
        <Button primary isDisabled={isBusy || isWaiting} onPress={finish}>
          {side === 'checking' ? 'Finish: save the log' : 'Finish: save card and log'}
        </Button>
      </Bar>
      {log}
    </>
  );
}
