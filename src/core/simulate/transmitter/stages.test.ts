/**
 * Properties that every stage of the path has, walked over the whole family: transmitter, path and receiver. As many
 * samples come out as went in, at their own times; any cut of the input gives the same bits; nothing breaks on the
 * smallest, the loudest and the emptiest input; the same seed gives the same sound.
 */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { join, noise, rms, sine, voiceLike } from '../../../../tests/support/signals.ts';
import { peaking } from '../../dsp/filter/biquad.ts';
import { resampleStream } from '../../dsp/filter/resampleStream.ts';
import { createKernel } from '../../dsp/kernel/kernel.ts';
import type { Complex } from '../../dsp/stream/complex.ts';
import { type AudioStage, inRow, instantAudio, joinedRadio, type RadioStage } from '../../dsp/stream/stage.ts';
import type { Microphone } from '../../rig/microphone.ts';
import { amplitudeToDb } from '../../units/conversions.ts';
import { fadingStage, twoRayStage } from '../path/fading.ts';
import { impulseNoise, whiteNoise } from '../path/noise.ts';
import { agcStage, FAST_AGC, SLOW_AGC } from '../receiver/agc.ts';
import { noiseReductionStage } from '../receiver/noiseReduction.ts';
import { Alc, USUAL_ALC } from './alc.ts';
import { amplifierStage, USUAL_AMPLIFIER } from './amplifier.ts';
import { balanceStage, USUAL_BALANCE } from './balance.ts';
import { clipperStage } from './clipper.ts';
import { compressorStage, USUAL_COMPRESSOR } from './compressor.ts';
import { equalizerStage } from './equalizerStage.ts';
import { gainTable, lookUp } from './gainTable.ts';
import { micGainStage } from './micGain.ts';
import { microphoneStage, QUIET_ROOM } from './microphoneStage.ts';
import { amStage, fmStage, mirrorStage, radioGainStage } from './modulators.ts';
import { passbandStage } from './passband.ts';

const RATE = 24000;
const PASSBAND = { edgesHz: [300, 2700], transitionHz: 200 } as const;
const MICROPHONE: Microphone = {
  format: 'dialtune-microphone',
  version: 1,
  name: 'Test mic',
  kind: 'dynamic',
  pattern: 'cardioid',
  level: 'low',
  distanceCm: 6,
  positions: [
    {
      name: 'flat',
      curve: [
        [100, -4],
        [1000, 0],
        [4000, 3],
      ],
    },
  ],
  accessories: [],
};
const USED = { microphone: MICROPHONE, use: { position: 'flat', accessories: [], distanceCm: 8 } };
const LOUD_ROOM = { noiseDb: -20, humDb: -30, humHz: 60, plosivesPerMinute: 60, plosiveDb: 12 };

/** Every stage that takes audio and gives audio. */
const AUDIO: readonly (readonly [string, () => AudioStage])[] = [
  [
    'a bare microphone in a silent room',
    () => microphoneStage({ microphone: null, use: null, room: { ...QUIET_ROOM, noiseDb: null }, seed: 1 }, RATE, null),
  ],
  ['a microphone with a curve in a loud room', () => microphoneStage({ ...USED, room: LOUD_ROOM, seed: 3 }, RATE, createKernel())],
  ['mic gain', () => micGainStage(11)],
  ['equalizer', () => equalizerStage([peaking(RATE, 250, -6, 1), peaking(RATE, 1000, 3, 2), peaking(RATE, 2400, 9, 0.5)])],
  ['no equalizer', () => equalizerStage([])],
  ['audio compressor', () => compressorStage({ ...USUAL_COMPRESSOR, compressionDb: 15, ceilingDb: 4 }, RATE)],
  ['compressor switched off', () => compressorStage({ ...USUAL_COMPRESSOR, compressionDb: 0, ceilingDb: 4 }, RATE)],
  ['slow AGC', () => agcStage(SLOW_AGC, RATE)],
  ['fast AGC', () => agcStage(FAST_AGC, RATE)],
  ['noise reduction', () => noiseReductionStage(0.8)],
  [
    'a row of them',
    () => inRow([micGainStage(6), noiseReductionStage(0.5), equalizerStage([peaking(RATE, 800, 4, 1)])], (a, b) => join(a, b)),
  ],
];

