import { describe, expect, it } from 'vitest';
import { toneRig } from '../../../tests/support/rigs.ts';
import { mix, noise, rms, scaled, sine, voiceLike } from '../../../tests/support/signals.ts';
import { BiquadChain } from '../dsp/filter/biquad.ts';
import { factoryCard } from '../rig/card.ts';
import { dryVoice, equalizerSections } from '../simulate/hear/dryVoice.ts';
import { calibrateDrive } from '../simulate/station/calibrateDrive.ts';
import { QUIET_ROOM } from '../simulate/transmitter/microphoneStage.ts';
import { parametersOf, type RadioTruth, USUAL_RADIO } from '../simulate/transmitter/parameters.ts';
import { transmit, voiceGainDb } from '../simulate/transmitter/transmitter.ts';
import { activeFrames, bandFrames, bandWidths } from './bandFrames.ts';
import { localCoherence } from './coherence.ts';
import { comparisonWords } from './comparison.ts';
import { frontier } from './frontier.ts';
import { naturalness } from './naturalness.ts';
import { ReadableVoice, reachOf } from './reach.ts';
import { BAND_IMPORTANCE, bandAudibility, NORMAL_SPEECH, SII_BANDS, speechIntelligibilityIndex } from './speechIntelligibility.ts';
import { stoi } from './stoi.ts';

const RATE = 12000;
const QUIET = new Float64Array(18).fill(-80);

describe('the intelligibility index (ANSI S3.5-1997)', () => {
  it('has importances that sum to 1', () => {
    expect(BAND_IMPORTANCE.length).toBe(SII_BANDS.length);
    expect(BAND_IMPORTANCE.reduce((a, b) => a + b)).toBeCloseTo(1, 6);
  });

  it('is nearly 1 for ordinary speech in quiet, 0 in noise 15 dB over it, and falls in between', () => {
    expect(speechIntelligibilityIndex(NORMAL_SPEECH, QUIET)).toBeGreaterThan(0.98);
    let before = 1;
    for (let db = -20; db <= 16; db += 2) {
      const index = speechIntelligibilityIndex(
        NORMAL_SPEECH,
        NORMAL_SPEECH.map((level) => level + db),
      );
      expect(index).toBeLessThanOrEqual(before);
      before = index;
    }
    expect(before).toBe(0);
  });

  it('has half of the audibility at equal levels where nothing spreads: 15 of 30 dB', () => {
    // The lowest band has none below it that could spread into it.
    expect(bandAudibility(NORMAL_SPEECH, NORMAL_SPEECH)[0]).toBeCloseTo(0.5, 6);
    expect(
      bandAudibility(
        NORMAL_SPEECH,
        NORMAL_SPEECH.map((x) => x - 6),
      )[0],
    ).toBeCloseTo(21 / 30, 6);
  });

  it('lets low noise mask upward, not downward', () => {
    const noise = QUIET.slice();
    noise[5] = 60;
    const audible = bandAudibility(NORMAL_SPEECH, noise);
    const clean = bandAudibility(NORMAL_SPEECH, QUIET);
    expect(audible[7]).toBeLessThan(clean[7] - 0.1);
    expect(audible[3]).toBeCloseTo(clean[3], 6);
  });

  it('shouting loses: the level factor 1 - (E - U - 10) / 160', () => {
    const loud = NORMAL_SPEECH.map((level) => level + 42);
    expect(bandAudibility(loud, QUIET)[0]).toBeCloseTo(1 - 32 / 160, 6);
  });
});

