import { describe, expect, it } from 'vitest';
import {
  feed,
  feedInKernel,
  highest,
  join,
  mix,
  noise,
  rms,
  scaled,
  silence,
  sine,
  testKernel,
  voiceLike,
} from '../../../tests/support/signals.ts';
import { amplitudeToDb, dbToAmplitude, dbToPower, octavesAbove, octavesToQ, powerToDb, qToOctaves } from '../units/conversions.ts';
import {
  BiquadChain,
  cascadeDb,
  highPass,
  highShelf,
  inverseBiquad,
  lowPass,
  lowShelf,
  peaking,
  peakingQ,
  responseDb,
} from './filter/biquad.ts';
import { bandPassTaps, filterCentred } from './filter/fir.ts';
import { ActiveSpeechMeter } from './meter/activeSpeechLevel.ts';
import { ClippingMeter, clippedShare, FlatTopMeter } from './meter/clipping.ts';
import { FrameLevels } from './meter/frameMeter.ts';
import { kWeighting, LoudnessMeter } from './meter/loudness.ts';
import { LowBand, PitchFinder } from './meter/pitch.ts';
import { bandPowers, slidingThirdOctaves, thirdOctave, twelfthsOf, VOICE_THIRD_OCTAVES, VOICE_TWELFTH_OCTAVES } from './spectrum/bands.ts';
import { bandPower, highestHz, SpectrumAverager } from './spectrum/spectrum.ts';
import { hann } from './spectrum/window.ts';
import { gaussian, seededRandom } from './statistics/random.ts';
import { mean, median, percentile, percentileOf, rising, slope, weightedMean } from './statistics/statistics.ts';

const UNEVEN = [1, 777, 64, 4096, 13];
const RATE = 48000;

describe('conversions', () => {
  it('go back and forth', () => {
    for (const db of [-120, -6.02, 0, 3.3, 40]) {
      expect(powerToDb(dbToPower(db))).toBeCloseTo(db, 10);
      expect(amplitudeToDb(dbToAmplitude(db))).toBeCloseTo(db, 10);
    }
    expect(octavesAbove(800, 100)).toBe(3);
  });

  it('turns octaves into Q (analogue prototype: Q = 2^(N/2)/(2^N - 1); table of the Audio EQ Cookbook note)', () => {
    for (const [octaves, q] of [
      [1 / 3, 4.318],
      [1, 1.414],
      [2, 0.667],
      [8, 0.063],
    ]) {
      expect(octavesToQ(octaves)).toBeCloseTo(q, 3);
      expect(qToOctaves(octavesToQ(octaves))).toBeCloseTo(octaves, 10);
    }
  });
});

describe('Hann window', () => {
  it('has a noise bandwidth of 1.50 bins and 1.42 dB scalloping (F. Harris 1978)', () => {
    const window = hann(1024);
    const sum = window.reduce((a, b) => a + b);
    const squares = window.reduce((a, b) => a + b * b, 0);
    expect((1024 * squares) / sum ** 2).toBeCloseTo(1.5, 6);
    let re = 0;
    let im = 0;
    window.forEach((w, n) => {
      re += w * Math.cos((Math.PI * n) / 1024);
      im -= w * Math.sin((Math.PI * n) / 1024);
    });
    expect(amplitudeToDb(Math.hypot(re, im) / sum)).toBeCloseTo(-1.42, 2);
  });
});

