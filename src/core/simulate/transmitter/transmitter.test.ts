/** Every stage against its closed form; the whole path against itself for any cut, and against what it should do. */
import { describe, expect, it } from 'vitest';
import { parametricRig } from '../../../../tests/support/rigs.ts';
import { highest, noise, rms, sine, voiceLike } from '../../../../tests/support/signals.ts';
import { peaking, responseDb } from '../../dsp/filter/biquad.ts';
import type { Complex } from '../../dsp/stream/complex.ts';
import { joinedRadio } from '../../dsp/stream/stage.ts';
import { factoryCard } from '../../rig/card.ts';
import { shareOf } from '../../rig/dialScale.ts';
import type { Microphone } from '../../rig/microphone.ts';
import { amplitudeToDb, powerToDb } from '../../units/conversions.ts';
import { Alc, alcReductionDb, USUAL_ALC } from './alc.ts';
import { amplifierStage, rappGain, USUAL_AMPLIFIER } from './amplifier.ts';
import { balanceStage } from './balance.ts';
import { clipperStage } from './clipper.ts';
import { compressorGainDb, compressorStage, thresholdDb, USUAL_COMPRESSOR } from './compressor.ts';
import { equalizerStage } from './equalizerStage.ts';
import { micGainDb, micGainStage, USUAL_MIC_GAIN } from './micGain.ts';
import { microphoneResponseDb } from './microphone.ts';
import { microphoneStage, QUIET_ROOM, VOICE_LEVEL_DB } from './microphoneStage.ts';
import { amStage, fmStage, mirrorStage } from './modulators.ts';
import { parametersOf, USUAL_RADIO } from './parameters.ts';
import { passbandStage, sidebandStage } from './passband.ts';
import { TAPS, Transmitter, transmit, voiceGainDb } from './transmitter.ts';

const RATE = 24000;
const SILENT = { ...QUIET_ROOM, noiseDb: null };
const BARE = { microphone: null, use: null, room: SILENT, seed: 1 };

/** Tones as the analytic signal of one sideband, amplitude each. */
const tones = (hz: readonly number[], amplitude: number, seconds = 1): Complex => {
  const part = (f: (x: number) => number) =>
    Float64Array.from({ length: RATE * seconds }, (_, n) =>
      hz.reduce((sum, each) => sum + amplitude * f((2 * Math.PI * each * n) / RATE), 0),
    );
  return { i: part(Math.cos), q: part(Math.sin) };
};
/** Level of one tone in a signal of whole seconds, dB re magnitude 1. */
function lineDb({ i, q }: Complex, hz: number, from = 0): number {
  let [re, im] = [0, 0];
  for (let n = from; n < i.length; n++) {
    const [c, s] = [Math.cos((2 * Math.PI * hz * n) / RATE), Math.sin((2 * Math.PI * hz * n) / RATE)];
    re += i[n] * c + q[n] * s;
    im += q[n] * c - i[n] * s;
  }
  return amplitudeToDb(Math.hypot(re, im) / (i.length - from));
}
const magnitudes = ({ i, q }: Complex) => i.map((x, n) => Math.hypot(x, q[n]));

describe('mic gain', () => {
  it('is decibels in proportion to the dial, and silence where it is off', () => {
    expect(micGainDb(USUAL_MIC_GAIN, 0.75) - micGainDb(USUAL_MIC_GAIN, 0.25)).toBeCloseTo(USUAL_MIC_GAIN.spanDb / 2);
    expect(
      micGainStage(micGainDb(USUAL_MIC_GAIN, null))
        .push(sine(RATE, 500, 0.1))
        .every((x) => x === 0),
    ).toBe(true);
    expect(amplitudeToDb(rms(micGainStage(-7).push(sine(RATE, 500, 1))))).toBeCloseTo(-7 - 3.0103, 4);
  });
});

