/** The parts of the voice measurement by themselves, against signals made from formulas. */
import { describe, expect, it } from 'vitest';
import { feedInKernel, join, mix, noise, silence, sine, sourceOf, testKernel, voiceLike } from '../../../tests/support/signals.ts';
import { LONG_TERM_SPEECH } from '../curve/longTermSpeech.ts';
import { LowBand } from '../dsp/meter/pitch.ts';
import type { Spectrum } from '../dsp/spectrum/spectrum.ts';
import { powerToDb } from '../units/conversions.ts';
import { occupiedBand, occupiedVoiceBand, passbandAgainst } from './passband.ts';
import { HumMeter } from './voice/hum.ts';
import { PlosiveMeter } from './voice/plosives.ts';
import { speechSpectrum } from './voice/voice.ts';
import { VoiceLevels } from './voice/voiceLevels.ts';

const RATE = 16000;

/** A flat spectrum with other densities in some ranges. */
function shaped(binHz: number, bins: number, level: (hz: number) => number): Spectrum {
  return { binHz, firstHz: 0, density: Float64Array.from({ length: bins }, (_, k) => level(k * binHz)) };
}

describe('hum', () => {
  const room = noise(RATE, 8, 0.0005);
  const talk = voiceLike(RATE, 8, { pitchHz: 137 });
  const humOf = (samples: Float64Array) => {
    const kernel = testKernel();
    const low = new LowBand(kernel, RATE);
    const meter = new HumMeter(kernel, low.thinnedRateHz);
    feedInKernel(kernel, { push: (block) => meter.push(low.thinned(low.push(block))) }, samples);
    return meter.result();
  };
  const lines = (hz: readonly number[], amplitude = 0.003) => mix(...hz.map((each) => sine(RATE, each, 8, amplitude)));

  it.each([
    [50, [50, 100]],
    // 150 Hz would stand beside the voice's own 137 Hz.
    [50, [50, 200, 250]],
    [60, [60, 120, 180]],
    [60, [120, 240]],
  ])('of %i Hz by its lines at %j, through talk and pauses', (mains, hz) => {
    const hum = humOf(mix(room, talk, lines(hz)));
    expect(hum?.mainsHz).toBe(mains);
    for (const each of hz) expect(hum?.lines).toContain(each);
    expect(powerToDb(hum?.power ?? 0)).toBeCloseTo(powerToDb((hz.length * 0.003 ** 2) / 2), -0.5);
  });

  it('is not one line alone, be it of the series or beside it', () => {
    for (const hz of [60, 437, 540]) expect(humOf(mix(room, talk, lines([hz])))).toBeNull();
  });

  it('is not found in noise, nor in a voice that keeps to 120 Hz', () => {
    expect(humOf(room)).toBeNull();
    expect(humOf(mix(room, talk))).toBeNull();
    expect(humOf(mix(room, voiceLike(RATE, 8, { pitchHz: 120 })))).toBeNull();
  });

  it('is not what is there in the pauses only', () => {
    const gated = lines([60, 120]).map((x, n) => (talk[n] === 0 ? x : 0));
    expect(humOf(mix(room, talk, gated))).toBeNull();
  });
});

describe('levels of a voice', () => {
  const RATE_HZ = 44_100;
  const levelsOf = (samples: Float64Array, isCodes = false) => {
    const kernel = testKernel();
    const fullScale = { positive: 1 - 2 ** -15, negative: -1 };
    const levels = new VoiceLevels(kernel, { sampleRateHz: RATE_HZ, codeStep: 2 ** -15, fullScale, channels: 1 });
    for (let at = 0; at < samples.length; at += levels.blockSamples) {
      const part = samples.subarray(at, at + levels.blockSamples);
      // As it is read: a whole block as codes, a last shorter one as floats.
      const room = kernel.take(part.length);
      if (isCodes && part.length === levels.blockSamples) kernel.codes(room).set(part.map((x) => Math.round(x * 32_768)));
      else kernel.floats(room).set(part);
      levels.push({ address: room.address, count: part.length, isCodes: isCodes && part.length === levels.blockSamples }, null);
    }
    return levels.result();
  };

  it('a last frame that is not whole counts only when it is the only one', () => {
    const frame = 0.05 * RATE_HZ;
    const tone = (samples: number) => sine(RATE_HZ, 500, 1, 0.5).slice(0, samples);
    for (const [samples, frames] of [
      [2 * frame, 2],
      [2 * frame - 10, 1],
      [frame + 10, 1],
      [frame - 10, 1],
    ]) {
      const { powers } = levelsOf(tone(samples)).frames;
      expect([samples, powers.length]).toEqual([samples, frames]);
      expect(powers[0]).toBeCloseTo(0.125, 3);
    }
  });

  it.each([
    ['tops', 1],
    ['bottoms', -1],
  ])('flat %s alone are found, and samples at full scale counted, in codes as in floats', (_, sign) => {
    const voice = voiceLike(RATE_HZ, 4, { level: 0.3 });
    const most = voice.reduce((top, x) => Math.max(top, Math.abs(x)), 0);
    const flat = voice.map((x) => sign * 0.8 * Math.min(0.5 * most, sign * x));
    const clipped = voice.map((x) => (sign * Math.min(0.5 * most, sign * x)) / (0.5 * most));
    const own = levelsOf(voice.map((x) => 0.8 * x)).flatTops.tops;
    for (const isCodes of [false, true]) {
      const found = levelsOf(flat, isCodes);
      expect(found.flatTops.tops).toBeGreaterThan(own + 10);
      expect(found.clipping[0].clipped).toBe(0);
      expect(levelsOf(clipped, isCodes).clipping[0].clipped).toBeGreaterThan(20);
    }
  });
});