describe('averaged spectrum', () => {
  const average = (samples: Float64Array, sizes?: readonly number[]) => {
    const [spectrum] = feed(
      new SpectrumAverager({ sampleRateHz: RATE, size: 8192, averages: 1, weigh: () => [1] }),
      samples,
      sizes,
    ).result();
    if (!spectrum) throw new Error('no spectrum');
    return spectrum;
  };

  it('holds the power of a tone and of noise', () => {
    const tone = average(sine(RATE, 1000, 2, 0.5));
    expect(powerToDb(bandPower(tone, 900, 1100))).toBeCloseTo(powerToDb(0.125), 2);
    const white = average(noise(RATE, 4, 0.1));
    expect(powerToDb(bandPower(white, 0, highestHz(white)) / 0.01)).toBeCloseTo(0, 1);
  });

  it('does not depend on how the stream is cut', () => {
    const samples = noise(RATE, 1, 0.1);
    const whole = average(samples, [samples.length]);
    const cut = average(samples, UNEVEN);
    cut.density.forEach((value, k) => {
      expect(value).toBe(whole.density[k]);
    });
  });

  it('cuts edge bins in proportion: adjoining bands add up', () => {
    const white = average(noise(RATE, 1, 0.1));
    const parts = bandPower(white, 301.3, 733.7) + bandPower(white, 733.7, 1999.9);
    expect(parts).toBeCloseTo(bandPower(white, 301.3, 1999.9), 12);
    expect(bandPower(white, 500, 400)).toBe(0);
  });

  it('measures a stream shorter than one window', () => {
    const short = average(sine(RATE, 1000, 0.05, 0.5));
    expect(powerToDb(bandPower(short, 500, 1500))).toBeCloseTo(powerToDb(0.125), 0);
  });

  it('averages only what has weight', () => {
    const samples = join(sine(RATE, 500, 1, 0.1), sine(RATE, 2000, 1, 0.1));
    const half = samples.length / 2;
    const averager = new SpectrumAverager({
      sampleRateHz: RATE,
      size: 4096,
      averages: 3,
      weigh: (start, length) => [start + length <= half ? 1 : 0, start >= half ? 1 : 0, 0],
    });
    const [first, second, none] = feed(averager, samples).result();
    expect(none).toBeNull();
    if (!first || !second) throw new Error('no spectrum');
    expect(bandPower(first, 400, 600)).toBeCloseTo(0.005, 6);
    expect(bandPower(first, 1900, 2100)).toBeLessThan(1e-9);
    expect(bandPower(second, 1900, 2100)).toBeCloseTo(0.005, 6);
  });
});

describe('fractional octaves (IEC 61260-1, base 10)', () => {
  it('have centres 1000 * 10^(n/10)', () => {
    expect(VOICE_THIRD_OCTAVES).toHaveLength(17);
    VOICE_THIRD_OCTAVES.forEach(({ centreHz }, i) => {
      expect(centreHz).toBeCloseTo(1000 * 10 ** ((i - 10) / 10), 6);
    });
  });

  it('join without gaps, and four twelfths make a third', () => {
    VOICE_TWELFTH_OCTAVES.slice(1).forEach(({ lowHz }, i) => {
      expect(lowHz).toBeCloseTo(VOICE_TWELFTH_OCTAVES[i].highHz, 8);
    });
    const third = thirdOctave(0);
    const parts = twelfthsOf(third);
    expect(parts[0].lowHz).toBeCloseTo(third.lowHz, 8);
    expect(parts[3].highHz).toBeCloseTo(third.highHz, 8);
  });

  it('rise 1 dB a band for white noise (arithmetic)', () => {
    const [spectrum] = feed(
      new SpectrumAverager({ sampleRateHz: RATE, size: 8192, averages: 1, weigh: () => [1] }),
      noise(RATE, 20, 0.1),
    ).result();
    const powers = bandPowers(spectrum ?? { binHz: 1, firstHz: 0, density: new Float64Array(2) }, VOICE_THIRD_OCTAVES).map((power) =>
      powerToDb(power ?? 0),
    );
    expect(
      slope(
        powers.map((_, i) => i),
        powers,
      ),
    ).toBeCloseTo(1, 1);
  });

  it('are unknown past the end of the spectrum', () => {
    const powers = bandPowers({ binHz: 8, firstHz: 0, density: new Float64Array(251).fill(1) }, VOICE_THIRD_OCTAVES);
    expect(powers[13]).toBeNull();
    expect(powers[0]).toBeGreaterThan(0);
  });

  it('slide smoothly: a flat row stays flat but for its level', () => {
    for (const power of slidingThirdOctaves(new Array(12).fill(2))) expect(power).toBe(8);
    expect(slidingThirdOctaves([1, 1, null, 1, 1, 1, 1])[0]).toBeNull();
  });
});

