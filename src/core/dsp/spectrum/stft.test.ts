import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { createKernel } from '../kernel/kernel.ts';
import { gaussian, seededRandom } from '../statistics/random.ts';
import { binPower, stft, stftCount } from './stft.ts';
import { hann } from './window.ts';

/** The transform by its definition: slow, and written apart from the code under test. */
function slowBin(samples: Float64Array, window: Float64Array, start: number, size: number, k: number): [number, number] {
  let [re, im] = [0, 0];
  for (let n = 0; n < window.length; n++) {
    const x = window[n] * samples[start + n];
    re += x * Math.cos((2 * Math.PI * k * n) / size);
    im -= x * Math.sin((2 * Math.PI * k * n) / size);
  }
  return [re, im];
}

describe('short-time Fourier transform', () => {
  it.each([
    ['half overlapped', { window: hann(64), hopSamples: 32, size: 64 }, 'plain'],
    ['half overlapped', { window: hann(64), hopSamples: 32, size: 64 }, 'kernel'],
    ['filled up with zeros, an odd number of frames', { window: hann(50), hopSamples: 20, size: 128 }, 'plain'],
    ['filled up with zeros, an odd number of frames', { window: hann(50), hopSamples: 20, size: 128 }, 'kernel'],
  ])('%s: every bin of every frame as the definition has it (%#)', (_, shape, engine) => {
    const kernel = engine === 'kernel' ? createKernel() : null;
    const digits = kernel ? 4 : 9;
    const normal = gaussian(seededRandom(5));
    const samples = Float64Array.from({ length: 300 }, () => normal());
    let seen = 0;
    const check = (spectrum: Float64Array, frame: number) => {
      for (let k = 0; k <= shape.size / 2; k++) {
        const [re, im] = slowBin(samples, shape.window, frame * shape.hopSamples, shape.size, k);
        expect(spectrum[2 * k]).toBeCloseTo(re, digits);
        expect(spectrum[2 * k + 1]).toBeCloseTo(im, digits);
      }
      seen++;
    };
    const count = stft(samples, shape, check, kernel);
    expect(kernel !== null).toBe(engine === 'kernel');
    expect(seen).toBe(count);
  });

  it('frames lie wholly inside, and none is left out', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 500 }),
        fc.integer({ min: 1, max: 64 }),
        fc.integer({ min: 1, max: 64 }),
        (length, width, hop) => {
          const count = stftCount(length, { window: new Float64Array(width), hopSamples: hop, size: 64 });
          if (count > 0) expect((count - 1) * hop + width).toBeLessThanOrEqual(length);
          expect(count * hop + width).toBeGreaterThan(length);
        },
      ),
      { seed: 3 },
    );
  });

  it('power of bins adds up to the power of the samples (Parseval)', () => {
    const samples = Float64Array.from({ length: 64 }, (_, n) => Math.sin(0.3 * n) + 0.2);
    const shape = { window: new Float64Array(64).fill(1), hopSamples: 64, size: 64 };
    stft(samples, shape, (spectrum) => {
      const both = 2 * binPower(spectrum, 1, 32) + binPower(spectrum, 0, 1) + binPower(spectrum, 32, 33);
      expect(both / 64).toBeCloseTo(
        samples.reduce((sum, x) => sum + x * x, 0),
        4,
      );
    });
  });
});