describe('frames in bands', () => {
  it('hold the power of what lies in the band', () => {
    const frames = bandFrames(sine(RATE, 1000, 2, 0.5), RATE);
    const b = SII_BANDS.indexOf(1000);
    expect(frames.powers[20 * 18 + b]).toBeCloseTo(0.125, 3);
  });

  it('share white noise by their widths', () => {
    const frames = bandFrames(noise(RATE, 20, 0.1), RATE);
    const widths = bandWidths(frames, RATE);
    SII_BANDS.forEach((hz, b) => {
      if (hz > 5000) return;
      let sum = 0;
      for (let f = 0; f < frames.count; f++) sum += frames.powers[f * 18 + b] / frames.count;
      expect(Math.abs(10 * Math.log10(sum / ((0.01 * widths[b]) / (RATE / 2))))).toBeLessThan(0.6);
    });
  });

  it('leave pauses out', () => {
    const voice = voiceLike(RATE, 4);
    const share = activeFrames(bandFrames(voice, RATE)).length / bandFrames(voice, RATE).count;
    expect(share).toBeGreaterThan(0.5);
    expect(share).toBeLessThan(0.75);
  });
});

describe('coherence', () => {
  const voice = noise(RATE, 6, 0.1);
  const over = (heard: Float64Array, b = 10) => {
    const [a, h] = [bandFrames(voice, RATE), bandFrames(heard, RATE)];
    const shares = localCoherence(a, h);
    let sum = 0;
    for (let f = 0; f < a.count; f++) sum += shares[f * 18 + b] / a.count;
    return sum;
  };

  it('is 1 for the same, whatever its slow gain, and 0 for another', () => {
    expect(over(voice)).toBeCloseTo(1, 9);
    expect(over(voice.map((x, n) => x * (1 + 0.8 * Math.sin((2 * Math.PI * 0.5 * n) / RATE))))).toBeGreaterThan(0.99);
    expect(over(noise(RATE, 6, 0.1, 9))).toBeLessThan(0.05);
  });

  it('is S / (S + N) in noise', () => {
    expect(Math.abs(over(mix(voice, noise(RATE, 6, 0.1, 9))) - 0.5)).toBeLessThan(0.06);
    expect(Math.abs(over(mix(voice, noise(RATE, 6, 0.05, 9))) - 0.8)).toBeLessThan(0.06);
  });
});

const frames = (samples: Float64Array) => bandFrames(samples, RATE);

describe('reach', () => {
  const voice = voiceLike(RATE, 6);
  const readable = (heard: Float64Array) => new ReadableVoice({ heard: frames(heard), clean: frames(voice), rateHz: RATE });

  it('is the gain, for the same voice louder: arithmetic', () => {
    const { reachDb, atOtherCriteria, uncertaintyDb } = reachOf(readable(scaled(voice, 2)), readable(voice));
    expect(reachDb).toBeCloseTo(6.02, 2);
    for (const [, db] of atOtherCriteria) expect(db).toBeCloseTo(6.02, 2);
    expect(uncertaintyDb).toBeLessThan(0.6);
  });

  it('is 0 with no scatter to speak of for the same voice', () => {
    expect(reachOf(readable(voice), readable(voice)).reachDb).toBe(0);
  });

  it('is null where distortion alone makes it unreadable', () => {
    const drowned = mix(scaled(voice, 0.02), noise(RATE, 6, 0.05, 4));
    expect(reachOf(readable(drowned), readable(voice)).reachDb).toBeNull();
  });

  it('refuses silence', () => {
    expect(() => readable(new Float64Array(0))).toThrow(RangeError);
    expect(() => new ReadableVoice({ heard: frames(voice), clean: frames(new Float64Array(voice.length)), rateHz: RATE })).toThrow(
      RangeError,
    );
  });
});

describe('naturalness', () => {
  const voice = voiceLike(RATE, 6);
  it('is 100 for the own voice at any level, and falls with each distance', () => {
    const own = naturalness(frames(voice), frames(scaled(voice, 0.3)), -60);
    expect(own.score).toBeCloseTo(100, 6);
    const hissing = naturalness(frames(voice), frames(mix(voice, noise(RATE, 6, 0.01, 5))), -60);
    expect(hissing.score).toBeLessThan(90);
    expect(naturalness(frames(voice), frames(voice), -5).score).toBeCloseTo(100 * 2 ** ((-0.3 * 20) / 18), 6);
  });
});

