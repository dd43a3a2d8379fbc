import { describe, expect, it } from 'vitest';
import { parametricRig } from '../../../tests/support/rigs.ts';
import type { Finding } from '../findings/index.ts';
import { dialOf } from '../rig/rig.ts';
import type { LevelInput } from './beforeTone.ts';
import type { FitAnswer } from './equalizerAdvice.ts';
import type { Fit } from './fitEqualizer.ts';
import { NOTHING_EXPECTED, NOTHING_LEARNED } from './next/answers.ts';
import type { NextAnswer } from './next/index.ts';
import { nextStep, type StepInput } from './nextStep.ts';

const rig = parametricRig(3);
const dials = rig.dials.filter(({ stage, scale }) => stage === 'equalizer' && scale.kind !== 'options').slice(0, 3);
const move = (at: number) => ({ dial: dialOf(rig, dials[at].id), from: dials[at].rest, to: 3, why: 'lifts the consonants' });
const best = (moves: number): Fit =>
  ({
    moves: Array.from({ length: moves }, (_, k) => move(k)),
    values: {},
    errorDb: 2,
    uncertaintyDb: 0.5,
    alcChangeDb: 0,
  }) as unknown as Fit;
const answer = (ranked: number, moves = 3, gainDb = 3): FitAnswer =>
  ({
    ranked: Array.from({ length: ranked }, (_, k) => ({ move: move(k), expected: null })),
    fit: { best: best(moves), errorBeforeDb: 2 + gainDb, overs: 1 },
  }) as unknown as FitAnswer;
const spoilt: Finding = { code: 'clipping', severity: 'fault', text: 'Clipped.', evidence: 'samples at full scale' };
const measured = { id: 7, revision: 2, status: 'done' as const, error: null, findings: [] };
const engine = (status: NextAnswer['status'], why: string): NextAnswer => ({
  status,
  why,
  reasons: {},
  set: [],
  expected: NOTHING_EXPECTED,
  confidence: 0.9,
  runnersUp: [],
  goal: { alc: 'ok', drive: 'ok', compression: 'ok', toneErrorDb: 1, bestToneErrorDb: 1 },
  learned: NOTHING_LEARNED,
});
const level: LevelInput = {
  rig,
  card: { mode: 'usb', values: {} },
  standing: { newest: null, gain: null },
  swr: null,
  tooMuchDrive: null,
  knee: null,
  radioGain: null,
  hasOwnLevel: false,
  answer: null,
};
const input = (change: Partial<StepInput>): StepInput => ({
  over: measured,
  revision: 2,
  newerOverId: null,
  fit: answer(2),
  level,
  isThinking: false,
  skipped: [],
  ...change,
});

describe('the next step', () => {
  it.each<[string, Partial<StepInput>, string, RegExp]>([
    ['no over', { over: null }, 'record', /Talk for 15 seconds/],
    [
      'an over that could not be measured',
      { over: { ...measured, findings: null, status: 'failed', error: 'Silence.' } },
      'record',
      /Silence/,
    ],
    ['an over in the queue', { over: { ...measured, findings: null, status: 'queued' } }, 'wait', /Over 7/],
    ['a spoilt recording', { over: { ...measured, findings: [spoilt] } }, 'record-again', /Clipped.*over 7/],
    ['a fit under way', { fit: null }, 'working', /fitted/],
    ['a fit that cannot be', { fit: 'No equalizer.' }, 'none', /No equalizer/],
    ['a move', {}, 'move', /Over 7: lifts the consonants/],
    ['moves that help together only', { fit: answer(0, 3) }, 'together', /3 of them/],
    ['nothing worth a hand', { fit: answer(2, 3, 0) }, 'no-change', /no dial brings it noticeably closer/],
    ['a card changed since', { fit: answer(0, 0, 0), revision: 3 }, 'make-over', /revision 2/],
    ['overs that are still being put together', { isThinking: true }, 'working', /all overs of this card/],
    [
      'no dial left, and the engine wants another look',
      { fit: answer(2, 3, 0), level: { ...level, answer: engine('measure', 'Read the ALC once more.') } },
      'one-more',
      /Read the ALC once more/,
    ],
    [
      'no dial left, and all is right',
      { fit: answer(2, 3, 0), level: { ...level, answer: engine('done', 'Level and tone belong there.') } },
      'no-change',
      /Level and tone belong there/,
    ],
    [
      'no equalizer, and all is right',
      { fit: 'No equalizer.', level: { ...level, answer: engine('done', 'The level is right.') } },
      'no-change',
      /No equalizer/,
    ],
    ['a newer over with these numbers', { fit: answer(0, 0, 0), revision: 3, newerOverId: 9 }, 'newer', /over 9/],
  ])('%s', (_, change, kind, text) => {
    const step = nextStep(input(change));
    expect(step.kind).toBe(kind);
    expect(step.text).toMatch(text);
    expect(step.title).not.toBe('');
  });

  it('a skipped move makes room for the one behind it; when all are skipped it says so', () => {
    const first = nextStep(input({}));
    expect(first.skips).toBe(dials[0].id);
    const second = nextStep(input({ skipped: [dials[0].id] }));
    expect(second.moves?.[0].dial.id).toBe(dials[1].id);
    expect(nextStep(input({ skipped: [dials[0].id, dials[1].id] })).text).toBe('You skipped the moves there were.');
  });

  it('a spoilt recording that is used anyway leads on', () => {
    expect(nextStep(input({ over: { ...measured, findings: [spoilt] }, skipped: [`over-${measured.id}-clipping`] })).kind).toBe('move');
  });
});
