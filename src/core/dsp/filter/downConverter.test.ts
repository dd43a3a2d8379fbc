/** Channels, resampling, sweeps and counting: each against what its formula says. */
import { describe, expect, it } from 'vitest';
import { interleaved, noise, rms, sine } from '../../../../tests/support/signals.ts';
import { amplitudeToDb } from '../../units/conversions.ts';
import { createKernel } from '../kernel/kernel.ts';
import { PairBlock } from '../kernel/pairBlock.ts';
import { analytic } from '../signals/analytic.ts';
import { exponentialSweep, growthSeconds, linearChirp } from '../signals/sweep.ts';
import { TEST_SIGNALS, testSignal } from '../signals/testSignals.ts';
import { SpectrogramBuilder } from '../spectrum/spectrogram.ts';
import { forwardTransform, inverseTransform, timesConjugate } from '../spectrum/transform.ts';
import { LinearCounter } from '../statistics/quantiles.ts';
import { percentile } from '../statistics/statistics.ts';
import { shifted } from '../stream/complex.ts';
import { DownConverter } from './downConverter.ts';
import { lowPassTaps } from './kaiser.ts';
import { atRate, resampled } from './resample.ts';

const kernelOf = () => {
  const kernel = createKernel();
  if (!kernel) throw new Error('no kernel');
  return kernel;
};
const tone = (rate: number, hz: number, seconds: number) => ({ i: sine(rate, hz, seconds, 1, Math.PI / 2), q: sine(rate, hz, seconds) });

function throughChannel(
  rate: number,
  hz: number,
  blockSize: number,
  shape = { centreHz: 0, halfWidthHz: 5000, transitionHz: 1000, leastRateHz: 16000 },
) {
  const kernel = kernelOf();
  const channel = new DownConverter(kernel, { sampleRateHz: rate, ...shape });
  const block = new PairBlock(kernel);
  const { i, q } = tone(rate, hz, 0.2);
  const pairs = interleaved(i, q);
  const out = { i: [] as number[], q: [] as number[] };
  for (let at = 0; at < pairs.length; at += 2 * blockSize) {
    block.load(pairs.subarray(at, at + 2 * blockSize));
    const got = channel.push(block);
    out.i.push(...got.i);
    out.q.push(...got.q);
  }
  return { rate: channel.sampleRateHz, ...out };
}

describe('a channel', () => {
  it.each([
    [48000, 0, 300],
    [192000, 30000, 31000],
    [2_400_000, -400_000, -401_500],
  ])('at %i Hz about %i Hz passes a tone inside with its phase and frequency', (rate, centreHz, hz) => {
    const { i, q, rate: out } = throughChannel(rate, hz, 4096, { centreHz, halfWidthHz: 5000, transitionHz: 1000, leastRateHz: 16000 });
    expect(out).toBeGreaterThanOrEqual(16000);
    expect(out).toBeLessThan(40000);
    // Away from the ends: the tone at its distance from the centre, in phase with the input.
    for (let n = 400; n < i.length - 400; n += 97) {
      const angle = (2 * Math.PI * (hz - centreHz) * n) / out;
      expect(i[n]).toBeCloseTo(Math.cos(angle), 2);
      expect(q[n]).toBeCloseTo(Math.sin(angle), 2);
    }
  });

  it('keeps out what lies beside, and what would fold', () => {
    for (const hz of [6000, -7000, 16000, 20000, 47000]) {
      const { i } = throughChannel(96000, hz, 1000);
      expect(amplitudeToDb(rms(Float64Array.from(i.slice(100, -100))))).toBeLessThan(-70);
    }
  });

  it('by blocks it is the same channel, all of it, for any cut', () => {
    const rate = 48_000;
    const { i, q } = tone(rate, 9300, 0.2);
    const noisy = noise(rate, 0.2, 0.2, 8);
    const pairs = interleaved(
      i.map((x, n) => x + noisy[n]),
      q,
    );
    const through = (size: number, isByBlocks: boolean) => {
      const kernel = kernelOf();
      const shape = { sampleRateHz: rate, centreHz: 9000, halfWidthHz: 5000, transitionHz: 1000, leastRateHz: 40_000, isByBlocks };
      const channel = new DownConverter(kernel, shape);
      const block = new PairBlock(kernel);
      const out: number[] = [];
      const keep = ({ address, count }: { address: number; count: number }) => out.push(...kernel.floats({ address, length: 2 * count }));
      for (let at = 0; at < pairs.length; at += 2 * size) {
        block.load(pairs.subarray(at, at + 2 * size));
        keep(channel.turning(block));
      }
      keep(channel.turningEnd());
      return out;
    };
    const [plain, whole] = [through(4800, false), through(4800, true)];
    expect(whole).toHaveLength(pairs.length);
    for (let n = 0; n < plain.length; n++) expect(Math.abs(whole[n] - plain[n])).toBeLessThan(1e-5);
    expect(through(778, true)).toEqual(whole);
  });

  it('does not depend on how the stream is cut', () => {
    const [a, b] = [throughChannel(96000, 1234, 137), throughChannel(96000, 1234, 9600)];
    const length = Math.min(a.i.length, b.i.length);
    for (let n = 0; n < length; n++) expect(a.i[n]).toBeCloseTo(b.i[n], 5);
  });

  it('has taps of gain 1 that stand at half at the corner', () => {
    const taps = lowPassTaps(48000, 3000, 1000);
    const gainAt = (hz: number) =>
      Math.abs(taps.reduce((sum, tap, n) => sum + tap * Math.cos((2 * Math.PI * hz * (n - (taps.length - 1) / 2)) / 48000), 0));
    expect(gainAt(0)).toBeCloseTo(1, 9);
    expect(amplitudeToDb(gainAt(3000))).toBeCloseTo(-6.02, 1);
    for (const hz of [3600, 5000, 20000]) expect(amplitudeToDb(gainAt(hz))).toBeLessThan(-75);
  });
});

