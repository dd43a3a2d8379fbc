/** The kernel's tables and plain filters against their formulas. */
import { describe, expect, it } from 'vitest';
import { noise, testKernel } from '../../../../tests/support/signals.ts';
import { EvenHanded } from '../filter/evenHanded.ts';
import { lowPassTaps } from '../filter/kaiser.ts';

describe("the kernel's memory", () => {
  it('has long arrays begin at different places of a page, all of them zeros', () => {
    const kernel = testKernel();
    const arrays = [5000, 4096, 20_000, 1024].map((length) => kernel.take(length));
    expect(new Set(arrays.map(({ address }) => address % 4096)).size).toBe(4);
    arrays.forEach((array, k) => {
      expect(array.address % 16).toBe(0);
      if (k > 0) expect(array.address).toBeGreaterThanOrEqual(arrays[k - 1].address + 4 * arrays[k - 1].length);
      expect(kernel.floats(array).every((value) => value === 0)).toBe(true);
    });
  });
});

describe("the kernel's tables", () => {
  it.each([
    [4096, 1],
    [4096, 4093],
    [1000, 7],
    [12, 1],
    [3, 2],
  ])('turns of 1/%i in steps of %i are the cosines and sines of JavaScript', (n, step) => {
    const kernel = testKernel();
    const count = 3 * n;
    const [cosines, sines] = [kernel.take(count), kernel.take(count)];
    kernel.run.turns(cosines.address, sines.address, count, step, n);
    const [c, s] = [kernel.floats(cosines), kernel.floats(sines)];
    for (let k = 0; k < count; k++) {
      const angle = (2 * Math.PI * ((k * step) % n)) / n;
      // Half the last place of single precision.
      expect(Math.abs(c[k] - Math.cos(angle))).toBeLessThan(3.1e-8);
      expect(Math.abs(s[k] - Math.sin(angle))).toBeLessThan(3.1e-8);
    }
  });
});

describe('decimation with complex taps', () => {
  it.each([1, 2, 5, 8])('gives %i pairs as the sum says', (count) => {
    const kernel = testKernel();
    const [taps, step] = [6, 3];
    const pairs = step * (count - 1) + taps;
    const [x, re, im, out] = [2 * pairs, 2 * taps, 2 * taps, 2 * count + 4].map((n) => kernel.take(n));
    const [values, cosines, sines] = [noise(2 * pairs, 1, 1, 1), noise(taps, 1, 1, 2), noise(taps, 1, 1, 3)];
    kernel.floats(x).set(values);
    for (let k = 0; k < taps; k++) {
      kernel.floats(re).fill(cosines[k], 2 * k, 2 * k + 2);
      kernel.floats(im).fill(sines[k], 2 * k, 2 * k + 2);
    }
    kernel.run.decimate(x.address, re.address, im.address, taps, step, count, out.address);
    const got = kernel.floats(out);
    for (let n = 0; n < count; n++) {
      let [i, q] = [0, 0];
      for (let k = 0; k < taps; k++) {
        const [a, b] = [values[2 * (n * step + k)], values[2 * (n * step + k) + 1]];
        i += a * cosines[k] - b * sines[k];
        q += a * sines[k] + b * cosines[k];
      }
      expect(got[2 * n]).toBeCloseTo(i, 4);
      expect(got[2 * n + 1]).toBeCloseTo(q, 4);
    }
    expect([...got.slice(2 * count)]).toEqual([0, 0, 0, 0]);
  });
});

describe('a filter with the same taps on both sides', () => {
  const taps = lowPassTaps(6000, 1150, 1000);
  const reach = (taps.length - 1) / 2;
  const samples = noise(6000, 0.5, 1, 4);
  const filtered = (lengths: readonly number[]) => {
    const kernel = testKernel();
    const filter = new EvenHanded(kernel, taps);
    const room = kernel.take(samples.length);
    kernel.floats(room).set(samples);
    let from = 0;
    return lengths.flatMap((length) => {
      const { address, count } = filter.push({ address: room.address + 4 * from, count: length });
      from += length;
      return [...kernel.floats({ address, length: count })];
    });
  };

  it('is in step with the stream, silence before it', () => {
    const got = filtered([3000]);
    expect(got).toHaveLength(3000 - reach);
    for (const n of [0, 1, 40, 1501, got.length - 1]) {
      const wanted = taps.reduce((sum, tap, k) => sum + tap * (samples[n + k - reach] ?? 0), 0);
      expect(got[n]).toBeCloseTo(wanted, 5);
    }
  });

  it('gives the same bits for any cut', () => {
    expect(filtered([1, 2, 33, 500, 7, 2457])).toEqual(filtered([3000]));
  });
});