describe('occupied band (ITU-R SM.328)', () => {
  it('of flat noise of width B holds 0.99 B in its middle', () => {
    const flat = shaped(5, 1301, (hz) => (hz >= 1000 && hz <= 3000 ? 1 : 0));
    const [low, high] = occupiedBand(flat, 50, 6500, 0.99) ?? [0, 0];
    // The bins at the edges reach half a bin out: 2005 Hz.
    expect((high - low) / 2005).toBeCloseTo(0.99, 3);
    expect((low + high) / 2).toBeCloseTo(2000, 3);
  });

  it('halves a triangle where its area halves', () => {
    const triangle = shaped(1, 1001, (hz) => hz);
    const [low, high] = occupiedBand(triangle, 0, 1000, 0.5) ?? [0, 0];
    // A quarter of the area lies below sqrt(1/4), three quarters below sqrt(3/4).
    expect(low / 1000).toBeCloseTo(Math.sqrt(0.25), 2);
    expect(high / 1000).toBeCloseTo(Math.sqrt(0.75), 2);
  });

  it('is looked for between 50 and 6500 Hz, and is nothing in nothing', () => {
    const rumble = shaped(5, 2001, (hz) => (hz < 40 ? 1e6 : 1));
    expect(occupiedVoiceBand(rumble)?.[0]).toBeGreaterThan(50);
    expect(occupiedVoiceBand(rumble)?.[1]).toBeLessThan(6500);
    expect(occupiedVoiceBand(shaped(5, 2001, () => 0))).toBeNull();
  });
});

describe('passband against a reference', () => {
  const studio = shaped(5, 1601, () => 1);

  it('stands where the ratio is 6 dB under its middle, whatever the level', () => {
    for (const gain of [1, 1e-6, 1e4]) {
      // 40 dB an octave beyond 300 and 2700 Hz: 6 dB down a tenth of an octave further out.
      const sent = shaped(5, 1601, (hz) => gain * (hz < 300 ? (hz / 300) ** 13.3 : hz > 2700 ? (2700 / hz) ** 13.3 : 1));
      const edges = passbandAgainst(sent, studio);
      expect(edges?.[0]).toBeCloseTo(300 * 10 ** (-0.6 / 13.3), -1);
      expect(edges?.[1]).toBeCloseTo(2700 * 10 ** (0.6 / 13.3), -1);
    }
  });

  it('walks out from 1 kHz: a notch in between ends it, a hump beyond does not count', () => {
    const notched = shaped(5, 1601, (hz) => (hz > 1500 && hz < 1700 ? 0.01 : hz > 2700 && hz < 3500 ? 0.001 : 1));
    expect(passbandAgainst(notched, studio)?.[1]).toBeCloseTo(1500, -2);
  });

  it('has no edge where the ratio never falls, up to 6 kHz', () => {
    expect(passbandAgainst(studio, studio)).toEqual([null, null]);
    const late = shaped(5, 1601, (hz) => (hz > 6500 ? 0 : 1));
    expect(passbandAgainst(late, studio)?.[1]).toBeNull();
  });

  it('is nothing when the two have nothing in common', () => {
    expect(
      passbandAgainst(
        shaped(5, 1601, () => 0),
        studio,
      ),
    ).toBeNull();
  });
});

describe('plosives', () => {
  const pop = (amplitude: number) => join(sine(RATE, 25, 0.12, amplitude), silence(RATE, 0.88));
  const meter = (samples: Float64Array) => {
    const kernel = testKernel();
    return feedInKernel(kernel, new PlosiveMeter(kernel, RATE), samples, [3000]);
  };

  it('are counted once each', () => {
    const three = mix(join(pop(0.5), pop(0.5), pop(0.5)), noise(RATE, 3, 1e-4));
    expect(meter(three).pops(-20)).toBe(3);
  });

  it('must be about as loud as the talk', () => {
    expect(meter(mix(pop(0.01), noise(RATE, 1, 1e-5))).pops(-20)).toBe(0);
  });

  it('a low voice does not pop', () => {
    expect(meter(voiceLike(RATE, 6, { pitchHz: 85 })).pops(-20)).toBe(0);
  });
});

describe('long-term speech', () => {
  it('falls from 500 Hz to 4 kHz by about 16 dB (Byrne et al. 1994, from memory) and adds up to 70 dB', () => {
    const level = (hz: number) => LONG_TERM_SPEECH.find(([at]) => at === hz)?.[1] ?? 0;
    expect(level(500) - level(4000)).toBeCloseTo(16.5, 1);
    // The bands above 4 kHz that the table leaves out hold little.
    const total = powerToDb(LONG_TERM_SPEECH.reduce((sum, [, db]) => sum + 10 ** (db / 10), 0));
    expect(Math.abs(total - 70)).toBeLessThan(1);
  });

  it('has a point for each third octave of the measurement', () => {
    expect(LONG_TERM_SPEECH).toHaveLength(17);
  });
});

describe('speech spectrum', () => {
  it('is that of the active part alone', async () => {
    const talk = sine(RATE, 1000, 2, 0.1);
    const gaps = join(talk, silence(RATE, 3), talk);
    const power = async (samples: Float64Array) => {
      const spectrum = await speechSpectrum(await sourceOf(RATE, [samples]));
      return spectrum ? spectrum.density.reduce((a, b) => a + b) * spectrum.binHz : 0;
    };
    expect(powerToDb(await power(gaps))).toBeCloseTo(powerToDb(await power(talk)), 0);
    expect(await speechSpectrum(await sourceOf(RATE, [silence(RATE, 1)]))).toBeNull();
  });
});
