/** The one thing to do next at the Bench, in words: what, why, and what to expect. */
import { type Finding, spoiltBy } from '../findings/index.ts';
import { fixed } from '../units/index.ts';
import { beforeTone, type LevelInput } from './beforeTone.ts';
import type { FitAnswer } from './equalizerAdvice.ts';
import { type FittedMove, isWorthwhile } from './fitEqualizer.ts';
import { expectText, moveText } from './moveText.ts';
import type { RankedMove } from './nextMove.ts';

/** What the next step is worked out from. */
export interface StepInput {
  /** The over that the card is measured by; null where it has none. */
  readonly over: {
    readonly id: number;
    readonly revision: number;
    readonly status: 'queued' | 'running' | 'done' | 'failed' | 'none';
    /** Why it could not be measured. */
    readonly error: string | null;
    /** Null while nothing is measured. */
    readonly findings: readonly Finding[] | null;
  } | null;
  /** Revision of the card as it stands. */
  readonly revision: number;
  /** Newest measured over with the card as it stands. */
  readonly newerOverId: number | null;
  /** Null while it is being worked out; a sentence where there can be none. */
  readonly fit: FitAnswer | string | null;
  /** Level and safety, and what the engine says. */
  readonly level: LevelInput;
  /** The engine is at work on the card's overs. */
  readonly isThinking: boolean;
  /** Dials and findings whose moves were skipped. */
  readonly skipped: readonly string[];
}

/** What to do next, in words; the kind says which buttons go with it. */
export interface NextStep {
  readonly kind:
    | 'wait'
    | 'record'
    | 'record-again'
    | 'working'
    | 'none'
    | 'together'
    | 'newer'
    | 'make-over'
    | 'one-more'
    | 'distance'
    | 'no-change'
    | 'move';
  readonly title: string;
  readonly text: string;
  readonly expect?: string;
  /** What is skipped by "Not this" or "Use it anyway". */
  readonly skips?: string;
  /** Dials to put on the card, together. */
  readonly moves?: readonly FittedMove[];
  /** Moves of the whole fit. */
  readonly all?: number;
}

/** The one step that helps most now: safety and level, a recording that can be trusted, then a move, then the check of it. */
export function nextStep(input: StepInput): NextStep {
  const { over, fit, skipped, level } = input;
  const first = beforeTone(level, skipped, input.revision);
  if (first) return first;
  if (input.isThinking) return { kind: 'working', title: 'Calculating', text: 'What all overs of this card tell is being put together.' };
  if (!over?.findings) return recordFirst(over);
  const spoilt = spoiltBy(over.findings);
  // What is wrong with one over is set aside for that over alone.
  const anyway = `over-${over.id}-${spoilt?.code}`;
  if (spoilt && !skipped.includes(anyway)) {
    return {
      kind: 'record-again',
      title: 'Record this over again',
      text: `${spoilt.text} Until then the numbers of over ${over.id} say little about the dials.`,
      expect: `${spoilt.evidence[0].toUpperCase()}${spoilt.evidence.slice(1)}.`,
      skips: anyway,
    };
  }
  if (fit === null) return { kind: 'working', title: 'Calculating', text: 'The equalizer is being fitted to your voice.' };
  if (typeof fit === 'string') {
    const last = lastWord(level.answer);
    if (last?.kind === 'one-more') return { ...last, text: `${fit} ${last.text}` };
    return { kind: 'none', title: 'No equalizer move', ...last, text: fit };
  }
  return fitted(input, over, fit);
}

function recordFirst(over: StepInput['over']): NextStep {
  if (over?.status === 'queued' || over?.status === 'running')
    return { kind: 'wait', title: 'Wait for the measurement', text: `Over ${over.id} is being measured.` };
  return {
    kind: 'record',
    title: 'Record an over with this card',
    text:
      over?.error ??
      'Talk for 15 seconds about anything, into a dummy load, and record it on a second receiver. Then drop the file on this page.',
  };
}

function fitted(
  { revision, newerOverId, skipped, level }: StepInput,
  over: NonNullable<StepInput['over']>,
  { ranked, fit }: FitAnswer,
): NextStep {
  // One rule with the ribbon: what would not be noticed is no move.
  const isWorth = isWorthwhile(fit);
  const next = isWorth ? ranked.find(({ move }) => !skipped.includes(move.dial.id)) : undefined;
  const isChanged = over.revision !== revision;
  const all = fit.best.moves.length;
  const hasSkipped = ranked.some(({ move }) => skipped.includes(move.dial.id));
  if (next) return single(next, over.id, all);
  if (isWorth && all > 1 && !hasSkipped) {
    return {
      kind: 'together',
      title: `Set ${all} dials together`,
      text: `No single dial helps by itself now, but ${all} of them together do.`,
      expect: `Off target ${fixed(fit.errorBeforeDb)} → ${fixed(fit.best.errorDb)} dB.`,
      all,
    };
  }
  if (isChanged && newerOverId !== null) {
    return {
      kind: 'newer',
      title: `Measure it from over ${newerOverId}`,
      text: `Over ${over.id} was made with revision ${over.revision}; over ${newerOverId} has the numbers that the card holds now.`,
    };
  }
  if (isChanged) {
    return {
      kind: 'make-over',
      title: 'Make an over with the new numbers',
      text: `Set the dials from the sheet, read the ALC again, talk for 15 seconds and add the recording: over ${over.id} was made with revision ${over.revision}.`,
    };
  }
  if (hasSkipped) return { kind: 'no-change', title: 'No equalizer change', text: 'You skipped the moves there were.' };
  const none = `Over ${over.id} is ${fixed(fit.errorBeforeDb)} dB off target, and no dial brings it noticeably closer.`;
  const last = lastWord(level.answer);
  return last ? { ...last, expect: none } : { kind: 'no-change', title: 'No equalizer change', text: none };
}

/** What the engine says where no dial is left to turn. */
function lastWord(answer: LevelInput['answer']): NextStep | null {
  if (answer?.status === 'measure') return { kind: 'one-more', title: 'One more over', text: answer.why };
  return answer?.status === 'done' ? { kind: 'no-change', title: 'Nothing more to turn', text: answer.why } : null;
}

function single({ move, expected }: RankedMove, overId: number, all: number): NextStep {
  return {
    kind: 'move',
    title: moveText(move.dial, move.from, move.to),
    text: `Over ${overId}: ${move.why}.`,
    expect: expected
      ? `${expectText(expected)} The ALC reading is stale after it.`
      : 'Nothing is heard of this one by itself: it prepares the moves after it.',
    skips: move.dial.id,
    moves: [move],
    all,
  };
}
