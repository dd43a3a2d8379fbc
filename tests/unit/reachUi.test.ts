/** What the plane of reach and naturalness and the model's panels are drawn from. */
import { describe, expect, it } from 'vitest';
import { elsewhereOf, modelVoiceOf } from '../../src/client/useJudged.ts';
import type { JudgedCard } from '../../src/core/intelligibility/cardJudge.ts';
import { factoryCard } from '../../src/core/rig/card.ts';
import { usualUse } from '../../src/core/rig/microphone.ts';
import { hearCard } from '../../src/core/simulate/hear/hearCard.ts';
import { PATHS, RECEIVERS } from '../../src/core/simulate/hear/ways.ts';
import { QUIET_ROOM } from '../../src/core/simulate/transmitter/microphoneStage.ts';
import { USUAL_RADIO } from '../../src/core/simulate/transmitter/parameters.ts';
import { type Candidate, placedOf } from '../../src/features/reach/candidates.ts';
import type { BenchView } from '../../src/server/bench/bench.ts';
import type { CardView } from '../../src/server/cards/cards.ts';
import { toneRig } from '../support/rigs.ts';
import { voiceLike } from '../support/signals.ts';

const rig = toneRig();
const microphone = {
  format: 'dialtune-microphone',
  version: 1,
  name: 'Mic one',
  kind: 'dynamic',
  pattern: 'cardioid',
  level: 'medium',
  distanceCm: 6,
  positions: [],
  accessories: [],
} as const;
const use = usualUse(microphone as never);
const card = (changes: object = {}) =>
  ({
    id: 1,
    name: 'A card',
    mode: 'usb',
    rig: { id: 1, name: rig.name, profile: rig },
    microphone: { id: 1, name: 'Mic one', profile: microphone },
    revisions: [{ id: 9, number: 3, values: { treble: 4 }, use }],
    ...changes,
  }) as unknown as CardView;
const bench = (over: object | null = {}) =>
  ({
    voice: over && {
      over: {
        id: 7,
        card: { id: 1, mode: 'usb' },
        rig: { id: 1, profile: rig },
        revision: { values: { treble: 2 } },
        alcReading: 0.4,
        capture: { id: 70, bytes: 1000 },
        measured: { detail: { stripActive: [true], stripSeconds: 1 } },
        ...over,
      },
      microphone,
      use,
    },
  }) as unknown as BenchView;

describe('the voice that the model works with', () => {
  it('is the over it comes from, with what it went through', () => {
    expect(modelVoiceOf(bench())).toMatchObject({
      captureId: 70,
      bytes: 1000,
      heardWith: { mode: 'usb', values: { treble: 2 } },
      alcReading: 0.4,
      use,
    });
  });

  it.each([
    ['no over', null],
    ['one without a recording', { capture: null }],
    ['one that is not measured', { measured: null }],
  ])('is not there with %s', (_, over) => expect(modelVoiceOf(bench(over))).toBeNull());
});

describe('where a card stands', () => {
  it('is where the voice was recorded, for the same radio and microphone', () => {
    expect(elsewhereOf(bench(), card())).toBeUndefined();
    expect(elsewhereOf(bench(), card({ id: 55 }))).toBeUndefined();
  });

  it.each([
    ['another radio', { rig: { id: 2, name: 'Other', profile: rig } }],
    ['another microphone', { microphone: { id: 2, name: 'Mic two', profile: { ...microphone, name: 'Mic two' } } }],
    ['the microphone farther away', { revisions: [{ id: 9, number: 3, values: {}, use: { ...use, distanceCm: 20 } }] }],
  ])('is elsewhere for %s, driven by the card as it stands', (_, changes) => {
    const elsewhere = elsewhereOf(bench(), card(changes));
    expect(elsewhere?.driven.mode).toBe('usb');
    expect(elsewhere?.rig).toBe(rig);
  });
});

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
    expect(placedOf(candidate, 'Reach is worked out for single sideband only.')).toMatchObject({
      point: null,
      why: expect.stringContaining('single sideband'),
    });
    expect(placedOf(candidate, judged(null))).toMatchObject({ point: null, why: expect.stringContaining('not readable') });
  });
});

describe('ways to listen through', () => {
  const voice = { samples: voiceLike(24000, 2), rateHz: 24000 };
  const station = { rig, radio: USUAL_RADIO, microphone: { microphone: null, use: null, room: { ...QUIET_ROOM, noiseDb: null }, seed: 1 } };
  const sound = (path: string, receiver: string) =>
    hearCard(voice, station, factoryCard(rig), 'heard', { path: PATHS[path].path, receiver: RECEIVERS[receiver].receiver }).samples;
  const clear = sound('clear', 'good');

  it.each(Object.keys(PATHS).filter((id) => id !== 'clear'))('the path "%s" is another sound of the same length', (id) => {
    const heard = sound(id, 'good');
    expect(heard.length).toBe(clear.length);
    expect(heard.every(Number.isFinite)).toBe(true);
    expect(heard).not.toEqual(clear);
  });

  it.each(Object.keys(RECEIVERS).filter((id) => id !== 'good'))('the receiver "%s" is another sound of the same length', (id) => {
    const heard = sound('clear', id);
    expect(heard.length).toBe(clear.length);
    expect(heard.every(Number.isFinite)).toBe(true);
    expect(heard).not.toEqual(clear);
  });
});
