import { describe, expect, it } from 'vitest';
import { iqSource, noise, rms, scaled, sine, sourceOf, voiceLike } from '../../../tests/support/signals.ts';
import { measureSsb } from '../measure/radio/ssb.ts';
import { sameDrive } from '../measure/sameDrive.ts';
import { measureVoice } from '../measure/voice/voice.ts';
import { amModulate } from '../modem/am.ts';
import { FrequencyModulator } from '../modem/fm.ts';
import { ssbModulate } from '../modem/ssb.ts';
import { levelMatched, levelsAsTheyAre, listeningGain } from './levelMatching.ts';
import { listen, look } from './listen.ts';

const RATE = 48000;
/** Frequency of the strongest tone of a piece of audio. */
const toneOf = ({ samples, rateHz }: { samples: Float64Array; rateHz: number }) => {
  const middle = samples.subarray(Math.floor(samples.length / 4), Math.floor((3 * samples.length) / 4));
  const crossings = middle.reduce((count, x, n) => count + (n > 0 && x >= 0 && middle[n - 1] < 0 ? 1 : 0), 0);
  return (crossings * rateHz) / middle.length;
};

describe('listening', () => {
  it.each([
    ['ssb', ssbModulate(sine(RATE, 1000, 2), RATE, 5000, 'usb'), { kind: 'ssb', carrierHz: 5000, sideband: 'usb' }],
    ['ssb below', ssbModulate(sine(RATE, 1000, 2), RATE, -5000, 'lsb'), { kind: 'ssb', carrierHz: -5000, sideband: 'lsb' }],
    ['am', amModulate(sine(RATE, 1000, 2), RATE, 3000, 0.8), { kind: 'am', carrierHz: 3000 }],
    ['fm', new FrequencyModulator(RATE, -2000, 3000).push(sine(RATE, 1000, 2)), { kind: 'fm', carrierHz: -2000 }],
  ] as const)('to %s gives the tone that went in', async (_, signal, view) => {
    const heard = await listen(await iqSource(RATE, signal), view, 0.2, 1);
    expect(heard.samples.length / heard.rateHz).toBeCloseTo(1, 1);
    expect(Math.abs(toneOf(heard) - 1000)).toBeLessThan(10);
  });

  it('to audio gives the part asked for, and levels are matched', async () => {
    const loud = await listen(await sourceOf(RATE, [scaled(voiceLike(RATE, 3), 2)]), { kind: 'voice' }, 0, 2);
    const quiet = await listen(await sourceOf(RATE, [scaled(voiceLike(RATE, 3), 0.1)]), { kind: 'voice' }, 0, 2);
    expect(loud.samples).toHaveLength(2 * RATE);
    expect(rms(levelMatched([loud.samples], RATE)[0]) / rms(levelMatched([quiet.samples], RATE)[0])).toBeCloseTo(1, 2);
    // With the loss left in, each stays as much softer as it is.
    const [a, b] = levelMatched([loud.samples, quiet.samples], RATE, true);
    expect(rms(a) / rms(b)).toBeCloseTo(rms(loud.samples) / rms(quiet.samples), 6);
  });

  it('the picture reaches what the file reaches', async () => {
    const seen = await look(await sourceOf(8000, [noise(8000, 1, 0.1)]), { kind: 'voice' }, 50);
    expect([seen.columns, seen.highHz, seen.seconds]).toEqual([50, 4000, 1]);
    const radio = await look(
      await iqSource(RATE, ssbModulate(sine(RATE, 1000, 1), RATE, 0, 'usb')),
      { kind: 'ssb', carrierHz: 0, sideband: 'usb' },
      50,
    );
    expect([radio.lowHz, radio.highHz]).toEqual([-7000, 7000]);
  });
});

describe('the same-peak check', () => {
  it('tells who was driven harder, and keeps quiet of what has no peak', async () => {
    const talk = voiceLike(RATE, 3);
    const voice = async (gain: number) => (await measureVoice(await sourceOf(RATE, [scaled(talk, gain)]))).measurement;
    const [a, b] = [await voice(0.5), await voice(0.5 * 10 ** (2.3 / 20))];
    expect(
      sameDrive([
        { name: 'A', measurement: a },
        { name: 'B', measurement: b },
      ]),
    ).toMatchObject({ isFair: false, text: expect.stringContaining('B +2.3 dB against A') });
    expect(
      sameDrive([
        { name: 'A', measurement: a },
        { name: 'B', measurement: a },
      ])?.isFair,
    ).toBe(true);
    const ssb = (await measureSsb(await iqSource(RATE, ssbModulate(talk, RATE, 0, 'usb')))).measurement;
    expect(sameDrive([{ name: 'A', measurement: ssb }])).toBeNull();
    expect(ssb.peakDb).toBeLessThan(0);
  });
});

describe('levels as they are', () => {
  const voice = (level: number) => Float64Array.from({ length: 24_000 }, (_, n) => level * Math.sin((2 * Math.PI * 300 * n) / 12_000));
  it('keeps the loudest at the listening level and the others as much below it as they were', () => {
    const sounds = [voice(0.5), voice(0.25), voice(0.05)];
    const gains = sounds.map((sound) => listeningGain(sound, 12_000));
    const back = levelsAsTheyAre(gains);
    expect(back[0]).toBe(1);
    // A narrow FM signal with half the deviation is 6 dB quieter.
    expect(20 * Math.log10(back[1])).toBeCloseTo(-6.02, 1);
    expect(20 * Math.log10(back[2])).toBeCloseTo(-20, 1);
  });
});
