import { describe, expect, it } from 'vitest';
import { microphone as testMicrophone } from '../../tests/support/microphones.ts';
import { toneRig } from '../../tests/support/rigs.ts';
import { usualUse } from '../core/rig/microphone.ts';
import type { BenchView } from '../server/bench/bench.ts';
import type { CardView } from '../server/cards/cards.ts';
import { elsewhereOf, modelVoiceOf } from './useJudged.ts';

const rig = toneRig();

const microphone = testMicrophone({ name: 'Mic one' });

const use = usualUse(microphone);

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

const bench = (over: object | null = {}, readings: readonly object[] = []) =>
  ({
    card: card(),
    readings,
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
      driven: { card: { mode: 'usb', values: { treble: 2 } }, alc: 0.4 },
      use,
    });
  });

  it('is driven as the card was read last, with the dials and the microphone that it was read with', () => {
    const read = (alc: number | null, values: object, how: object | null = use) => ({ alc, revision: { values, use: how } });
    const readings = [
      read(null, { treble: 4 }),
      read(0.6, { treble: 3 }, { ...use, distanceCm: 20 }),
      read(0.5, { treble: 1 }),
      read(0.2, {}),
    ];
    expect(modelVoiceOf(bench({}, readings))?.driven).toEqual({ card: { mode: 'usb', values: { treble: 1 } }, alc: 0.5 });
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
    expect(elsewhere?.driven).toMatchObject({ card: { mode: 'usb' }, alc: null });
    expect(elsewhere?.rig).toBe(rig);
  });
});