describe('the microphone', () => {
  const microphone = {
    format: 'dialtune-microphone',
    version: 1,
    name: 'M',
    kind: 'dynamic',
    pattern: 'cardioid',
    level: 'high',
    distanceCm: 5,
    positions: [{ name: 'flat', curve: [[100, -6], [1000, 0], [3000, 5]] }], // biome-ignore format: a table
    accessories: [],
  } as unknown as Microphone;
  const use = { position: 'flat', accessories: [], distanceCm: 10 };

  it.each([200, 500, 1000, 2000, 3000])('gives a tone of %i Hz its curve, its class and its distance', (hz) => {
    const stage = microphoneStage({ microphone, use, room: SILENT, seed: 1 }, RATE, null);
    const first = stage.push(sine(RATE, hz, 1, 0.1)).slice();
    const whole = Float64Array.from([...first, ...stage.end()]);
    // High output class +12 dB; twice the reference distance -6.02 dB.
    const expected = -20 - 3.01 + 12 - 6.02 + microphoneResponseDb(microphone, use, [hz])[0];
    expect(Math.abs(amplitudeToDb(rms(whole.subarray(4000, 20000))) - expected)).toBeLessThan(0.15);
  });

  it('hears the room, hum and breath at the levels told, the same for the same seed', () => {
    const hear = (room: object, seed = 1) =>
      microphoneStage({ ...BARE, seed, room: { ...SILENT, ...room } }, RATE, null).push(new Float64Array(10 * RATE));
    expect(amplitudeToDb(rms(hear({ noiseDb: -30 })))).toBeCloseTo(VOICE_LEVEL_DB - 30, 0);
    expect(amplitudeToDb(rms(hear({ humDb: -20 })))).toBeCloseTo(VOICE_LEVEL_DB - 20, 2);
    const bursts = hear({ plosivesPerMinute: 30, plosiveDb: 15 });
    const peak = highest(bursts);
    // The swing has died down by exp(-4 / (4 * 35 Hz * 60 ms)) when it peaks.
    expect(amplitudeToDb(peak)).toBeGreaterThan(VOICE_LEVEL_DB + 15 - 5);
    expect(amplitudeToDb(peak)).toBeLessThan(VOICE_LEVEL_DB + 15);
    expect(hear({ noiseDb: -30 })).toEqual(hear({ noiseDb: -30 }));
    expect(hear({ noiseDb: -30 }, 2)).not.toEqual(hear({ noiseDb: -30 }, 1));
  });
});

it('the equalizer is its filters', () => {
  const filter = peaking(RATE, 1000, 6, 1);
  for (const hz of [500, 1000, 2000]) {
    const out = equalizerStage([filter]).push(sine(RATE, hz, 1, 0.1));
    expect(amplitudeToDb(rms(out.subarray(RATE / 2)))).toBeCloseTo(-23.0103 + responseDb(filter, RATE, hz), 2);
  }
});

describe('the compressor', () => {
  const shape = { ...USUAL_COMPRESSOR, compressionDb: 12, ceilingDb: 4 };

  it('has a corner, a ratio above it, and leaves the ceiling where it was', () => {
    expect(compressorGainDb(shape, 4)).toBeCloseTo(0);
    expect(compressorGainDb(shape, thresholdDb(shape) - 10)).toBe(12);
    const [a, b] = [-2, 2].map((level) => level + compressorGainDb(shape, level));
    expect(4 / (b - a)).toBeCloseTo(shape.ratio);
  });

  it.each([-30, -12, -6, 0, 4, 10])('settles on the static curve for a steady tone of peak %i dB', (level) => {
    // A slow release, so that the detector stays at the tone's peak.
    const stage = compressorStage({ ...shape, attackS: 1e-5, releaseS: 5 }, RATE);
    const out = stage.push(sine(RATE, 1000, 2, 10 ** (level / 20)));
    expect(amplitudeToDb(rms(out.subarray(RATE)) * Math.SQRT2)).toBeCloseTo(level + compressorGainDb(shape, level), 1);
    expect(stage.highestDb()).toBeCloseTo(shape.compressionDb - compressorGainDb(shape, level), 1);
  });

  it('comes up again with its release', () => {
    const step = Float64Array.from({ length: 2 * RATE }, (_, n) => (n < RATE ? 1 : 0.001));
    const out = compressorStage(shape, RATE).push(step);
    const detector = Math.exp(-0.1 / shape.releaseS);
    expect(amplitudeToDb(out[RATE + 2400] / 0.001)).toBeCloseTo(compressorGainDb(shape, amplitudeToDb(0.001 + (1 - 0.001) * detector)), 1);
  });
});