/** Every stage that takes and gives I and Q. */
const RADIO: readonly (readonly [string, () => RadioStage])[] = [
  ['RF clipper', () => clipperStage(10, 4)],
  ['passband', () => passbandStage(PASSBAND, RATE, createKernel())],
  ['passband in double precision', () => passbandStage(PASSBAND, RATE, null)],
  ['ALC', () => new Alc(USUAL_ALC, RATE)],
  ['balance', () => balanceStage(USUAL_BALANCE)],
  ['perfect balance', () => balanceStage({ carrierDb: null, oppositeDb: null })],
  ['amplifier', () => amplifierStage(USUAL_AMPLIFIER)],
  ['amplifier that turns', () => amplifierStage({ saturationDb: 0, smoothness: 1.2, mostTurn: 0.5 })],
  ['lower power', () => radioGainStage(0.3)],
  ['full power', () => radioGainStage(1)],
  ['lower sideband', () => mirrorStage()],
  ['AM', () => amStage()],
  ['FM', () => fmStage(2500, RATE, createKernel())],
  ['white noise', () => whiteNoise(10, RATE, 7)],
  ['impulses', () => impulseNoise({ perSecond: 40, peakDb: 10 }, RATE, 7)],
  ['two rays', () => twoRayStage({ delayS: 0.0013, echoDb: -4, phase: 2 }, RATE)],
  ['good HF path', () => fadingStage('good', RATE, 7)],
  ['poor HF path', () => fadingStage('poor', RATE, 7)],
];

const NOTHING = new Float64Array(0);
const INPUTS: readonly (readonly [string, Float64Array])[] = [
  ['nothing', NOTHING],
  ['one sample', Float64Array.of(0.5)],
  ['two samples', Float64Array.of(-0.5, 0.25)],
  ['a prime number of samples', voiceLike(RATE, 1).subarray(0, 7919)],
  ['silence', new Float64Array(RATE / 2)],
  ['full drive and more', sine(RATE, 700, 0.5, 30)],
  ['a click', Float64Array.from({ length: 6000 }, (_, n) => (n === 3000 ? 1 : 0))],
  ['a constant', new Float64Array(6000).fill(0.4)],
  ['the faintest', noise(RATE, 0.3, 1e-12)],
];

const asRadio = (samples: Float64Array): Complex => ({
  i: samples.slice(),
  q: samples.map((_, n) => samples[(n * 7) % samples.length] ?? 0),
});
const part = ({ i, q }: Complex, from: number, to: number): Complex => ({ i: i.slice(from, to), q: q.slice(from, to) });

function audioThrough(stage: AudioStage, samples: Float64Array, cuts: readonly number[] = []): Float64Array {
  const edges = [0, ...cuts, samples.length];
  const parts = edges.slice(1).map((to, k) => stage.push(samples.slice(edges[k], to)).slice());
  return join(...parts, stage.end());
}

function radioThrough(stage: RadioStage, signal: Complex, cuts: readonly number[] = []): Complex {
  const edges = [0, ...cuts, signal.i.length];
  let all: Complex = { i: NOTHING, q: NOTHING };
  edges.slice(1).forEach((to, k) => {
    const ready = stage.push(part(signal, edges[k], to));
    all = joinedRadio(all, { i: ready.i.slice(), q: ready.q.slice() });
  });
  return joinedRadio(all, stage.end());
}

/** Places to cut `length` samples at, any number of them, also twice at one place. */
const cutsOf = (length: number) =>
  fc.array(fc.integer({ min: 0, max: length }), { maxLength: 12 }).map((cuts) => cuts.sort((a, b) => a - b));

describe.each(AUDIO)('%s', (_, make) => {
  it.each(INPUTS)('of %s: as many samples, all of them numbers', (__, samples) => {
    const out = audioThrough(make(), samples);
    expect(out.length).toBe(samples.length);
    expect(out.every(Number.isFinite)).toBe(true);
  });

  it('gives the same bits for any cut', () => {
    const samples = voiceLike(RATE, 0.5);
    const whole = audioThrough(make(), samples);
    fc.assert(
      fc.property(cutsOf(samples.length), (cuts) => {
        expect(audioThrough(make(), samples, cuts)).toEqual(whole);
      }),
      { numRuns: 8 },
    );
  });

  it('leaves what has passed alone: nothing later changes it', () => {
    const [short, long] = [voiceLike(RATE, 0.6).subarray(0, 9000), voiceLike(RATE, 0.6)];
    const [a, b] = [audioThrough(make(), short), audioThrough(make(), long)];
    // Filters and frames look a few hundred samples ahead; a block transform rounds by all that is in it.
    const difference = a.subarray(0, 8000).map((x, n) => x - b[n]);
    expect(rms(difference)).toBeLessThan(1e-6 * rms(a.subarray(0, 8000)));
  });
});

