import { readFileSync } from 'node:fs';
import Ajv from 'ajv';
import { describe, expect, it } from 'vitest';
import { parseRig } from '../rig/index.ts';
import { afterAct, beginRun, isOver, stepsOf, TUNE_STEPS, type TuneRun, tuneRunSchema, usualSchool, wishOf } from './run.ts';

const rig = parseRig(JSON.parse(readFileSync('demo/rigs/tern-100.json', 'utf8')));
const run = beginRun({ alc: '30-50', compression: 'token', order: 'compressor-first', ears: 'files' });

describe('the order', () => {
  it('has the compressor before or after the gain, by school, and nothing else moved', () => {
    const at = (order: TuneRun['order'], step: TuneRun['at']) => stepsOf({ order }).indexOf(step);
    expect(at('compressor-first', 'compressor')).toBeLessThan(at('compressor-first', 'gain'));
    expect(at('alc-first', 'gain')).toBeLessThan(at('alc-first', 'compressor'));
    expect([...stepsOf({ order: 'compressor-first' })].sort()).toEqual([...TUNE_STEPS].sort());
  });
});

describe('walking through', () => {
  it('done and skipped lead on to what is open, past what is not', () => {
    expect(afterAct(run, { kind: 'done', step: 'prepare' }).at).toBe('microphone');
    const jumped = afterAct({ ...run, done: ['prepare', 'baseline'] }, { kind: 'skip', step: 'microphone' });
    expect(jumped).toMatchObject({ at: 'passband', skipped: ['microphone'] });
  });

  it('what was left open comes back at the end', () => {
    const end = { ...run, done: TUNE_STEPS.filter((step) => step !== 'gain' && step !== 'finish') };
    const last = afterAct(end, { kind: 'done', step: 'finish' });
    expect(last.at).toBe('gain');
    expect(isOver(last)).toBe(false);
    expect(isOver(afterAct(last, { kind: 'skip', step: 'gain' }))).toBe(true);
  });

  it('a step repeated is open again, and one skipped may be done after all', () => {
    const skipped = afterAct(run, { kind: 'skip', step: 'microphone' });
    expect(afterAct(skipped, { kind: 'done', step: 'microphone' })).toMatchObject({ done: ['microphone'], skipped: [] });
    expect(afterAct(skipped, { kind: 'repeat', step: 'microphone' })).toMatchObject({ at: 'microphone', skipped: [] });
  });

  it('ticks count once', () => {
    const ticked = afterAct(afterAct(run, { kind: 'tick', id: 'load' }), { kind: 'tick', id: 'load' });
    expect(ticked.ticks).toEqual(['load']);
    expect(afterAct(ticked, { kind: 'untick', id: 'load' }).ticks).toEqual([]);
  });
});

it('a stored run passes its schema, and hostile ones do not', () => {
  const check = new Ajv({ strictTuples: false }).compile(tuneRunSchema);
  expect(check(afterAct(run, { kind: 'done', step: 'prepare' }))).toBe(true);
  for (const bad of [{ at: 'nowhere' }, { ticks: ['<b>'] }, { done: ['gain', 'gain'] }, { ears: 'telepathy' }])
    expect(check({ ...run, ...bad })).toBe(false);
});

it('who never chose gets the zone that the radio is marked with', () => {
  expect(wishOf(usualSchool(rig, 'files'), rig).alcZone).toEqual(rig.alc.zone);
  const odd = { ...rig, alc: { ...rig.alc, zone: [0.2, 0.9] as [number, number] } };
  expect(usualSchool(odd, 'none').alc).toBe('rig');
  expect(wishOf(usualSchool(odd, 'none'), odd).alcZone).toEqual([0.2, 0.9]);
});