describe('the RF clipper', () => {
  it('holds the envelope and keeps what is under it, gain included', () => {
    const clip = clipperStage(10, 4);
    expect(amplitudeToDb(magnitudes(clip.push(tones([1000], 1)))[100])).toBeCloseTo(4);
    expect(amplitudeToDb(magnitudes(clip.push(tones([1000], 0.1)))[100])).toBeCloseTo(-10);
    // A drive of 0 dB, raised by 10, stands 6 over the ceiling of 4.
    expect(clip.highestDb()).toBeCloseTo(6);
  });

  it('raises the mean power of noise at equal peak as the Rayleigh distribution has it', () => {
    // Complex Gaussian noise of mean power s, clipped at power c: mean of min(P, c) = s (1 - exp(-c / s)).
    const drive = 10 ** 0.6;
    const out = clipperStage(6, 0).push({ i: noise(RATE, 20, Math.SQRT1_2, 1), q: noise(RATE, 20, Math.SQRT1_2, 2) });
    const mean = magnitudes(out).reduce((sum, r) => sum + r * r, 0) / out.i.length;
    expect(powerToDb(mean)).toBeCloseTo(powerToDb(drive * (1 - Math.exp(-1 / drive))), 1);
  });
});

describe('the passband', () => {
  const shape = { edgesHz: [300, 2700], transitionHz: 200 } as const;
  const levelOf = (hz: number) => {
    const stage = sidebandStage(shape, RATE, null);
    const out = joinedRadio(stage.push(sine(RATE, hz, 1)), stage.end());
    return amplitudeToDb(magnitudes(out)[12000]);
  };
  it.each([
    [300, -6.02],
    [2700, -6.02],
    [410, 0],
    [1500, 0],
    [2590, 0],
  ])('passes %i Hz at %f dB', (hz, db) => expect(levelOf(hz)).toBeCloseTo(db, 1));
  it.each([190, 2810, 4000])('stops %i Hz', (hz) => expect(levelOf(hz)).toBeLessThan(-75));
  it('is the same filter again behind a clipper', () => {
    const stage = passbandStage(shape, RATE, null);
    const out = joinedRadio(stage.push(tones([1500], 1)), stage.end());
    expect(magnitudes(out)[12000]).toBeCloseTo(1, 3);
  });
});

describe('the ALC', () => {
  it.each([-6, 0, 3, 6, 12, 24])('settles for a steady drive of %i dB, and the meter shows it', (db) => {
    const alc = new Alc(USUAL_ALC, RATE);
    const out = alc.push(tones([1000], 10 ** (db / 20), 2));
    const reduction = alcReductionDb(USUAL_ALC, db);
    expect(amplitudeToDb(magnitudes(out)[2 * RATE - 1])).toBeCloseTo(db - reduction, 3);
    expect(alc.reading().highest).toBeCloseTo(Math.min(1, reduction / USUAL_ALC.scaleDb), 3);
    expect(alc.peakDriveDb()).toBeCloseTo(db, 3);
  });

  it('attacks and releases with its time constants', () => {
    const alc = new Alc(USUAL_ALC, RATE);
    const sizes = magnitudes(alc.push(tones([1000], 2, 1)));
    const settled = alcReductionDb(USUAL_ALC, amplitudeToDb(2));
    const at = (seconds: number) => amplitudeToDb(2) - amplitudeToDb(sizes[Math.round(seconds * RATE) - 1]);
    expect(at(USUAL_ALC.attackS)).toBeCloseTo(settled * (1 - Math.exp(-1)), 1);
    const after = magnitudes(alc.push(tones([1000], 0.1, 1)));
    expect(amplitudeToDb(0.1) - amplitudeToDb(after[RATE / 2 - 1])).toBeCloseTo(settled * Math.exp(-0.5 / USUAL_ALC.releaseS), 1);
  });

  it('reads nothing before anything is said', () => {
    const alc = new Alc(USUAL_ALC, RATE);
    alc.push({ i: new Float64Array(RATE), q: new Float64Array(RATE) });
    expect(alc.reading()).toEqual({ usual: null, highest: null });
  });
});