describe.each(RADIO)('%s', (_, make) => {
  it.each(INPUTS)('of %s: as many samples, all of them numbers', (__, samples) => {
    const out = radioThrough(make(), asRadio(samples));
    expect([out.i.length, out.q.length]).toEqual([samples.length, samples.length]);
    expect(out.i.every(Number.isFinite) && out.q.every(Number.isFinite)).toBe(true);
  });

  it('gives the same bits for any cut', () => {
    const signal = asRadio(voiceLike(RATE, 0.5));
    const whole = radioThrough(make(), signal);
    fc.assert(
      fc.property(cutsOf(signal.i.length), (cuts) => {
        const cut = radioThrough(make(), signal, cuts);
        expect(cut.i).toEqual(whole.i);
        expect(cut.q).toEqual(whole.q);
      }),
      { numRuns: 8 },
    );
  });
});

describe('stages that only turn or scale', () => {
  const signal = asRadio(noise(RATE, 1, 0.2));
  const powerOf = ({ i, q }: Complex) => i.reduce((sum, x, n) => sum + x * x + q[n] * q[n], 0);

  it.each([
    ['lower sideband', mirrorStage()],
    ['perfect balance', balanceStage({ carrierDb: null, oppositeDb: null })],
    ['full power', radioGainStage(1)],
  ] as const)('%s keeps the power', (_, stage) => {
    const before = powerOf(signal);
    expect(powerOf(radioThrough(stage, signal))).toBeCloseTo(before, 6);
  });

  it('lower power is lower by just that', () => {
    expect(powerOf(radioThrough(radioGainStage(0.5), signal)) / powerOf(signal)).toBeCloseTo(0.25, 9);
  });
});

describe('a gain law as a table', () => {
  it.each([
    ['a root', (power: number) => 1 / Math.sqrt(1 + power), 4],
    ['an exponential', (db: number) => 10 ** (-db / 20), 16],
  ] as const)('%s is within a thousandth of a decibel, and beyond the table exact', (_, law, top) => {
    const table = gainTable(law, top);
    for (let k = 0; k < 1000; k++) {
      const at = (k / 1000) * top;
      expect(Math.abs(amplitudeToDb(lookUp(table, at) / law(at)))).toBeLessThan(0.001);
    }
    expect(lookUp(table, top)).toBe(law(top));
    expect(lookUp(table, 3 * top)).toBe(law(3 * top));
  });
});

describe('a row of stages', () => {
  it('can not be empty', () => {
    expect(() => inRow<Float64Array>([], (a) => a).end()).toThrow();
  });

  it('empties each stage into the next', () => {
    const late = (): AudioStage => {
      let held = NOTHING;
      return {
        push(block) {
          const out = held;
          held = block.slice();
          return out;
        },
        end: () => held,
      };
    };
    const row = inRow([late(), instantAudio((block) => block.map((x) => 2 * x)), late()], (a, b) => join(a, b));
    const out = join(row.push(Float64Array.of(1, 2)), row.push(Float64Array.of(3)), row.end());
    expect([...out]).toEqual([2, 4, 6]);
  });
});

describe('a stream at another rate', () => {
  const PAIRS = [48000, 96000, 192000, 44100, 16000, 8000, 11025, 32000].map((from) => [from, 24000] as const);
  it.each(PAIRS)('%i Hz as %i Hz gives the same bits for any cut', (from, to) => {
    const samples = voiceLike(from, 0.3);
    const whole = audioThrough(resampleStream(from, to, createKernel()), samples);
    expect(Math.abs(whole.length - (samples.length * to) / from)).toBeLessThanOrEqual(1);
    fc.assert(
      fc.property(cutsOf(samples.length), (cuts) => {
        expect(audioThrough(resampleStream(from, to, createKernel()), samples, cuts)).toEqual(whole);
      }),
      { numRuns: 5 },
    );
  });

  it.each(PAIRS)('%i Hz as %i Hz stands nothing and one sample', (from, to) => {
    expect(audioThrough(resampleStream(from, to, null), NOTHING).length).toBe(0);
    expect(audioThrough(resampleStream(from, to, null), Float64Array.of(1)).every(Number.isFinite)).toBe(true);
  });
});
