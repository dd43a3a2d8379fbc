'use client';
/** The one thing to do next, why, and what to expect of it. */
import { useRef, useState } from 'react';
import styled from 'styled-components';
import { useAddRecording } from '@/client/addRecording.ts';
import type { FitState } from '@/client/useFit.ts';
import { useSave } from '@/client/useSave.ts';
import { expectText, isWorthwhile, moveText } from '@/core/advice/index.ts';
import { spoiltBy } from '@/core/findings/index.ts';
import { fixed } from '@/core/units/index.ts';
import type { BenchView } from '@/server/bench/bench.ts';
import { useKeys } from '@/ui/keys.ts';
import { Bar, Button, ButtonLink } from '@/ui/parts/Button.tsx';
import { SaveNotice } from '@/ui/shell/SaveNotice.tsx';

const Box = styled.section`
  .kicker { font-size: 13px; color: var(--soft); font-weight: 400; margin: 0; }
  .do { font-size: 21px; line-height: 1.25; font-weight: 700; margin: 3px 0 6px; outline-offset: 4px; }
  .expect { border-left: 3px solid var(--signal); padding: 3px 0 3px 10px; color: var(--soft); margin: 0 0 6px; }`;

export function NextMove({ bench, fit, onShowEqualizer }: { bench: BenchView; fit: FitState; onShowEqualizer: () => void }) {
  const { card, over } = bench;
  const [passed, setPassed] = useState<readonly string[]>([]);
  const heading = useRef<HTMLHeadingElement>(null);
  const { save, isSaving, refusal, forget } = useSave(bench);
  const addRecording = useAddRecording();
  useKeys({ n: () => heading.current?.focus() });

  const box = (title: string, body: React.ReactNode) => (
    <Box aria-label="Next move">
      <h2 className="kicker">Next move</h2>
      <h3 className="do" tabIndex={-1} ref={heading}>
        {title}
      </h3>
      {body}
      {passed.length > 0 && (
        <Bar>
          <Button onPress={() => setPassed([])}>Bring back what I passed over</Button>
        </Bar>
      )}
      <SaveNotice refusal={refusal} forget={forget} />
    </Box>
  );
  const makeOver = (primary: boolean) => (
    <Button primary={primary} onPress={() => addRecording(card.id)}>
      Add a recording
    </Button>
  );

  if (!over?.measured) {
    const isUnderWay = over?.measurement?.status === 'queued' || over?.measurement?.status === 'running';
    return box(
      isUnderWay ? 'Wait for the measurement' : 'Record an over with this card',
      <>
        <p>
          {isUnderWay
            ? `Over ${over?.id} is being measured.`
            : (over?.measurement?.error ??
              'Talk for 15 seconds about anything, into a dummy load, and record it on a second receiver. Then drop the file here.')}
        </p>
        <Bar>{makeOver(!isUnderWay)}</Bar>
      </>,
    );
  }
  const spoilt = spoiltBy(over.measured.result.findings);
  if (spoilt && !passed.includes(spoilt.code)) {
    return box(
      'Make this over again',
      <>
        <p>
          {spoilt.text} Until then the numbers of over {over.id} say little about the dials.
        </p>
        <p className="expect">{`${spoilt.evidence[0].toUpperCase()}${spoilt.evidence.slice(1)}.`}</p>
        <Bar>
          {makeOver(true)}
          <Button onPress={() => setPassed([...passed, spoilt.code])}>Use it anyway</Button>
        </Bar>
      </>,
    );
  }
  if (fit.kind === 'working') return box('Working it out', <p>The fit takes a second.</p>);
  if (fit.kind !== 'done') {
    return box(fit.kind === 'impossible' ? 'No equalizer move' : 'Nothing to say yet', <p>{fit.kind === 'impossible' ? fit.why : ''}</p>);
  }
  const { ranked, fit: whole } = fit.answer;
  // One rule with the ribbon: what would not be noticed is no move.
  const next = isWorthwhile(whole) ? ranked.find(({ move }) => !passed.includes(move.dial.id)) : undefined;
  const isChanged = over.revision.id !== card.revisions[0].id;
  const all = whole.best.moves.length;
  const hasPassedOver = ranked.some(({ move }) => passed.includes(move.dial.id));
  if (!next && all > 1 && !hasPassedOver && isWorthwhile(whole)) {
    return box(
      `Set ${all} dials together`,
      <>
        <p>No single dial helps by itself now, but {all} of them together do.</p>
        <p className="expect">
          Off target {fixed(whole.errorBeforeDb, 1)} → {fixed(whole.best.errorDb, 1)} dB.
        </p>
        <Bar>
          <Button primary onPress={onShowEqualizer}>
            Show them
          </Button>
          {isChanged && makeOver(false)}
        </Bar>
      </>,
    );
  }
  const newer = bench.overs.find(({ revision, status }) => revision === card.revisions[0].number && status === 'done');
  if (!next && isChanged && newer) {
    return box(
      `Judge it by over ${newer.id}`,
      <>
        <p>
          Over {over.id} was made with revision {over.revision.number}; over {newer.id} has the numbers that the card holds now.
        </p>
        <Bar>
          <ButtonLink $primary href={`/bench?card=${card.id}&over=${newer.id}&stage=equalizer`}>
            Show over {newer.id}
          </ButtonLink>
        </Bar>
      </>,
    );
  }
  if (!next) {
    return box(
      isChanged ? 'Make an over with the new numbers' : 'Leave the equalizer alone',
      <>
        <p>
          {isChanged
            ? `Set the dials from the sheet, look at the ALC again, talk for 15 seconds and add the recording: over ${over.id} was made with revision ${over.revision.number}.`
            : hasPassedOver
              ? 'You passed over the moves there were.'
              : `Over ${over.id} is ${fixed(whole.errorBeforeDb, 1)} dB off target, and no dial brings it noticeably closer.`}
        </p>
        <Bar>
          {makeOver(isChanged)}
          {isChanged && <ButtonLink href={`/cards/${card.id}/sheet?from=${over.revision.number}`}>Dial sheet</ButtonLink>}
        </Bar>
      </>,
    );
  }
  const { move, expected } = next;
  return box(
    moveText(move.dial, move.from, move.to),
    <>
      <p>{`Over ${over.id}: ${move.why}.`}</p>
      <p className="expect">
        {expected
          ? `${expectText(expected)} The ALC reading is stale after it.`
          : 'Nothing is heard of this one by itself: it prepares the moves after it.'}
      </p>
      <Bar>
        <Button
          primary
          isDisabled={isSaving}
          onPress={() => save({ values: { [move.dial.id]: move.to }, reason: 'next move', why: { [move.dial.id]: move.why } })}
        >
          Put it on the card
        </Button>
        <Button onPress={() => setPassed([...passed, move.dial.id])}>Not this</Button>
        {all > 1 && (
          <Button aria-label={`All ${all} moves of the fit`} onPress={onShowEqualizer}>
            All {all}
          </Button>
        )}
      </Bar>
    </>,
  );
}
