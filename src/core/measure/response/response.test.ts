/** The response of paths that are known: filters of our own, mistuned, with another clock, bent and noisy. */
import { beforeAll, describe, expect, it } from 'vitest';
import { join, mix, noise, scaled, silence, sourceOf } from '../../../../tests/support/signals.ts';
import { BiquadChain, butterworthQs, cascadeDb, highPass, lowPass, peaking } from '../../dsp/filter/biquad.ts';
import { resampled } from '../../dsp/filter/resample.ts';
import { analytic } from '../../dsp/signals/analytic.ts';
import { exponentialSweep } from '../../dsp/signals/sweep.ts';
import { testSignal } from '../../dsp/signals/testSignals.ts';
import { shifted } from '../../dsp/stream/complex.ts';
import { amplitudeToDb } from '../../units/conversions.ts';
import type { ResponseMeasurement } from '../measurement.ts';
import { compareResponses, micOrRadio } from './compareResponses.ts';
import { measureResponse } from './response.ts';

const RATE = 24000;
const filters = [...butterworthQs(4).map((q) => highPass(RATE, 300, q)), ...butterworthQs(8).map((q) => lowPass(RATE, 2700, q))];
const trueDb = (hz: number) => cascadeDb(filters, RATE, hz) - cascadeDb(filters, RATE, 1000);
const sent = testSignal({ signal: 'sweep', rateHz: RATE, seconds: 4, levelDb: -6 });

interface Path {
  readonly shiftHz?: number;
  readonly ppm?: number;
  readonly square?: number;
  readonly noiseRms?: number;
}

function through(samples: Float64Array, { shiftHz = 0, ppm = 0, square = 0, noiseRms = 2e-4 }: Path): Float64Array {
  const bent = samples.map((x) => x + square * x * x);
  const filtered = new BiquadChain(filters).process(bent);
  const moved = resampled(shifted(analytic(filtered), RATE, shiftHz).i, 1 + ppm * 1e-6);
  return mix(moved, noise(RATE, moved.length / RATE, noiseRms));
}

const measure = async (samples: Float64Array, reference?: Float64Array) =>
  (await measureResponse(await sourceOf(RATE, [samples]), { reference: reference && (await sourceOf(RATE, [reference])) })).measurement;

/** Farthest from the truth where the filter lets anything through. */
const worstError = ({ curve }: ResponseMeasurement) =>
  Math.max(...curve.filter(([hz]) => hz > 200 && hz < 3500).map(([hz, db]) => Math.abs(db - trueDb(hz))));

describe('the response signal', () => {
  it.each([
    [0, 0],
    [140, 190],
    [-150, -200],
  ])('comes back mistuned by %i Hz with %i ppm: curve, edges, shift and clock', async (shiftHz, ppm) => {
    const m = await measure(through(join(silence(RATE, 0.73), sent), { shiftHz, ppm }));
    expect(worstError(m)).toBeLessThan(0.3);
    expect(Math.abs((m.mistuneHz ?? 99) - shiftHz)).toBeLessThan(1);
    expect(Math.abs((m.clockPpm ?? 999) - ppm)).toBeLessThan(1);
    // -6 dB of these two filters, by their formula.
    const edge = (from: number, step: number) => {
      let hz = from;
      while (trueDb(hz) > -6) hz += step;
      return hz;
    };
    expect(Math.abs((m.passbandHz?.[0] ?? 0) - edge(1000, -1))).toBeLessThan(8);
    expect(Math.abs((m.passbandHz?.[1] ?? 0) - edge(1000, 1))).toBeLessThan(8);
    expect(m.curve.find(([hz]) => hz === 1000)?.[1]).toBe(0);
    expect(Math.abs(m.levelDriftDb ?? 9)).toBeLessThan(0.05);
    expect(m.curve.length).toBeGreaterThanOrEqual(24 * 6);
  });

  it('tells harmonics of a bent path: x + a x^2 makes a half amplitude-squared of second harmonic', async () => {
    const square = 0.2;
    const m = await measure(through(sent, { square, shiftHz: 30 }));
    const expected = amplitudeToDb((square * 0.5011872) / 2);
    // The second harmonic of the lower half of the band passes the filter where it lies, the fundamental a little less.
    expect(Math.abs((m.harmonicsDb?.[0][1] ?? 0) - expected)).toBeLessThan(1);
    expect(m.findings.map(({ code }) => code)).toContain('distortion');
  });

  it('flags a level that moves, and a dull radio', async () => {
    const louder = sent.map((x, n) => x * (n > sent.length / 2 ? 1.3 : 1));
    const dull = new BiquadChain(butterworthQs(4).map((q) => lowPass(RATE, 1500, q))).process(louder);
    const m = await measure(dull);
    expect(m.levelDriftDb).toBeCloseTo(amplitudeToDb(1.3), 1);
    expect(m.findings.map(({ code }) => code)).toEqual(expect.arrayContaining(['level-drift', 'roll-off']));
    // Where it only falls it is dull, and not uneven as well; with a hump before it, it is both.
    expect(m.rippleDb).toBeGreaterThan(4);
    expect(m.findings.map(({ code }) => code)).not.toContain('ripple');
    const humped = new BiquadChain([peaking(RATE, 1200, 8, 0.5)]).process(scaled(dull, 0.3));
    expect((await measure(humped)).findings.map(({ code }) => code)).toEqual(expect.arrayContaining(['ripple', 'roll-off']));
  });

  it('takes a curve off', async () => {
    const subtract = [
      [
        [100, 0],
        [1000, 0],
        [2000, -10],
        [4000, -10],
      ],
    ] as const;
    const { measurement: m } = await measureResponse(await sourceOf(RATE, [sent]), { subtract });
    expect(m.curve.find(([hz]) => hz === 2000)?.[1]).toBeCloseTo(10, 1);
    expect(m.curve.find(([hz]) => hz === 500)?.[1]).toBeCloseTo(0, 1);
  });

  it.each([
    ['nothing of it', noise(RATE, 5, 0.1), /No test signal/],
    ['silence', silence(RATE, 5), /No test signal/],
    ['no end', sent.subarray(0, 9 * RATE), /ends before/],
    ['no beginning', sent.subarray(3 * RATE), /begins after/],
    ['a piece cut out', join(sent.subarray(0, 5 * RATE), sent.subarray(5.5 * RATE)), /not as far apart/],
    ['one sweep replaced', join(sent.subarray(0, 7 * RATE), noise(RATE, 4, 0.3), sent.subarray(11 * RATE)), /unlike each other/],
  ])('refuses a recording with %s', async (_, samples, message) => {
    await expect(measure(samples)).rejects.toThrow(message);
  });
});