describe('filters (Audio EQ Cookbook)', () => {
  it('peaking 1 kHz, Q 1, +6 dB at 48 kHz gives 1.879 dB at 500 Hz and 1.866 dB at 2 kHz (read off Chromium)', () => {
    const bell = peakingQ(RATE, 1000, 6, 1);
    expect(responseDb(bell, RATE, 500)).toBeCloseTo(1.879, 3);
    expect(responseDb(bell, RATE, 2000)).toBeCloseTo(1.866, 3);
    expect(responseDb(bell, RATE, 1000)).toBeCloseTo(6, 9);
  });

  it('bells have half their gain at the edges of their width', () => {
    for (const octaves of [0.5, 1, 2]) {
      const low = 1000 * 2 ** (-octaves / 2);
      expect(responseDb(peaking(RATE, 1000, 8, octaves), RATE, low)).toBeCloseTo(4, 1);
    }
  });

  it('shelves, low-pass and high-pass stand where they should', () => {
    expect(responseDb(lowShelf(RATE, 300, 6), RATE, 300)).toBeCloseTo(3, 6);
    expect(responseDb(lowShelf(RATE, 300, 6), RATE, 20)).toBeCloseTo(6, 1);
    expect(responseDb(highShelf(RATE, 2000, -6), RATE, 2000)).toBeCloseTo(-3, 6);
    expect(responseDb(highShelf(RATE, 2000, -6), RATE, 20000)).toBeCloseTo(-6, 1);
    expect(responseDb(lowPass(RATE, 1000), RATE, 1000)).toBeCloseTo(-3.01, 2);
    expect(responseDb(highPass(RATE, 1000), RATE, 1000)).toBeCloseTo(-3.01, 2);
  });

  it('a cut is the mirror of the boost', () => {
    for (const hz of [100, 700, 3000]) {
      expect(responseDb(peaking(RATE, 700, 9, 1.3), RATE, hz)).toBeCloseTo(-responseDb(peaking(RATE, 700, -9, 1.3), RATE, hz), 9);
      expect(responseDb(lowShelf(RATE, 700, 9), RATE, hz)).toBeCloseTo(-responseDb(lowShelf(RATE, 700, -9), RATE, hz), 9);
    }
  });

  it('are undone by their inverse', () => {
    const bell = peaking(RATE, 700, 9, 1.3);
    for (const hz of [100, 700, 3000]) expect(cascadeDb([bell, inverseBiquad(bell)], RATE, hz)).toBeCloseTo(0, 9);
    const samples = noise(RATE, 0.1, 0.1);
    const through = new BiquadChain([bell, inverseBiquad(bell)]).process(samples.slice());
    through.forEach((x, n) => {
      expect(x).toBeCloseTo(samples[n], 9);
    });
  });

  it('work on streams, however cut, and do what their response says', () => {
    const filters = [peaking(RATE, 1000, 6, 1), lowShelf(RATE, 200, -4)];
    const samples = sine(RATE, 1000, 1, 0.1);
    const whole = new BiquadChain(filters).process(samples.slice());
    const chain = new BiquadChain(filters);
    const cut: number[] = [];
    for (let at = 0; at < samples.length; at += 777) cut.push(...chain.process(samples.slice(at, at + 777)));
    expect(cut).toEqual([...whole]);
    const gain = amplitudeToDb(rms(whole.subarray(RATE / 2)) / rms(samples.subarray(RATE / 2)));
    expect(gain).toBeCloseTo(cascadeDb(filters, RATE, 1000), 3);
  });

  it('linear-phase band-pass is -6 dB at its edges and keeps time', () => {
    const taps = bandPassTaps(RATE, 300, 2700, 801);
    const level = (hz: number) => amplitudeToDb(rms(filterCentred(sine(RATE, hz, 0.3), taps).subarray(4000, 10000)) * Math.SQRT2);
    expect(level(1000)).toBeCloseTo(0, 1);
    expect(level(300)).toBeCloseTo(-6.02, 0);
    expect(level(100)).toBeLessThan(-40);
    const click = silence(RATE, 0.1);
    click[2000] = 1;
    const out = filterCentred(click, taps);
    expect(out.indexOf(Math.max(...out))).toBe(2000);
  });
});

describe('active speech level (ITU-T P.56 method B)', () => {
  const measure = (samples: Float64Array, sizes?: readonly number[]) => feed(new ActiveSpeechMeter(RATE), samples, sizes).result();

  it('is -3.01 dB and 100 % for a steady full-scale sine (P.56)', () => {
    const { levelDb, activity } = measure(sine(RATE, 1000, 5));
    expect(levelDb).toBeCloseTo(-3.01, 1);
    expect(activity).toBeGreaterThan(0.99);
  });

  it('leaves long pauses out: level stays, activity halves', () => {
    const burst = join(sine(RATE, 1000, 4, 0.5), silence(RATE, 4));
    const { levelDb, activity } = measure(join(burst, burst));
    expect(levelDb).toBeCloseTo(amplitudeToDb(0.5) - 3.01, 0);
    // Each burst is held for 200 ms, after the time its envelope (30 ms, twice) takes to fall by the margin of 15.9 dB.
    expect(activity).toBeGreaterThan((8 + 2 * 0.2) / 16);
    expect(activity).toBeLessThan((8 + 2 * (0.2 + 0.03 * 5)) / 16);
  });

  it('follows gain exactly and does not depend on how the stream is cut', () => {
    const samples = voiceLike(RATE, 4);
    const whole = measure(samples, [samples.length]);
    expect(measure(samples, UNEVEN)).toEqual(whole);
    const quieter = measure(scaled(samples, 0.25));
    expect((quieter.levelDb ?? 0) - (whole.levelDb ?? 0)).toBeCloseTo(amplitudeToDb(0.25), 1);
  });

  it('has no level in digital silence', () => {
    expect(measure(silence(RATE, 1))).toEqual({ levelDb: null, activity: null });
  });
});

