import { expect, it } from 'vitest';
import { STEPS, stepOf } from './steps.ts';

const some = [{}] as never;

it('what is missing first is the next step, in the order of the path', () => {
  const station = { operators: [], rigs: [], microphones: [] } as { operators: never[]; rigs: never[]; microphones: never[] };
  const seen = [stepOf(station, false)];
  for (const part of ['operators', 'rigs', 'microphones'] as const) {
    station[part] = some;
    seen.push(stepOf(station, false));
  }
  seen.push(stepOf(station, true));
  expect(seen).toEqual(STEPS);
});

it('a microphone described beforehand does not skip the operator', () => {
  expect(stepOf({ operators: [], rigs: [], microphones: some }, false)).toBe('operator');
});