describe('a foreign signal named as the reference', () => {
  const sweep = scaled(exponentialSweep({ lowHz: 80, highHz: 5000, seconds: 6 }, RATE, 0.05), 0.5);
  const played = join(silence(RATE, 1.21), sweep, silence(RATE, 0.8));

  it.each([
    [0, 0],
    [110, 100],
    [-90, -200],
  ])('an exponential sweep mistuned by %i Hz with %i ppm', async (shiftHz, ppm) => {
    const m = await measure(through(played, { shiftHz, ppm }), sweep);
    expect(worstError(m)).toBeLessThan(0.3);
    expect(Math.abs((m.mistuneHz ?? 99) - shiftHz)).toBeLessThan(2);
    expect(m.clockPpm).toBeNull();
    expect(m.notes.clockPpm).toBeTruthy();
  });

  it('stepped tones: by long-term spectra, right at the tones', async () => {
    const source = testSignal({ signal: 'stepped', rateHz: RATE, seconds: 18, levelDb: -6 });
    const m = await measure(through(source, {}), source);
    const at = (hz: number) => m.curve.reduce((best, point) => (Math.abs(point[0] - hz) < Math.abs(best[0] - hz) ? point : best))[1];
    for (const hz of [320, 500, 1600, 2500, 2700, 3150]) expect(Math.abs(at(hz) - trueDb(hz))).toBeLessThan(1.5);
  });

  it('noise: by long-term spectra, without a word on mistuning', async () => {
    const source = noise(RATE, 20, 0.2);
    const m = await measure(through(source, {}), source);
    expect(Math.max(...m.curve.filter(([hz]) => hz > 300 && hz < 2800).map(([hz, db]) => Math.abs(db - trueDb(hz))))).toBeLessThan(1);
    expect([m.mistuneHz, m.distortionDb]).toEqual([null, null]);
  });

  it('that is not in the recording', async () => {
    await expect(measure(noise(RATE, 8, 0.1), sweep)).rejects.toThrow(/was not found/);
  });
});

describe('two responses', () => {
  let radio: ResponseMeasurement;
  let withMic: ResponseMeasurement;
  beforeAll(async () => {
    radio = await measure(through(sent, {}));
    const mic = new BiquadChain([peaking(RATE, 2200, 8, 1)]).process(sent.slice());
    withMic = await measure(through(mic, {}));
  }, 60_000);

  it('differ by what was put between them, in a curve and in words', () => {
    const { difference, sentences } = compareResponses(withMic, radio, 'with the mic', 'the radio alone');
    const at2200 = difference.find(([hz]) => Math.abs(hz - 2200) < 40)?.[1] ?? 0;
    expect(Math.abs(at2200 - (8 - cascadeDb([peaking(RATE, 2200, 8, 1)], RATE, 1000)))).toBeLessThan(0.3);
    expect(sentences.join(' ')).toMatch(/with the mic.*more/);
  });

  it('answer whether it is the mic or the radio', () => {
    const verdict = micOrRadio(radio, withMic);
    expect(verdict.mic.find(([hz]) => Math.abs(hz - 2200) < 40)?.[1]).toBeGreaterThan(6);
    expect(verdict.sentences.join(' ')).toMatch(/highs.*mic/i);
    expect(micOrRadio(radio, radio).sentences.join(' ')).toMatch(/mic is flat/);
  });
});
