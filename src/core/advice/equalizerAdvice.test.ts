import { expect, it } from 'vitest';
import { parametricRig } from '../../../tests/support/rigs.ts';
import { TWELFTH_CENTRES } from '../dsp/index.ts';
import { factoryCard } from '../rig/card.ts';
import { adviseEqualizer } from './equalizerAdvice.ts';
import { defaultTarget } from './targets.ts';

const flat = TWELFTH_CENTRES.map(() => 1e-5);
const voice = { speechPowers: flat, pausePowers: flat.map(() => 1e-9) };

it('gives the fit and its moves in order of merit; a sentence where nothing is heard', () => {
  const rig = parametricRig(3);
  const advice = adviseEqualizer({ rig, card: factoryCard(rig), voice, target: defaultTarget('pile-up') });
  if (typeof advice === 'string') throw new Error(advice);
  expect(advice.fit.best.errorDb).toBeLessThan(advice.fit.errorBeforeDb);
  expect(advice.ranked.length).toBeGreaterThan(0);
  const silent = { ...voice, speechPowers: flat.map(() => null) };
  expect(adviseEqualizer({ rig, card: factoryCard(rig), voice: silent, target: defaultTarget('pile-up') })).toEqual(expect.any(String));
});
