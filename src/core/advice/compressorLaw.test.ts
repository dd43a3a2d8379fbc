import { describe, expect, it } from 'vitest';
import { gaussian, seededRandom } from '../dsp/index.ts';
import { chanceBetween, compressionAt, compressionPerStep, compressorBelief } from './compressorLaw.ts';

const reading = (share: number, db: number, levelDb = 0) => ({ share, db, levelDb });

describe('what the compression meter will show', () => {
  it('knows little beforehand, and more with every reading', () => {
    const width = (readings: ReturnType<typeof reading>[]) => {
      const [low, , high] = compressionAt(compressorBelief(readings), 0.8);
      return high - low;
    };
    expect(width([reading(0.4, 6)])).toBeLessThan(width([]));
    expect(width([reading(0.4, 6), reading(0.6, 10)])).toBeLessThan(width([reading(0.4, 6)]));
  });

  it('a meter that shows nothing is a bound: the dial may begin anywhere above', () => {
    const [, likely] = compressionAt(compressorBelief([reading(0.3, 0)]), 0.3);
    expect(likely).toBeLessThan(1);
    const [, further] = compressionAt(compressorBelief([reading(0.3, 0)]), 0.6);
    expect(further).toBeGreaterThan(3);
    expect(further).toBeLessThan(10);
  });

  it('more level then may be why it showed more', () => {
    const [, alike] = compressionAt(compressorBelief([reading(0.5, 14)]), 0.5);
    const [low, louder] = compressionAt(compressorBelief([reading(0.5, 14, 8)]), 0.5);
    expect(alike).toBeCloseTo(13.5, 0);
    expect(louder).toBeLessThan(alike - 1);
    expect(low).toBeGreaterThan(5);
  });

  it('tells what a step does, and where 10 to 20 dB are', () => {
    const belief = compressorBelief([reading(0.25, 5), reading(0.5, 10.5), reading(0.75, 15)]);
    const [low, likely, high] = compressionPerStep(belief, 10);
    expect(low).toBeLessThan(2.1);
    expect(high).toBeGreaterThan(2);
    expect(likely).toBeGreaterThan(1.6);
    expect(likely).toBeLessThan(2.5);
    expect(chanceBetween(belief, 0.75, [10, 20])).toBeGreaterThan(0.9);
    expect(chanceBetween(belief, 0.1, [10, 20])).toBeLessThan(0.05);
  });

  it('holds what it says: 80 % intervals on compressors by another law, read to a decibel', () => {
    const random = seededRandom(3);
    const noise = gaussian(random);
    let [held, all] = [0, 0];
    for (let k = 0; k < 200; k++) {
      // A soft knee, and a ratio: no line.
      const [mostDb, threshold, ratio] = [14 + 14 * random(), 0.4 * random(), 4 + 8 * random()];
      const shown = (share: number) => (1 - 1 / ratio) * mostDb * Math.hypot(0.1, Math.max(0, share - threshold)) - 0.05 * mostDb;
      const read = (share: number) => Math.max(0, Math.round(shown(share) + (0.7 + 0.05 * shown(share)) * noise()));
      const [first, second, next] = [0.3 + 0.4 * random(), 0.3 + 0.5 * random(), 0.3 + 0.6 * random()];
      const [low, , high] = compressionAt(compressorBelief([reading(first, read(first)), reading(second, read(second))]), next);
      const got = read(next);
      all++;
      if (got >= low - 0.5 && got <= high + 0.5) held++;
    }
    expect(held / all).toBeGreaterThan(0.72);
    expect(held / all).toBeLessThan(0.95);
  });
});
