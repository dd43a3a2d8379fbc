import FFT from 'fft.js';
import { describe, expect, it } from 'vitest';
import { noise } from '../../../../tests/support/signals.ts';
import { createKernel } from '../kernel/kernel.ts';
import { createSpectrumEngine } from './spectrumEngine.ts';
import { hann } from './window.ts';

const ones = (size: number) => new Float64Array(size).fill(1);
const sum = (values: ArrayLike<number>) => Array.from(values).reduce((a, b) => a + b, 0);

describe('the kernel', () => {
  it('turns 16-bit codes into samples, whatever their number', () => {
    const kernel = createKernel();
    if (!kernel) throw new Error('no kernel');
    for (const n of [1, 7, 8, 29]) {
      const codes = kernel.take(n, 2);
      const samples = kernel.take(n);
      kernel.codes(codes).set(Int16Array.from({ length: n }, (_, k) => (k === 0 ? -32768 : k * 1111)));
      kernel.run.fromInt16(codes.address, samples.address, n);
      expect([...kernel.floats(samples)]).toEqual([...kernel.codes(codes)].map((code) => code / 32768));
    }
  });

  it.each([1, 3, 4, 255, 256, 1000])('sums squares, moments and counts of %i pairs as written out', (n) => {
    const kernel = createKernel();
    if (!kernel) throw new Error('no kernel');
    const pairs = Float32Array.from(noise(2 * n, 1, 0.3, n));
    const x = kernel.take(2 * n);
    const results = kernel.take(6, 8);
    const open = kernel.take(1, 8);
    const bins = kernel.take(256 * 64);
    kernel.floats(x).set(pairs);
    const [energy, peak] = [kernel.run.energy(x.address, 2 * n), kernel.run.peakOf(x.address, 2 * n)];
    expect(energy).toBeCloseTo(sum(pairs.map((v) => v * v)), 4);
    expect(peak).toBeCloseTo(Math.max(...pairs.map(Math.abs)), 7);
    expect(kernel.run.momentsByParts(x.address, n, 0, n + 1, 0, results.address, open.address, open.address)).toBe(0);
    expect(kernel.doubles(open)[0]).toBeCloseTo(energy, 3);
    const [i, q] = [0, 1].map((part) => Array.from({ length: n }, (_, k) => pairs[2 * k + part]));
    const expected = [sum(i), sum(q), sum(i.map((v) => v * v)), sum(q.map((v) => v * v)), sum(i.map((v, k) => v * q[k])), peak];
    kernel.doubles(results).forEach((value, k) => {
      expect(value).toBeCloseTo(expected[k], 3);
    });
    expect(kernel.run.tallyPowers(x.address, n, bins.address)).toBeCloseTo(energy, 3);
    expect(kernel.run.sumOf(x.address, 2 * n)).toBeCloseTo(sum(pairs), 3);
    const counts = kernel.counts(bins);
    expect(sum(counts)).toBe(n);
    const power = Math.fround(Math.fround(i[0] * i[0]) + Math.fround(q[0] * q[0]));
    expect(counts[new Uint32Array(Float32Array.of(power).buffer)[0] >>> 17]).toBeGreaterThan(0);
  });
});

/** Both engines, so that each case is told twice. */
const engines = [
  ['kernel', createKernel()],
  ['fft.js', null],
] as const;