describe('loudness (ITU-R BS.1770)', () => {
  const measure = (rate: number, samples: Float64Array, sizes?: readonly number[]) => {
    const kernel = testKernel();
    return feedInKernel(kernel, new LoudnessMeter(kernel, rate, Math.round(rate / 10)), samples, sizes).result();
  };

  it.each([8000, 12000, 44100, 48000, 96000, 192000])('is -3.01 LUFS for a 997 Hz full-scale sine at %i Hz', (rate) => {
    expect(measure(rate, sine(rate, 997, 3))).toBeCloseTo(-3.01, 1);
  });

  it.each([8000, 16000, 20000, 22050, 24000, 32000, 44100, 96000])('is weighted at %i Hz by the curve printed for 48 kHz', (rate) => {
    const printed = kWeighting(48000);
    const weights = kWeighting(rate);
    // Near half the rate a filter of two poles can't follow.
    for (const hz of [20, 38, 100, 500, 1000, 1700, 2500, 3500, 5000, 7000].filter((each) => each < 0.4 * rate)) {
      expect(Math.abs(cascadeDb(weights, rate, hz) - cascadeDb(printed, 48000, hz))).toBeLessThan(rate < 10_000 ? 0.02 : 0.01);
    }
  });

  it('gates pauses out and does not depend on how the stream is cut', () => {
    const talk = sine(RATE, 997, 5, 0.1);
    const alone = measure(RATE, talk) ?? 0;
    // 47 whole blocks, and three that reach 3/4, 1/2 and 1/4 into the talk; the last is gated out no more than they are.
    expect(measure(RATE, join(talk, silence(RATE, 10)))).toBeCloseTo(alone + powerToDb((47 + 1.5) / 50), 2);
    expect(measure(RATE, talk, UNEVEN)).toBe(alone);
  });

  it('is unknown when too short or too quiet', () => {
    expect(measure(RATE, sine(RATE, 997, 0.2))).toBeNull();
    expect(measure(RATE, sine(RATE, 997, 2, 1e-5))).toBeNull();
  });
});

describe('clipping', () => {
  const share = (samples: number[], sizes: readonly number[] = [99]) =>
    clippedShare([feed(new ClippingMeter({ positive: 0.999, negative: -1 }), Float64Array.from(samples), sizes)]);

  it('counts runs of two or more of one polarity', () => {
    expect(share([0, 1, 0, 1, 0])).toBe(0);
    expect(share([0, 1, 1, 0])).toBe(0.5);
    expect(share([1, -1, 1, -1])).toBe(0);
    expect(share([-1, -1, -1, 0.5])).toBe(0.75);
    expect(share([])).toBe(0);
  });

  it('sees runs across blocks', () => {
    expect(share([0, 1, 1, 1, 0, 0], [2])).toBe(0.5);
  });

  it('finds flat tops of a clipped and turned-down voice, none in a clean one', () => {
    const voice = voiceLike(RATE, 3, { level: 0.3 });
    const top = highest(voice);
    const clipped = voice.map((x) => 0.4 * Math.max(-0.5 * top, Math.min(0.5 * top, x)));
    const tops = (samples: Float64Array, step = 0) => {
      const meter = new FlatTopMeter(step);
      feed(
        {
          push: (block) => {
            const [above, below] = meter.limits;
            const [isHigh, isLow] = [block.some((x) => x >= above), block.some((x) => x <= below)];
            if (isHigh || isLow) meter.push(Float32Array.from(block), isHigh, isLow);
            else meter.pass();
          },
        },
        samples,
      );
      return meter.result().tops;
    };
    expect(tops(clipped)).toBeGreaterThan(20);
    expect(tops(voice)).toBeLessThan(3);
    // In 8 bits, 20 codes high, every top is flat; 120 codes high a clipped one is still found.
    const coarse = (samples: Float64Array, codes: number) => {
      const scale = codes / highest(samples);
      return samples.map((x) => Math.round(scale * x) / 128);
    };
    expect(tops(coarse(voice, 20), 1 / 128)).toBe(0);
    expect(tops(coarse(clipped, 120), 1 / 128)).toBeGreaterThan(20);
  });
});