describe('the amplifier', () => {
  it('saturates as Rapp has it', () => {
    const shape = { saturationDb: 0, smoothness: 2, mostTurn: 0 };
    for (const r of [0.1, 0.5, 1, 1.7, 3]) {
      const [x] = magnitudes(amplifierStage(shape).push({ i: Float64Array.of(r), q: Float64Array.of(0) }));
      expect(x).toBeCloseTo(r / (1 + r ** 4) ** 0.25, 4);
      expect(rappGain(shape, r * r) * r).toBeCloseTo(r / (1 + r ** 4) ** 0.25, 9);
    }
  });

  it('makes third-order products as the series has them: a^2 / (2 A^2) re each tone for p = 1', () => {
    // g = 1 - r^2 / 2A^2 + ...; two tones of amplitude a have r^2 = 2 a^2 (1 + cos), which gives a^3 / 2A^2.
    const a = 0.05;
    const out = amplifierStage({ saturationDb: 0, smoothness: 1, mostTurn: 0 }).push(tones([700, 1900], a));
    expect(lineDb(out, -500) - lineDb(out, 700)).toBeCloseTo(amplitudeToDb((a * a) / 2), 1);
  });

  it('turns the phase as told', () => {
    const shape = { saturationDb: 0, smoothness: 2, mostTurn: 0.4 };
    const { i, q } = amplifierStage(shape).push({ i: Float64Array.of(1), q: Float64Array.of(0) });
    expect(Math.atan2(q[0], i[0])).toBeCloseTo(0.2, 6);
  });

  it('the usual one stands near 30 dB in the two-tone test at full drive', () => {
    const out = amplifierStage(USUAL_AMPLIFIER).push(tones([700, 1900], 0.5));
    const imd = lineDb(out, 3100) - lineDb(out, 1900);
    expect(imd).toBeLessThan(-27);
    expect(imd).toBeGreaterThan(-36);
  });
});

it('the balance leaves carrier and opposite sideband at their levels', () => {
  const out = balanceStage({ carrierDb: -40, oppositeDb: -35 }).push(tones([1000], 0.5));
  expect(lineDb(out, 1000)).toBeCloseTo(amplitudeToDb(0.5), 3);
  expect(lineDb(out, -1000)).toBeCloseTo(amplitudeToDb(0.5) - 35, 3);
  expect(lineDb(out, 0)).toBeCloseTo(-40, 3);
});

describe('the modulators', () => {
  it('AM of full depth: sidebands of 6.02 dB under the carrier, peak 1 (handbook)', () => {
    const { i } = tones([1000], 1);
    const out = amStage().push({ i, q: new Float64Array(i.length) });
    expect(lineDb(out, 1000) - lineDb(out, 0)).toBeCloseTo(-6.02, 2);
    expect(Math.max(...out.i)).toBeCloseTo(1, 6);
  });

  it('FM: the carrier vanishes at index 2.4048 (tables of J0)', () => {
    const stage = fmStage(2.4048 * 500, RATE, null);
    const { i } = tones([500], 1, 2);
    const out = joinedRadio(stage.push({ i, q: i }), stage.end());
    const settled = { i: out.i.subarray(RATE / 2, RATE * 1.5), q: out.q.subarray(RATE / 2, RATE * 1.5) };
    expect(lineDb(settled, 0)).toBeLessThan(-50);
    expect(magnitudes(settled).every((r) => Math.abs(r - 1) < 1e-9)).toBe(true);
  });

  it('LSB is USB mirrored', () => {
    const out = mirrorStage().push(tones([1000], 1));
    expect(lineDb(out, -1000)).toBeCloseTo(0, 6);
  });
});

