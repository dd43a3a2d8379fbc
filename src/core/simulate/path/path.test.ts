import { describe, expect, it } from 'vitest';
import { rms, sine, voiceLike } from '../../../../tests/support/signals.ts';
import type { Complex } from '../../dsp/stream/complex.ts';
import { joinedRadio } from '../../dsp/stream/stage.ts';
import { ssbModulate } from '../../modem/ssb.ts';
import type { Mode } from '../../rig/rig.ts';
import { amplitudeToDb, powerToDb } from '../../units/conversions.ts';
import { agcStage, SLOW_AGC } from '../receiver/agc.ts';
import { noiseReductionStage } from '../receiver/noiseReduction.ts';
import { GOOD_RECEIVER, Receiver, type ReceiverShape } from '../receiver/receiver.ts';
import { amStage, fmStage } from '../transmitter/modulators.ts';
import { fadingStage, HF_CLASSES, twoRayStage } from './fading.ts';
import { NOISE_BANDWIDTH_HZ } from './noise.ts';
import { CLEAR_PATH, pathStage } from './path.ts';

const RATE = 24000;
const still = (seconds: number, size = 0): Complex => ({
  i: new Float64Array(RATE * seconds).fill(size),
  q: new Float64Array(RATE * seconds),
});
const meanPower = ({ i, q }: Complex) => i.reduce((sum, x, n) => sum + x * x + q[n] * q[n], 0) / i.length;
const copy = ({ i, q }: Complex): Complex => ({ i: i.slice(), q: q.slice() });
const receive = (mode: Mode, signal: Complex, shape: Partial<ReceiverShape> = {}) => {
  const receiver = new Receiver(mode, { ...GOOD_RECEIVER, agc: null, ...shape }, RATE);
  const first = receiver.push(copy(signal)).slice();
  return Float64Array.from([...first, ...receiver.end()]);
};
const levelOf = (audio: Float64Array, hz: number) => {
  let [re, im] = [0, 0];
  const part = audio.subarray(RATE / 2, RATE * 1.5);
  part.forEach((x, n) => {
    re += x * Math.cos((2 * Math.PI * hz * n) / RATE);
    im += x * Math.sin((2 * Math.PI * hz * n) / RATE);
  });
  return amplitudeToDb((2 * Math.hypot(re, im)) / part.length);
};

