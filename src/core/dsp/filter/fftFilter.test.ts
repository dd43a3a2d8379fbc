import { describe, expect, it } from 'vitest';
import { noise, rms, sine } from '../../../../tests/support/signals.ts';
import { amplitudeToDb } from '../../units/conversions.ts';
import { createKernel } from '../kernel/kernel.ts';
import { joined } from '../stream/joined.ts';
import { FftFilter } from './fftFilter.ts';
import { curveTaps, lowPassTaps, oneSidedTaps } from './kaiser.ts';
import { resampleStream } from './resampleStream.ts';

const RATE = 24000;
const CUTS: readonly { lengths: readonly number[] }[] = [[24000], [1], [7, 1000, 3], [4096], [5000, 1]].map((lengths) => ({ lengths }));

/** Pushes `samples` in blocks of the lengths given, again and again. */
function cut<T>(samples: Float64Array, lengths: readonly number[], push: (block: Float64Array) => T): T[] {
  const parts: T[] = [];
  for (let at = 0, k = 0; at < samples.length; at += lengths[k++ % lengths.length])
    parts.push(push(samples.subarray(at, at + lengths[k % lengths.length])));
  return parts;
}

/** Taps times samples, the delay trimmed. */
function directSum(samples: Float64Array, taps: Float64Array): Float64Array {
  const middle = (taps.length - 1) / 2;
  const out = new Float64Array(samples.length);
  for (let n = 0; n < samples.length; n++) {
    const from = Math.max(0, n + middle - samples.length + 1);
    const to = Math.min(taps.length - 1, n + middle);
    let sum = 0;
    for (let k = from; k <= to; k++) sum += taps[k] * samples[n + middle - k];
    out[n] = sum;
  }
  return out;
}

describe('a filter over a stream', () => {
  const taps = lowPassTaps(RATE, 2000, 400);
  const samples = noise(RATE, 1, 0.2);
  const filtered = (kernel: ReturnType<typeof createKernel>, lengths: readonly number[]) => {
    const filter = new FftFilter({ i: taps }, kernel);
    const parts = cut(samples, lengths, (block) => filter.push(block).i.slice());
    return joined([...parts, filter.end().i]);
  };

  it.each([
    ['kernel', createKernel()],
    ['fft.js', null],
  ])('is the direct sum of taps times samples, none lost, by %s', (_, kernel) => {
    const direct = directSum(samples, taps);
    const fast = filtered(kernel, [1000]);
    expect(fast.length).toBe(samples.length);
    // Single precision at the kernel's door: 24 bits under full scale of 0.2 RMS noise.
    expect(amplitudeToDb(rms(fast.map((x, n) => x - direct[n])) / rms(direct))).toBeLessThan(-120);
  });

  it.each(CUTS)('is the same bit by bit for any cut: $lengths', ({ lengths }) => {
    expect(filtered(createKernel(), lengths)).toEqual(filtered(createKernel(), [977]));
  });

  it('gives the analytic signal of a band: a tone becomes a turn of one size, others vanish', () => {
    const filter = new FftFilter(oneSidedTaps(RATE, 300, 2700, 150));
    const both = sine(RATE, 1000, 1).map((x, n) => x + Math.sin((2 * Math.PI * 4000 * n) / RATE));
    const a = filter.push(both);
    const b = filter.end();
    const [i, q] = [joined([a.i.slice(), b.i]), joined([a.q.slice(), b.q])];
    for (let n = 6000; n < 18000; n += 97) {
      expect(Math.hypot(i[n], q[n])).toBeCloseTo(1, 3);
      expect(i[n]).toBeCloseTo(Math.sin((2 * Math.PI * 1000 * n) / RATE), 3);
    }
  });

  it('follows a curve of gain', () => {
    const curve = (hz: number) => 6 * Math.sin(hz / 700);
    const taps = curveTaps(RATE, curve, 1025);
    for (const hz of [200, 450, 1000, 2200, 3000, 6000]) {
      const [re, im] = [Math.cos, Math.sin].map((part) => taps.reduce((sum, tap, n) => sum + tap * part((2 * Math.PI * hz * n) / RATE), 0));
      expect(amplitudeToDb(Math.hypot(re, im))).toBeCloseTo(curve(hz), 1);
    }
  });

  it('refuses an even number of taps', () => {
    expect(() => new FftFilter({ i: new Float64Array(4) })).toThrow(RangeError);
  });
});

describe('a stream at another rate', () => {
  it.each([
    [48000, 24000],
    [96000, 24000],
    [72000, 24000],
    [144000, 24000],
    [44100, 24000],
    [16000, 24000],
    [8000, 24000],
    [22050, 24000],
    [24000, 24000],
  ])('%i Hz as %i Hz: a tone keeps place and size for any cut', (from, to) => {
    const tone = sine(from, 1000, 1.5, 0.5, 0.3);
    const run = (lengths: readonly number[]) => {
      const stream = resampleStream(from, to, createKernel());
      const parts = cut(tone, lengths, (block) => stream.push(block).slice());
      return joined([...parts, stream.end()]);
    };
    const whole = run([tone.length]);
    expect(Math.abs(whole.length - 1.5 * to)).toBeLessThanOrEqual(1);
    for (let n = 4000; n < whole.length - 4000; n += 101)
      expect(whole[n]).toBeCloseTo(0.5 * Math.sin((2 * Math.PI * 1000 * n) / to + 0.3), 3);
    expect(run([1000, 17])).toEqual(whole);
    expect(run([3])).toEqual(whole);
  });

  it('lets nothing fold back when it goes down', () => {
    const stream = resampleStream(48000, 24000, createKernel());
    const out = joined([stream.push(sine(48000, 14000, 1)).slice(), stream.end()]);
    expect(amplitudeToDb(rms(out.subarray(2000, 22000)))).toBeLessThan(-75);
  });
});