describe('STOI (Taal et al. 2011)', () => {
  const voice = voiceLike(10000, 6);
  it('is 1 for the same and falls with noise', () => {
    expect(stoi(voice, voice, 10000)).toBeCloseTo(1, 6);
    let before = 1;
    for (const rms of [0.003, 0.03, 0.3]) {
      const value = stoi(voice, mix(voice, noise(10000, 6, rms, 8)), 10000) ?? 1;
      expect(value).toBeLessThan(before);
      before = value;
    }
    expect(before).toBeLessThan(0.5);
  });
  it('needs 384 ms of speech', () => {
    expect(stoi(voice.subarray(0, 3000), voice.subarray(0, 3000), 10000)).toBeNull();
  });
});

describe('the drive matched to a reading', () => {
  const rig = toneRig();
  const voice = { samples: voiceLike(RATE, 4), rateHz: RATE };
  const card = factoryCard(rig, 'usb');
  const room = { ...QUIET_ROOM, noiseDb: null };
  const station = { rig, radio: USUAL_RADIO, microphone: { microphone: null, use: null, room, seed: 1 } };
  const readingOf = (radio: RadioTruth) => {
    const options = {
      inputRateHz: RATE,
      voiceGainDb: voiceGainDb(voice.samples, RATE) ?? 0,
      microphone: station.microphone,
      upTo: 'alc' as const,
    };
    return transmit(voice.samples, parametersOf(rig, card, radio), options).transmitter.alc.reading().usual ?? 0;
  };

  it.each([0.2, 0.4, 0.7])('gives the reading %f', (reading) => {
    expect(Math.abs(readingOf(calibrateDrive(voice, station, card, reading)) - reading)).toBeLessThan(0.04);
  });

  it('leaves a silent voice and a mic gain of nothing alone', () => {
    expect(calibrateDrive({ samples: new Float64Array(RATE), rateHz: RATE }, station, card, 0.4)).toBe(USUAL_RADIO);
  });
});

describe('the operator’s own voice out of an over', () => {
  it('has the equalizer and the microphone of that over taken out', () => {
    const rig = toneRig();
    const card = { ...factoryCard(rig, 'usb'), values: { ...factoryCard(rig, 'usb').values, treble: 6, bass: -4 } };
    const voice = noise(RATE, 4, 0.1);
    const heard = new BiquadChain(equalizerSections(rig, card, RATE)).process(voice.slice());
    const back = dryVoice(heard, RATE, { rig, card, microphone: null, use: null });
    expect(rms(back.map((x, n) => x - voice[n]))).toBeLessThan(1e-6);
  });
});

describe('the frontier', () => {
  it('keeps what no other beats in both', () => {
    const at = (reachDb: number, score: number) => ({ reachDb, score });
    expect(frontier([at(0, 90), at(3, 60), at(2, 50), at(5, 20), at(3, 55)])).toEqual([at(0, 90), at(3, 60), at(5, 20)]);
    expect(frontier([])).toEqual([]);
  });
});

describe('in words', () => {
  const standing = (name: string, reachDb: number | null, score: number) => ({ name, reachDb, uncertaintyDb: 0.3, score });
  it.each([
    [3.1, 45, 'B is heard 3.1 dB further and sounds noticeably less like you than A.'],
    [-2, 90, 'B is heard 2.0 dB less far and sounds much more like you than A.'],
    [0.2, 62, 'B is heard about as far and sounds as much like you as A.'],
    [null, 20, 'B is not readable at all and sounds much less like you than A.'],
  ])('%s and %i', (reachDb, score, words) => {
    expect(comparisonWords(standing('A', 0, 60), standing('B', reachDb, score))).toBe(words);
  });
});
