import { describe, expect, it } from 'vitest';
import { voiceLike } from '../../../tests/support/signals.ts';
import { ActiveSpeechMeter } from '../dsp/meter/activeSpeechLevel.ts';
import { levelMatched } from '../playback/levelMatching.ts';
import { parseMicrophone } from '../rig/validate.ts';
import { MICROPHONE_KINDS, microphoneOfKind, narrowVoiceNote, offsetVoiceNote, passbandWords } from './questions.ts';

const NAMES = ['narrow', 'default', 'wide'];
const judged = (reachDb: number | null, score: number, uncertaintyDb: number | null = 0.3) => ({
  reach: { reachDb, uncertaintyDb, atOtherCriteria: [], neededSnrDb: 20, distortionDb: -20, noiseDb: -60 },
  naturalness: { score, spectrumDb: 3, dynamicsDb: 1, distortionDb: -20 },
  alc: { usual: 0.4, highest: 0.5 },
  peakToAverageDb: 9,
});
const answers = (...rows: readonly (readonly [number | null, number, number?])[]) =>
  rows.map(([reachDb, score, doubt], k) => ({ name: NAMES[k], judged: judged(reachDb, score, doubt) }));

describe('narrow or wide, in words', () => {
  it.each([
    [
      'one that leads in both',
      answers([3, 40], [2, 50], [4.2, 60]),
      'For this voice wide reaches 2.2 dB further than default and sounds most like you: no reason for another.',
    ],
    [
      'one that only reaches',
      answers([5, 30], [4, 45], [3, 60]),
      'For this voice narrow reaches 2.0 dB further than wide; wide sounds most like you.',
    ],
    [
      'all alike',
      answers([3, 40], [3.2, 45], [3.4, 60]),
      'All of them reach equally far within 0.5 dB for this voice; wide sounds most like you, so take it.',
    ],
    [
      'a lead within the doubt',
      answers([3, 40, 2], [4, 45, 2], [4.9, 60, 2]),
      'All of them reach equally far within 2.0 dB for this voice; wide sounds most like you, so take it.',
    ],
    [
      'all alike in both',
      answers([3, 40], [3.2, 41], [3.4, 42]),
      'All of them reach equally far within 0.5 dB for this voice and sound alike: no reason for another.',
    ],
    [
      'wider than the over, which looks better by what little it adds',
      answers([3, 40], [3.2, 50], [4.5, 60]).map((each, k) => ({ ...each, judged: k === 2 ? null : each.judged })),
      'Of those that this over can rate, narrow and default, all reach equally far within 0.5 dB for this voice; default sounds most like you, so take it.',
    ],
    [
      'all but one wider than the over',
      answers([3, 40], [6, 50], [6, 60]).map((each, k) => ({ ...each, judged: k > 0 ? null : each.judged })),
      'This over can rate narrow alone.',
    ],
    ['all wider than the over', answers([3, 40], [6, 50]).map((each) => ({ ...each, judged: null })), 'This over can rate none of them.'],
    [
      'two that reach alike',
      answers([-4.3, 88, 0.4], [-3.7, 92, 0.7]),
      'Both reach equally far within 0.7 dB for this voice; default sounds most like you, so take it.',
    ],
    ['nothing readable', answers([null, 10], [null, 10], [2, 20]), 'With so much distortion or room noise none of them is readable.'],
  ])('%s', (_, given, words) => expect(passbandWords(given)).toBe(words));

  it('says what a recording at one carrier offset can not tell of two', () => {
    expect(offsetVoiceNote('100 Hz', [400, 2700], [400, 2900])).toContain('the over at 100 Hz. It holds 400–2700 Hz');
    expect(offsetVoiceNote('0 Hz', [300, 3000], [400, 2900])).toBeNull();
  });

  it('says what a narrow recording can not tell', () => {
    expect(narrowVoiceNote([300, 2700], [100, 2900])).toContain('300–2700 Hz');
    expect(narrowVoiceNote([100, 2900], [100, 2900])).toBeNull();
    // Within the slope of a filter an edge is the same.
    expect(narrowVoiceNote([120, 2880], [100, 2900])).toBeNull();
    expect(narrowVoiceNote([100, 2600], [100, 2900])).not.toBeNull();
  });
});

describe('usual kinds of microphone', () => {
  it.each(MICROPHONE_KINDS)('$name is a valid microphone, used as it is usually', (kind) => {
    const { microphone, use } = microphoneOfKind(kind);
    expect(parseMicrophone(microphone)).toEqual(microphone);
    expect(use.position).toBe(microphone.positions[0].name);
    expect(use.distanceCm).toBe(kind.distanceCm);
  });

  it('a live room is the loudest, and the condenser stands farthest (common practice)', () => {
    const [loudest] = [...MICROPHONE_KINDS].sort((a, b) => b.noiseDb - a.noiseDb);
    const [farthest] = [...MICROPHONE_KINDS].sort((a, b) => b.distanceCm - a.distanceCm);
    expect(loudest.name).toContain('live room');
    expect(farthest).toBe(loudest);
  });
});

describe('sounds at one level', () => {
  const voice = voiceLike(12000, 3);
  const levelOf = (samples: Float64Array) => {
    const meter = new ActiveSpeechMeter(12000);
    meter.push(samples);
    return meter.result().levelDb ?? 0;
  };

  // The method's thresholds are 6 dB apart, which leaves some thousandths of a decibel between the same voice at two levels.
  it('have one active speech level (ITU-T P.56), whatever they had', () => {
    const [a, b, c] = levelMatched([voice, voice.map((x) => 20 * x), voice.map((x) => x / 300)], 12000);
    expect(levelOf(a)).toBeCloseTo(levelOf(b), 1);
    expect(levelOf(a)).toBeCloseTo(levelOf(c), 1);
  });

  it('go down together where one would clip', () => {
    const spiky = voice.slice();
    spiky[9000] = 5;
    const [a, b] = levelMatched([voice, spiky], 12000);
    expect(b.reduce((most, x) => Math.max(most, Math.abs(x)), 0)).toBeLessThanOrEqual(0.9);
    expect(levelOf(a)).toBeCloseTo(levelOf(b), 1);
  });

  it('leave silence alone', () => {
    expect(levelMatched([new Float64Array(100)], 12000)[0].every((x) => x === 0)).toBe(true);
  });
});