describe('the path', () => {
  it.each([0, 10, 30])('has %i dB of peak over noise in 3 kHz', (snrDb) => {
    const out = pathStage({ ...CLEAR_PATH, snrDb }, RATE).push(still(20));
    expect(powerToDb((meanPower(out) * NOISE_BANDWIDTH_HZ) / RATE)).toBeCloseTo(-snrDb, 1);
  });

  it('throws impulses as often and as large as told', () => {
    const out = pathStage({ ...CLEAR_PATH, impulses: { perSecond: 20, peakDb: 6 } }, RATE).push(still(30));
    const sizes = [...out.i].map((x, n) => Math.hypot(x, out.q[n])).filter((size) => size > 0);
    // Poisson: 600 with a standard deviation of 24.5.
    expect(Math.abs(sizes.length - 600)).toBeLessThan(4 * 24.5);
    for (const size of sizes) expect(amplitudeToDb(size)).toBeCloseTo(6, 6);
  });

  it.each([
    ['fading', { ...CLEAR_PATH, fading: 'poor' as const }],
    ['two rays', { ...CLEAR_PATH, fading: { delayS: 0.001, echoDb: -3, phase: 1 } }],
    ['noise and impulses', { ...CLEAR_PATH, snrDb: 10, impulses: { perSecond: 50, peakDb: 0 } }],
  ])('%s is the same bit by bit for any cut', (_, shape) => {
    const signal = ssbModulate(voiceLike(RATE, 1), RATE, 0, 'usb');
    const whole = pathStage(shape, RATE).push(copy(signal));
    const stage = pathStage(shape, RATE);
    let parts = still(0);
    for (let at = 0; at < signal.i.length; at += 700)
      parts = joinedRadio(parts, stage.push(copy({ i: signal.i.subarray(at, at + 700), q: signal.q.subarray(at, at + 700) })));
    expect(parts.i).toEqual(whole.i);
    expect(parts.q).toEqual(whole.q);
  });

  it.each([0, 250, 500, 750, 1000])('two still rays 1 ms apart: |1 + exp(-j w tau)| at %i Hz', (hz) => {
    const tone = { i: sine(RATE, hz, 1, 1, Math.PI / 2), q: sine(RATE, hz, 1) };
    const out = twoRayStage({ delayS: 0.001, echoDb: 0, phase: 0 }, RATE).push(tone);
    expect(Math.hypot(out.i[12000], out.q[12000])).toBeCloseTo(Math.abs(2 * Math.cos(Math.PI * hz * 0.001)), 6);
  });

  it.each(['good', 'moderate', 'poor'] as const)('%s HF path: mean power kept, Rayleigh, as quick as its spread', (kind) => {
    // Many short channels instead of one of hours.
    const gains: number[] = [];
    const products = { zero: 0, later: 0 };
    const lag = 0.2 / HF_CLASSES[kind].spreadHz;
    for (let seed = 0; seed < 400; seed++) {
      const fading = fadingStage(kind, 2000, seed);
      const length = Math.round(lag * 2000);
      const { i, q } = fading.push({ i: new Float64Array(length + 100).fill(1), q: new Float64Array(length + 100) });
      const [a, b] = [50, 50 + length - 1];
      gains.push(i[a] ** 2 + q[a] ** 2);
      products.zero += i[a] ** 2 + q[a] ** 2;
      products.later += i[a] * i[b] + q[a] * q[b];
    }
    const mean = gains.reduce((sum, p) => sum + p, 0) / gains.length;
    // An exponential distribution: standard deviation of the mean 1/20, share under the tenth 1 - exp(-0.1).
    expect(Math.abs(mean - 1)).toBeLessThan(0.2);
    const low = gains.filter((p) => p < 0.1 * mean).length / gains.length;
    expect(Math.abs(low - (1 - Math.exp(-0.1)))).toBeLessThan(0.06);
    // Gaussian spectrum of standard deviation s: correlation exp(-2 (pi s t)^2), here t s = 0.1.
    expect(Math.abs(products.later / products.zero - Math.exp(-2 * (Math.PI * 0.1) ** 2))).toBeLessThan(0.15);
  });
});

