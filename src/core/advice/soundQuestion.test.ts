/** Mic, mixer or equalizer: what the words make of the numbers, and the real thing once on a small voice. */
import { describe, expect, it } from 'vitest';
import { microphone } from '../../../tests/support/microphones.ts';
import { graphicRig } from '../../../tests/support/rigs.ts';
import { voiceLike } from '../../../tests/support/signals.ts';
import { factoryCard } from '../rig/card.ts';
import { usualUse } from '../rig/microphone.ts';
import { parseRig } from '../rig/validate.ts';
import { QUIET_ROOM } from '../simulate/transmitter/microphoneStage.ts';
import { modelRateHz, USUAL_RADIO } from '../simulate/transmitter/parameters.ts';
import { OUTBOARD } from './outboard.ts';
import { answerSoundQuestion, isUnknown, type SoundAnswer, soundWords, type Way } from './soundQuestion.ts';
import { defaultTarget } from './targets.ts';

const answer = (way: Way, errorDb: number, reachDb: number, extra: Partial<SoundAnswer> = {}): SoundAnswer => ({
  way,
  name: way,
  errorDb,
  reachDb,
  naturalness: 70,
  noiseDb: -50,
  settings: '',
  cannot: '',
  ...extra,
});
const told = (answers: readonly SoundAnswer[], unknown: string | null = null) => soundWords(answers, unknown).join(' ');

describe('the answer in words', () => {
  const poor = [answer('as it is', 6, -3), answer('radio', 3, -2), answer('outboard', 2.8, -2), answer('microphone', 1.2, 0.5)];

  it('names the free way first, and what each further one adds to it', () => {
    const text = told(poor);
    expect(text).toMatch(/First, and free: the radio’s equalizer, 3\.0 dB nearer/);
    expect(text).toMatch(/A microphone of another kind: microphone, 2\.5 dB of reach beyond that/);
    expect(text).toMatch(/outboard equalizer gains less than a decibel/);
  });

  it('never says no to a microphone that nobody knows: it cannot tell, and says how to find out', () => {
    const text = told(poor.slice(0, 3), 'Reed');
    expect(text).toMatch(/cannot tell yet/);
    expect(text).toMatch(/sweep/);
    expect(text).not.toMatch(/Another kind of microphone gains less/);
  });

  it('warns of a room that comes up with it', () => {
    const loud = [...poor.slice(0, 3), answer('microphone', 1, 0.5, { noiseDb: -35 })];
    expect(told(loud)).toMatch(/with the room 15\.0 dB louder/);
  });

  it('leaves alone what is good', () => {
    const good = [answer('as it is', 1.8, 0), answer('radio', 1.6, 0), answer('outboard', 1.5, 0), answer('microphone', 1.6, 0.2)];
    expect(told(good)).toMatch(/about as good as this radio gets/);
  });
});

describe('outboard equalizers', () => {
  it.each([0, 1])('number %i is a good profile with the radio’s passband', (k) => {
    const rig = OUTBOARD[k]({ modes: ['usb'], alc: { zone: [0.3, 0.5] }, passbandHz: [300, 2700] });
    expect(parseRig(rig)).toEqual(rig);
  });
});

/** The model's own: nothing is converted for each way. */
const RATE_HZ = modelRateHz('usb');

describe('asked of a dull microphone', () => {
  it('that is known: every way is tried, and the radio’s equalizer mends some of it', async () => {
    const rig = graphicRig([250, 500, 1000, 2000]);
    const dull = microphone({
      positions: [
        {
          name: 'usual',
          curve: [
            [100, 0],
            [1000, 0],
            [3000, -9],
          ],
        },
      ],
    });
    expect(isUnknown(dull)).toBe(false);
    const question = {
      voice: { samples: voiceLike(RATE_HZ, 3), rateHz: RATE_HZ },
      station: {
        rig,
        radio: USUAL_RADIO,
        microphone: { microphone: dull, use: usualUse(dull), room: { ...QUIET_ROOM, noiseDb: null }, seed: 1 },
      },
      microphone: dull,
      use: usualUse(dull),
      card: factoryCard(rig),
      target: defaultTarget('natural'),
    };
    const answers = await answerSoundQuestion(question);
    const ways = new Set(answers.map(({ way }) => way));
    expect([...ways]).toEqual(['as it is', 'radio', 'use', 'outboard', 'microphone']);
    const [now, radio] = answers;
    expect(radio.errorDb ?? 99).toBeLessThan(now.errorDb ?? 0);
    for (const { reachDb, naturalness } of answers) {
      expect(reachDb).not.toBeNull();
      expect(naturalness).toBeGreaterThan(0);
      expect(naturalness).toBeLessThanOrEqual(100);
    }
  });
});