describe('the whole path', () => {
  const rig = parametricRig(3, { centres: [200, 1000, 2400], levels: [-12, 12, 1], widths: [1, 2] });
  const voice = voiceLike(RATE, 3);
  const gain = voiceGainDb(voice, RATE) ?? 0;
  const parameters = parametersOf(rig, factoryCard(rig, 'usb'));
  const options = { inputRateHz: RATE, voiceGainDb: gain, microphone: { ...BARE, room: QUIET_ROOM } };

  it.each(TAPS)('heard at %s is the same bit by bit for any cut, and keeps time', (upTo) => {
    const driven = { ...parameters, compression: { ...parameters.compression, compressionDb: 10 } };
    const whole = transmit(voice, driven, { ...options, upTo }).signal;
    expect(whole.i.length).toBe(voice.length);
    const cut = new Transmitter(driven, { ...options, upTo });
    let parts: Complex = { i: new Float64Array(0), q: new Float64Array(0) };
    for (let at = 0; at < voice.length; at += 997) parts = joinedRadio(parts, cut.push(voice.subarray(at, at + 997)));
    parts = joinedRadio(parts, cut.end());
    expect(parts.i).toEqual(whole.i);
    expect(parts.q).toEqual(whole.q);
  });

  const EVERY_WAY = TAPS.flatMap((upTo) =>
    [24000, 48000].flatMap((rate) => (['rf', 'audio'] as const).map((kind) => [upTo, rate, kind] as const)),
  );

  it.each(EVERY_WAY)(
    'heard at %s from %i Hz with %s compression, the kernel says what double precision says, to -70 dB',
    (upTo, rate, kind) => {
      const card = { ...factoryCard(rig, 'lsb') };
      const driven = {
        ...parametersOf(rig, card),
        equalizer: [peaking(RATE, 300, -4, 1), peaking(RATE, 900, 3, 1), peaking(RATE, 1500, 2, 2), peaking(RATE, 2400, 6, 1)],
        compression: { kind, compressionDb: 10, ceilingDb: 4 },
        // Far into the bend, beyond the table too.
        amplifier: { saturationDb: -9, smoothness: 1.5, mostTurn: 0 },
      };
      const talk = voiceLike(rate, 2);
      const told = { ...options, inputRateHz: rate, voiceGainDb: gain, upTo };
      const [quick, exact] = [transmit(talk, driven, told), transmit(talk, driven, { ...told, kernel: null })];
      expect(quick.signal.i.length).toBe(exact.signal.i.length);
      const apart = (part: 'i' | 'q') => rms(quick.signal[part].map((x, n) => x - exact.signal[part][n]));
      expect(amplitudeToDb(Math.max(apart('i'), apart('q'), 1e-12) / rms(exact.signal.i))).toBeLessThan(-70);
      expect(quick.transmitter.peakPower).toBeCloseTo(exact.transmitter.peakPower, 4);
      expect(quick.transmitter.alc.reading().highest ?? 0).toBeCloseTo(exact.transmitter.alc.reading().highest ?? 0, 4);
    },
  );

  it('works through audio compressor, AM, FM and LSB as well', () => {
    for (const mode of ['usb', 'lsb', 'am', 'fm'] as const) {
      for (const kind of ['audio', 'rf'] as const) {
        const made = parametersOf(rig, { ...factoryCard(rig), mode });
        const { signal } = transmit(voice, { ...made, compression: { kind, compressionDb: 12, ceilingDb: 4 } }, options);
        expect(signal.i.length).toBe((voice.length * made.rateHz) / RATE);
        expect(magnitudes(signal).every((r) => r < 1.6)).toBe(true);
      }
    }
  });

  it('compression raises the mean at equal peak; the ceiling keeps the ALC in the usual zone', () => {
    const mean = (compressionDb: number) => {
      const { signal, transmitter } = transmit(voice, { ...parameters, compression: { kind: 'rf', compressionDb, ceilingDb: 4 } }, options);
      const powers = magnitudes(signal)
        .map((r) => r * r)
        .sort();
      const peak = powers[Math.floor(0.999 * powers.length)];
      return { ratio: powerToDb(powers.reduce((a, b) => a + b, 0) / powers.length / peak), alc: transmitter.alc.reading() };
    };
    const [none, some] = [mean(0), mean(12)];
    expect(some.ratio - none.ratio).toBeGreaterThan(2);
    expect(some.alc.usual).toBeGreaterThan(0.2);
    expect(some.alc.usual).toBeLessThan(0.5);
  });

  it('a dead dial does nothing in the sound either, a live one does', () => {
    const card = factoryCard(rig, 'usb');
    const level = rig.dials.find(({ stage, unit }) => stage === 'equalizer' && unit === 'dB') ?? rig.dials[0];
    const moved = { ...card, values: { ...card.values, [level.id]: 6 } };
    expect(parametersOf(rig, moved).equalizer).not.toEqual(parameters.equalizer);
    const dead = { ...rig, dials: rig.dials.map((dial) => (dial.id === level.id ? { ...dial, modes: ['fm' as const] } : dial)) };
    expect(parametersOf(dead, moved).equalizer).toEqual(parametersOf(dead, card).equalizer);
  });

  it('the sound of what the dial says, off by what the radio is off', () => {
    const off = { ...USUAL_RADIO, passband: { ...USUAL_RADIO.passband, errorHz: [40, -100] as const } };
    const [low, high] = parameters.passband.edgesHz;
    expect(parametersOf(rig, factoryCard(rig, 'usb'), off).passband.edgesHz).toEqual([low + 40, high - 100]);
    const dial = rig.dials[0];
    expect(shareOf({ ...dial, scale: { kind: 'steps', min: -10, max: 10, step: 1 } }, 5)).toBe(0.75);
    expect(shareOf({ ...dial, scale: { kind: 'options', options: ['a', 'b', 'c'] } }, 'b')).toBe(0.5);
  });
});