describe('the receiver', () => {
  const usb = ssbModulate(sine(RATE, 1000, 2, 0.5), RATE, 0, 'usb');

  it.each(['usb', 'lsb'] as const)('gives the audio of %s back', (mode) => {
    const signal = ssbModulate(sine(RATE, 1000, 2, 0.5), RATE, 0, mode);
    expect(levelOf(receive(mode, signal), 1000)).toBeCloseTo(amplitudeToDb(0.5), 2);
    expect(levelOf(receive(mode === 'usb' ? 'lsb' : 'usb', signal), 1000)).toBeLessThan(-70);
  });

  it.each(['usb', 'lsb', 'am', 'fm'] as const)(
    'of %s, with all its helpers on, is the same bit by bit for any cut, and keeps time',
    (mode) => {
      const shape = { ...GOOD_RECEIVER, mistuneHz: 30, overloadDb: 3, noiseReduction: 0.5, blanker: 5 };
      const signal = pathStage({ ...CLEAR_PATH, snrDb: 20 }, RATE).push(ssbModulate(voiceLike(RATE, 1), RATE, 0, 'usb'));
      const through = (length: number) => {
        const receiver = new Receiver(mode, shape, RATE);
        const parts: number[] = [];
        for (let at = 0; at < signal.i.length; at += length)
          parts.push(...receiver.push({ i: signal.i.slice(at, at + length), q: signal.q.slice(at, at + length) }));
        return Float64Array.from([...parts, ...receiver.end()]);
      };
      expect(through(24000).length).toBe(signal.i.length);
      expect(through(701)).toEqual(through(24000));
    },
  );

  it('mistuned, the voice comes out higher by as much', () => {
    expect(levelOf(receive('usb', usb, { mistuneHz: 120 }), 1120)).toBeCloseTo(amplitudeToDb(0.5), 1);
    const lsb = ssbModulate(sine(RATE, 1000, 2, 0.5), RATE, 0, 'lsb');
    expect(levelOf(receive('lsb', lsb, { mistuneHz: 120 }), 1120)).toBeCloseTo(amplitudeToDb(0.5), 1);
  });

  it('filters', () => {
    expect(levelOf(receive('usb', usb, { passbandHz: [1000, 2000] }), 1000)).toBeCloseTo(amplitudeToDb(0.5) - 6.02, 1);
    expect(levelOf(receive('usb', usb, { passbandHz: [1300, 2000] }), 1000)).toBeLessThan(-75);
  });

  it('gives AM and FM audio back at its depth', () => {
    const tone = { i: sine(RATE, 1000, 2, 0.6), q: new Float64Array(2 * RATE) };
    // The envelope of a carrier of 1/2, doubled: depth 0.6 is amplitude 0.6.
    expect(levelOf(receive('am', amStage().push(copy(tone))), 1000)).toBeCloseTo(amplitudeToDb(0.6), 1);
    const fm = fmStage(2500, RATE, null);
    const signal = joinedRadio(copy(fm.push(tone)), fm.end());
    // Half the deviation that the receiver is made for: 6.02 dB down (arithmetic).
    expect(levelOf(receive('fm', signal, { deviationHz: 5000 }), 1000)).toBeCloseTo(amplitudeToDb(0.6) - 6.02, 1);
  });

  it('overloaded, it makes products of its own', () => {
    const two = ssbModulate(
      sine(RATE, 700, 2, 0.5).map((x, n) => x + 0.5 * Math.sin((2 * Math.PI * 1900 * n) / RATE)),
      RATE,
      0,
      'usb',
    );
    const product = (overloadDb: number | null) => levelOf(receive('usb', two, { overloadDb }), 3100);
    expect(product(null)).toBeLessThan(-80);
    expect(product(-6)).toBeGreaterThan(-40);
  });

  it('switched on in the middle of a signal it has found its gain: no crash of the first samples', () => {
    for (const amplitude of [1e-4, 0.01, 1]) {
      const out = agcStage(SLOW_AGC, RATE).push(sine(RATE, 700, 1, amplitude).map((x, n) => x + amplitude * Math.cos(0.01 * n)));
      const peakOf = (part: Float64Array) => part.reduce((most, x) => Math.max(most, Math.abs(x)), 0);
      expect(peakOf(out.subarray(0, RATE / 20))).toBeLessThan(1.5 * peakOf(out.subarray(RATE / 2)));
    }
  });

  it('its AGC brings loud and faint to one level', () => {
    const level = (amplitude: number) => {
      const out = agcStage(SLOW_AGC, RATE).push(sine(RATE, 1000, 3, amplitude));
      return amplitudeToDb(rms(out.subarray(2 * RATE)));
    };
    expect(Math.abs(level(1) - level(0.01))).toBeLessThan(0.1);
    expect(level(1e-5)).toBeLessThan(level(1) - 5);
  });

  it('its noise reduction keeps time and length, lowers noise, and harms a faint voice', () => {
    const voice = voiceLike(RATE, 4, { level: 0.1 });
    const through = (samples: Float64Array, lengths = samples.length) => {
      const stage = noiseReductionStage(1);
      const parts: number[] = [];
      for (let at = 0; at < samples.length; at += lengths) parts.push(...stage.push(samples.subarray(at, at + lengths)));
      return Float64Array.from([...parts, ...stage.end()]);
    };
    const none = noiseReductionStage(0);
    const same = Float64Array.from([...none.push(voice), ...none.end()]);
    expect(same.length).toBe(voice.length);
    expect(rms(same.map((x, n) => x - voice[n]))).toBeLessThan(1e-9);
    const hiss = pathStage({ ...CLEAR_PATH, snrDb: 20 }, RATE).push(still(4)).i;
    expect(amplitudeToDb(rms(through(hiss)) / rms(hiss))).toBeLessThan(-3);
    expect(through(voice, 333)).toEqual(through(voice));
  });

  it('its blanker cuts impulses, and the voice with them', () => {
    const signal = pathStage({ ...CLEAR_PATH, impulses: { perSecond: 10, peakDb: 30 } }, RATE).push(copy(usb));
    const error = (blanker: number | null) => rms(receive('usb', signal, { blanker }).map((x, n) => x - usb.i[n]));
    expect(error(4)).toBeLessThan(error(null) / 2);
    expect(error(4)).toBeGreaterThan(0.005);
  });
});
