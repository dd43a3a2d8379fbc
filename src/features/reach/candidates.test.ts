import { describe, expect, it } from 'vitest';
import { microphone as testMicrophone } from '../../../tests/support/microphones.ts';
import { toneRig } from '../../../tests/support/rigs.ts';
import type { JudgedCard } from '../../core/intelligibility/cardJudge.ts';
import { factoryCard } from '../../core/rig/card.ts';
import { usualUse } from '../../core/rig/microphone.ts';
import type { CardView } from '../../server/cards/cards.ts';
import { type Candidate, placedOf } from './candidates.ts';

const rig = toneRig();

const microphone = testMicrophone({ name: 'Mic one' });

const use = usualUse(microphone);

const _card = (changes: object = {}) =>
  ({
    id: 1,
    name: 'A card',
    mode: 'usb',
    rig: { id: 1, name: rig.name, profile: rig },
    microphone: { id: 1, name: 'Mic one', profile: microphone },
    revisions: [{ id: 9, number: 3, values: { treble: 4 }, use }],
    ...changes,
  }) as unknown as CardView;

describe('a place on the plane', () => {
  const candidate: Candidate = { key: 'card 1', name: 'A card', kind: 'card', what: 'somewhere', href: '/cards/1', card: factoryCard(rig) };
  const judged = (reachDb: number | null): JudgedCard => ({
    reach: { reachDb, uncertaintyDb: null, atOtherCriteria: [], neededSnrDb: null, distortionDb: -20, noiseDb: -60 },
    naturalness: { score: 61, spectrumDb: 3, dynamicsDb: 1, distortionDb: -20 },
    alc: { usual: 0.4, highest: 0.5 },
    peakToAverageDb: 9,
  });

  it('is reach and naturalness; a doubt that is not known counts as none', () => {
    expect(placedOf(candidate, judged(3.2))).toMatchObject({
      point: { reachDb: 3.2, uncertaintyDb: 0, score: 61 },
      why: null,
      href: '/cards/1',
    });
  });

  it('is told with its reason where there is none', () => {
    expect(placedOf(candidate, 'Reach is calculated for single sideband only.')).toMatchObject({
      point: null,
      why: expect.stringContaining('single sideband'),
    });
    expect(placedOf(candidate, judged(null))).toMatchObject({ point: null, why: expect.stringContaining('not readable') });
  });
});