describe('frames', () => {
  it('are 50 ms, active within 25 dB of the loudest', () => {
    const samples = join(sine(RATE, 1000, 0.5, 1), sine(RATE, 1000, 0.5, 0.06), sine(RATE, 1000, 0.5, 0.05), silence(RATE, 0.5));
    const frame = RATE / 20;
    const power = (k: number) => samples.subarray(k * frame, (k + 1) * frame).reduce((sum, x) => sum + x * x, 0) / frame;
    const levels = new FrameLevels(
      Array.from({ length: 40 }, (_, k) => power(k)),
      frame,
      highest(samples),
    );
    expect(levels.powers[3]).toBeCloseTo(0.5, 6);
    expect(levels.active[12]).toBe(true);
    expect(levels.active[25]).toBe(false);
    expect(levels.activeShare(0, RATE)).toBe(1);
    expect(levels.peakDb).toBeCloseTo(0, 3);
  });
});

describe('pitch', () => {
  /** Median over frames one after the other; null where fewer than a tenth have one. */
  const measure = (samples: Float64Array, rate = RATE) => {
    const kernel = testKernel();
    const low = new LowBand(kernel, rate);
    const finder = new PitchFinder(kernel, low.sampleRateHz);
    const found: (number | null)[] = [];
    feedInKernel(
      kernel,
      {
        push(block) {
          const { address, count } = low.push(block);
          for (let at = 0; at + finder.size <= count; at += finder.size) found.push(finder.pitchOf(address + 4 * at));
        },
      },
      samples,
      [rate],
    );
    const voiced = found.flatMap((hz) => (hz === null ? [] : [hz]));
    return voiced.length < found.length / 10 ? null : median(voiced);
  };

  it.each([75, 110, 196, 260, 340])('finds %i Hz in a harmonic tone', (hz) => {
    const tone = mix(...[1, 2, 3, 4, 5].map((k) => sine(RATE, k * hz, 1, 0.1 / k, k)));
    expect(Math.abs((measure(tone) ?? 0) / hz - 1)).toBeLessThan(0.01);
  });

  it('finds it without the fundamental, as behind a 300 Hz transmit filter', () => {
    const tone = mix(...[3, 4, 5, 6].map((k) => sine(RATE, 110 * k, 1, 0.1, k)));
    expect(measure(tone)).toBeCloseTo(110, 0);
  });

  it.each([8000, 12000, 44100, 96000])('works at %i Hz', (rate) => {
    const tone = mix(...[1, 2, 3, 4].map((k) => sine(rate, 150 * k, 1, 0.1, k)));
    expect(measure(tone, rate)).toBeCloseTo(150, 0);
  });

  it('is unknown for noise', () => {
    expect(measure(noise(RATE, 2, 0.1))).toBeNull();
  });
});

describe('statistics', () => {
  it('interpolate between ranks as numpy does', () => {
    expect(percentile([4, 1, 3, 2], 50)).toBe(2.5);
    expect(percentile([1, 2, 3, 4, 5], 10)).toBeCloseTo(1.4, 12);
    const powers = rising([1000, 10, 100]);
    expect([0, 25, 100].map((percent) => percentileOf(powers, percent))).toEqual([10, 55, 1000]);
    expect([0, 25, 100].map((percent) => percentileOf(powers, percent, powerToDb))).toEqual([10, 15, 30]);
    expect(median([7])).toBe(7);
    expect(mean([1, 2, 6])).toBe(3);
    expect(weightedMean([1, 5], [3, 1])).toBe(2);
    expect(slope([0, 1, 2], [1, 3, 5])).toBe(2);
  });

  it('seeded randomness repeats and is evenly spread', () => {
    const a = seededRandom(7);
    const b = seededRandom(7);
    const values = Array.from({ length: 2000 }, () => a());
    expect(values.slice(0, 5)).toEqual(Array.from({ length: 5 }, () => b()));
    expect(mean(values)).toBeCloseTo(0.5, 1);
    const normal = gaussian(seededRandom(1));
    const draws = Float64Array.from({ length: 5000 }, () => normal());
    expect(rms(draws)).toBeCloseTo(1, 1);
  });
});