describe.each(engines)('spectrum engine on the %s', (_, kernel) => {
  it.each([32, 64, 128, 1024])('agrees with the sum by definition for %i samples, real and complex', (size) => {
    const samples = noise(2 * size, 1, 1, size);
    for (const isComplex of [false, true]) {
      const engine = createSpectrumEngine({ size, isComplex, averages: 1, window: ones(size) }, kernel);
      engine.input().set(samples.subarray(0, isComplex ? 2 * size : size));
      engine.transform(0);
      const powers = engine.powers();
      expect(powers).toHaveLength(engine.bins);
      for (let k = 0; k < engine.bins; k++) {
        let re = 0;
        let im = 0;
        for (let n = 0; n < size; n++) {
          const [a, b] = isComplex ? [samples[2 * n], samples[2 * n + 1]] : [samples[n], 0];
          const angle = (-2 * Math.PI * k * n) / size;
          re += a * Math.cos(angle) - b * Math.sin(angle);
          im += a * Math.sin(angle) + b * Math.cos(angle);
        }
        // Single precision: relative to the mean power of a bin, which is size for unit noise.
        expect(Math.abs(powers[k] - (re * re + im * im))).toBeLessThan(1e-5 * size);
      }
    }
  });

  it.each([2, 3, 50, 64])('takes a Hann window of %i samples and silence behind it', (length) => {
    const size = 64;
    const samples = noise(2 * size, 1, 1, length);
    for (const isComplex of [false, true]) {
      const width = isComplex ? 2 : 1;
      const [asTold, byHand] = [
        createSpectrumEngine({ size, isComplex, averages: 1 }, kernel),
        createSpectrumEngine({ size, isComplex, averages: 1, window: ones(size) }, kernel),
      ];
      asTold.setHann(length);
      asTold.input().set(samples.subarray(0, width * size));
      byHand.input().fill(0);
      byHand.input().set([...hann(length)].flatMap((w, n) => [...samples.subarray(width * n, width * (n + 1))].map((x) => w * x)));
      for (const engine of [asTold, byHand]) engine.transform(0);
      asTold.powers().forEach((power, k) => {
        expect(Math.abs(power - byHand.powers()[k])).toBeLessThan(1e-5 * size);
      });
    }
  });

  it('keeps a -120 dB tone beside a full one (Blackman-like skirts aside: tones on bins, Hann window)', () => {
    const size = 4096;
    const engine = createSpectrumEngine({ size, isComplex: true, averages: 1 }, kernel);
    const input = engine.input();
    for (let n = 0; n < size; n++) {
      const [strong, weak] = [200, 1500].map((bin) => (2 * Math.PI * bin * n) / size);
      input[2 * n] = Math.cos(strong) + 1e-6 * Math.cos(weak);
      input[2 * n + 1] = Math.sin(strong) + 1e-6 * Math.sin(weak);
    }
    engine.transform(0);
    const powers = engine.powers();
    expect(10 * Math.log10(powers[1500] / powers[200])).toBeCloseTo(-120, 0);
    // Far from both there is next to nothing: errors near -150 dB.
    expect(10 * Math.log10(sum(powers.slice(2500, 3500)) / 1000 / powers[200])).toBeLessThan(-145);
  });

  it('weighs sums in double precision and holds the highest', () => {
    const engine = createSpectrumEngine({ size: 32, isComplex: false, averages: 2, window: ones(32) }, kernel);
    const expected = new Float64Array(17);
    let top = 0;
    for (let window = 0; window < 5; window++) {
      // Anywhere in the room.
      engine.input().set(noise(32, 1, 1, window), 7 * window);
      engine.transform(7 * window);
      engine.add(0, 0.25);
      if (window === 2) engine.add(1, 3);
      engine.hold();
      engine.powers().forEach((power, k) => {
        expected[k] += 0.25 * power;
      });
      top = Math.max(top, engine.powers()[16]);
    }
    engine.sum(0).forEach((value, k) => {
      expect(value).toBeCloseTo(expected[k], 6);
    });
    expect(sum(engine.sum(1))).toBeGreaterThan(0);
    expect(engine.highest()[16]).toBe(top);
  });

  it('takes powers of two from 32 only', () => {
    for (const size of [0, 1, 16, 33, 100]) {
      expect(() => createSpectrumEngine({ size, isComplex: false, averages: 1, window: ones(size) }, kernel)).toThrow(RangeError);
    }
  });
});

it('odd and even powers of two, real and complex, agree with the double-precision oracle', () => {
  for (const size of [2048, 4096, 8192, 32768]) {
    const samples = noise(2 * size, 1, 0.1, size);
    const engine = createSpectrumEngine({ size, isComplex: false, averages: 1, window: hann(size) });
    engine.input().set(samples.subarray(0, size));
    engine.transform(0);
    const oracle = new FFT(size);
    const out = oracle.createComplexArray();
    oracle.realTransform(
      out,
      [...hann(size)].map((w, n) => w * samples[n]),
    );
    const mean = sum(engine.powers()) / engine.bins;
    engine.powers().forEach((power, k) => {
      expect(Math.abs(power - (out[2 * k] ** 2 + out[2 * k + 1] ** 2))).toBeLessThan(1e-4 * mean);
    });
  }
});