describe('resampling', () => {
  it.each([
    [48000, 16000, 3000],
    [16000, 48000, 5000],
    [48000, 48009.6, 9000],
  ])('from %i to %i Hz keeps a tone of %i Hz', (from, to, hz) => {
    const out = atRate(sine(from, hz, 0.2), from, to);
    for (let n = 200; n < out.length - 200; n += 61) expect(out[n]).toBeCloseTo(Math.sin((2 * Math.PI * hz * n) / to), 2);
  });

  it('filters what the new rate can not hold', () => {
    const out = atRate(sine(48000, 9000, 0.2), 48000, 16000);
    expect(amplitudeToDb(rms(out.subarray(200, -200)))).toBeLessThan(-60);
    expect([...resampled(Float64Array.of(1, 2), 1)]).toEqual([1, 2]);
  });
});

describe('analytic signals', () => {
  it('turn a cosine into a rotation, which can be moved', () => {
    const { i, q } = shifted(analytic(sine(8000, 1000, 0.5, 1, Math.PI / 2)), 8000, 500);
    for (let n = 1000; n < 3000; n += 37) {
      expect(i[n]).toBeCloseTo(Math.cos((2 * Math.PI * 1500 * n) / 8000), 2);
      expect(q[n]).toBeCloseTo(Math.sin((2 * Math.PI * 1500 * n) / 8000), 2);
    }
  });
});

describe('whole transforms', () => {
  it('go there and back, and correlate', () => {
    const x = noise(256, 1, 1);
    const back = inverseTransform(forwardTransform(256, x));
    x.forEach((value, n) => {
      expect(back.i[n]).toBeCloseTo(value, 10);
    });
    const late = new Float64Array(256);
    late.set(x.subarray(0, 200), 31);
    const { i } = inverseTransform(timesConjugate(forwardTransform(512, late), forwardTransform(512, x.subarray(0, 200))));
    expect(i.indexOf(Math.max(...i))).toBe(31);
  });
});

describe('sweeps', () => {
  it('reach each frequency when the formula says (A. Farina 2000)', () => {
    const sweep = { lowHz: 50, highHz: 5000, seconds: 4 };
    const samples = exponentialSweep(sweep, 48000, 0.01);
    const at = growthSeconds(sweep) * Math.log(1000 / 50);
    // Zero crossings around that moment lie half a period of 1 kHz apart.
    const from = Math.round((at - 0.005) * 48000);
    const crossings = [...samples.subarray(from, from + 480)].filter((x, n, all) => n > 0 && x * all[n - 1] < 0).length;
    expect(crossings).toBeGreaterThanOrEqual(19);
    expect(crossings).toBeLessThanOrEqual(21);
    expect(Math.max(...linearChirp({ lowHz: 2500, highHz: 500, seconds: 0.5 }, 48000, 0.02))).toBeLessThanOrEqual(1);
  });

  it.each(TEST_SIGNALS)('%s peaks at the level asked for and is the same every time', (signal) => {
    const shape = { signal, rateHz: 16000, seconds: 4, levelDb: -12 };
    const samples = testSignal(shape);
    const peak = samples.reduce((most, x) => Math.max(most, Math.abs(x)), 0);
    expect(amplitudeToDb(peak)).toBeCloseTo(-12, 9);
    expect(testSignal(shape)).toEqual(samples);
  });
});

describe('counted percentiles', () => {
  it('of values, and of their distance from a middle', () => {
    const values = noise(48000, 0.5, 1, 3);
    const counter = new LinearCounter(10, 20000);
    counter.push(values);
    expect(counter.percentile(99.9)).toBeCloseTo(percentile(values, 99.9), 2);
    expect(counter.percentileAround(0.5, 90)).toBeCloseTo(
      percentile(
        values.map((x) => Math.abs(x - 0.5)),
        90,
      ),
      2,
    );
    expect([counter.percentile(0), new LinearCounter(1, 10).percentile(5)]).toEqual([expect.any(Number), null]);
  });
});

describe('a spectrogram', () => {
  it('shows a tone where and when it sounds', () => {
    const builder = new SpectrogramBuilder(8000, false, [0, 4000], 2, 40);
    builder.push(sine(8000, 1000, 1));
    builder.push(sine(8000, 3000, 1));
    const { levels, rows, columns } = builder.result();
    const strongest = (column: number) => {
      const part = [...levels.subarray(column * rows, (column + 1) * rows)];
      return (part.indexOf(Math.min(...part)) / rows) * 4000;
    };
    expect(columns).toBe(40);
    expect(Math.abs(strongest(5) - 1000)).toBeLessThan(60);
    expect(Math.abs(strongest(35) - 3000)).toBeLessThan(60);
  });

  it('of I and Q tells both sides apart', () => {
    const builder = new SpectrogramBuilder(16000, true, [-4000, 4000], 1, 10);
    const { i, q } = tone(16000, -2500, 1);
    builder.push(interleaved(i, q));
    const { levels, rows } = builder.result();
    const part = [...levels.subarray(5 * rows, 6 * rows)];
    expect(Math.abs(-4000 + (part.indexOf(Math.min(...part)) / rows) * 8000 + 2500)).toBeLessThan(60);
  });
});
