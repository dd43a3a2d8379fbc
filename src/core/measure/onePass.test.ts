/** Properties of the passes over a recording: any cut gives the same bits, memory stays, short ones count as they are. */
import { describe, expect, it } from 'vitest';
import { iqSource, join, mix, noise, recut, silence, sine, sourceOf, testKernel, voiceLike } from '../../../tests/support/signals.ts';
import { mean, percentile } from '../dsp/statistics/statistics.ts';
import type { SampleSource } from '../files/samples.ts';
import { ssbModulate } from '../modem/ssb.ts';
import { powerToDb } from '../units/conversions.ts';
import { stepOf } from './frameWindows.ts';
import { LevelTally } from './radio/byLevel.ts';
import { FrameShares } from './radio/frameShares.ts';
import { measureSsb } from './radio/ssb.ts';
import { eachMono } from './voice/eachMono.ts';
import { measureVoice } from './voice/voice.ts';
import { VoiceLevels } from './voice/voiceLevels.ts';
import { VoicePass } from './voice/voicePass.ts';

const RATE = 48000;
const CUTS = [[1, 777, 64, 4096, 13], [5000], [8161]];

async function passOver(source: SampleSource) {
  const kernel = testKernel();
  const levels = new VoiceLevels(kernel, source);
  await eachMono(source, kernel, levels.blockSamples, {}, [0, 1], (mono, pairs) => levels.push(mono, pairs));
  const pass = new VoicePass(kernel, source.sampleRateHz, levels.result());
  await eachMono(source, kernel, levels.blockSamples, {}, [0, 1], (mono) => pass.push(mono));
  return { result: pass.result(), bytes: kernel.run.memory.buffer.byteLength };
}

describe('the passes over a voice', () => {
  const talk = mix(join(silence(RATE, 0.7), voiceLike(RATE, 5), silence(RATE, 0.7)), noise(RATE, 6.4, 1e-3));

  it.each(CUTS)('gives the same bits for any cut of the file', async (...cut) => {
    const source = await sourceOf(RATE, [talk, talk.map((x) => 0.5 * x)]);
    expect(await measureVoice(recut(source, cut))).toEqual(await measureVoice(source));
  });

  it('keeps frames of 50 ms, a last short one only when it is the only one', async () => {
    const powers = async (samples: Float64Array) => (await passOver(await sourceOf(RATE, [samples]))).result.frames.powers;
    expect(await powers(sine(RATE, 1000, 2.03))).toHaveLength(40);
    expect((await powers(sine(RATE, 1000, 2.03)))[3]).toBeCloseTo(0.5, 3);
    expect(await powers(Float64Array.of(0.5))).toEqual([0.25]);
    expect(await powers(sine(RATE, 100, 0.07))).toHaveLength(1);
  });

  it.each([8000, 11025, 16000, 22050, 44100, 48000, 96000, 192000])(
    'holds the level of a sine at %i Hz, with its loudness',
    async (rate) => {
      const { measurement: m } = await measureVoice(await sourceOf(rate, [sine(rate, 997, 4, 0.5)]));
      expect(m.activeSpeechLevelDb).toBeCloseTo(-9.03, 1);
      // BS.1770: a 997 Hz sine of full scale in one channel is -3.01 LUFS.
      expect(m.loudnessLufs).toBeCloseTo(-9.03, 1);
      expect(m.peakToAverageDb).toBeCloseTo(3.01, 1);
    },
  );

  it('needs no more memory for a longer file', async () => {
    const [short, long] = [4, 40].map((times) => join(...Array.from({ length: times }, () => talk.subarray(0, 2 * RATE))));
    const [a, b] = [await passOver(await sourceOf(RATE, [short])), await passOver(await sourceOf(RATE, [long]))];
    expect(b.bytes).toBe(a.bytes);
  });
});

describe('powers sorted by the level of their frames', () => {
  it('have percentile and mean of the talk alone', () => {
    const kernel = testKernel();
    const tally = new LevelTally(kernel, 1);
    // Ten frames of talk, ten of a pause 40 dB below.
    const size = 1000;
    const pairs = Float32Array.from({ length: 40 * size }, (_, n) => (n < 20 * size ? 0.3 : 0.003) * Math.sin(n * n));
    const powers = Array.from({ length: 20 * size }, (_, n) => pairs[2 * n] ** 2 + pairs[2 * n + 1] ** 2);
    const frames = Array.from({ length: 20 }, (_, k) => mean(powers.slice(k * size, (k + 1) * size)));
    const at = kernel.take(pairs.length);
    kernel.floats(at).set(pairs);
    const known = { powers: frames, steps: frames.map(stepOf), frameSamples: size, isWhole: true, leastStep: -1000 };
    tally.push({ address: at.address, count: pairs.length / 2 }, known);
    const talk = powers.slice(0, 10 * size);
    const { top, mean: middle } = tally.result(1e-3, 99);
    expect(powerToDb((top ?? 0) / percentile(talk, 99))).toBeCloseTo(0, 1);
    expect(powerToDb(middle / mean(talk))).toBeCloseTo(0, 3);
    expect(new LevelTally(kernel, 1).result(1, 50).top).toBeNull();
  });
});

describe('powers of windows shared out to frames', () => {
  it('gives each level the windows that touch its frames, by their share, silence and what is no talk left out', () => {
    const kernel = testKernel();
    const size = 64;
    const kept = 24;
    const steps = [-50, -20, -2000, -20, -21, -90, -20, -50];
    const frames = { powers: [], steps, frameSamples: 100, isWhole: true, leastStep: -60 };
    const shares = new FrameShares(kernel, size, kept, 4);
    const windows = [
      [0, 2],
      [0, 3],
      [1, 4],
      [3, 4],
      [3, 6],
      [5, 8],
      [7, 8],
    ] as const;
    const powersOf = (w: number) => noise(size, 1, 1, w + 1).map((x) => Math.fround(x * x));
    const expected = new Map<number, { sum: Float64Array; weight: number }>();
    windows.forEach(([from, to], w) => {
      kernel.floats({ address: shares.room, length: size }).set(powersOf(w));
      shares.add(from, to, frames);
      for (let frame = from; frame < to; frame++) {
        const step = steps[frame];
        if (step === -2000 || step < -60) continue;
        const level = expected.get(step) ?? { sum: new Float64Array(size), weight: 0 };
        powersOf(w).forEach((power, k) => {
          level.sum[k] += power / (to - from);
        });
        level.weight += 1 / (to - from);
        expected.set(step, level);
      }
    });
    shares.end(frames);
    expect([...shares.byStep.keys()].sort()).toEqual([...expected.keys()].sort());
    for (const [step, { sum, weight }] of shares.byStep) {
      expect(weight).toBeCloseTo(expected.get(step)?.weight ?? 0, 12);
      // What lies between the two stretches that are kept is of no use.
      kernel.floats(sum).forEach((power, k) => {
        expect(power).toBeCloseTo(k < kept || k >= size - kept ? (expected.get(step)?.sum[k] ?? 0) : 0, 4);
      });
    }
  });
});

describe('a pass over SSB', () => {
  const rate = 192000;
  const talk = join(silence(rate, 0.5), voiceLike(rate, 3), silence(rate, 0.5));

  it.each(CUTS)('gives the same bits for any cut of the file', async (...cut) => {
    const source = await iqSource(rate, ssbModulate(talk, rate, 12345, 'lsb'), { noiseRms: 1e-4 });
    const options = { carrierHz: 12345, sideband: 'lsb' as const };
    expect(await measureSsb(recut(source, cut), options)).toEqual(await measureSsb(source, options));
  });
});
