/** Source: Chromium's BiquadFilterNode.getFrequencyResponse, run live: an implementation of the same filters by others. */
import { highShelf, lowShelf, peakingQ, responseDb } from '../../src/core/dsp/filter/biquad.ts';
import { octavesToQ } from '../../src/core/units/conversions.ts';
import { expect, test } from './support.ts';

const RATE = 48000;
const HZ = [80, 150, 300, 700, 1000, 1800, 2700, 5000];
const BELLS = [
  [1000, 6, 1],
  [350, -12, 1.414],
  [2400, 9, 0.667],
  [800, 3, 4.318],
] as const;

test('equalizer curves are those of BiquadFilterNode', async ({ page }) => {
  await page.goto('/overs');
  const theirs = (type: BiquadFilterType, hz: number, gain: number, q: number) =>
    page.evaluate(
      ([kind, frequency, db, quality, rate, at]) => {
        const context = new OfflineAudioContext(1, 1, rate as number);
        const node = new BiquadFilterNode(context, {
          type: kind as BiquadFilterType,
          frequency: frequency as number,
          gain: db as number,
          Q: quality as number,
        });
        const magnitudes = new Float32Array((at as number[]).length);
        node.getFrequencyResponse(Float32Array.from(at as number[]), magnitudes, new Float32Array(magnitudes.length));
        return [...magnitudes].map((value) => 20 * Math.log10(value));
      },
      [type, hz, gain, q, RATE, HZ] as const,
    );
  for (const [hz, gain, q] of BELLS) {
    const expected = await theirs('peaking', hz, gain, q);
    for (const [i, at] of HZ.entries()) expect(responseDb(peakingQ(RATE, hz, gain, q), RATE, at)).toBeCloseTo(expected[i], 3);
  }
  const low = await theirs('lowshelf', 400, -6, 1);
  const high = await theirs('highshelf', 1600, 6, 1);
  for (const [i, at] of HZ.entries()) {
    expect(responseDb(lowShelf(RATE, 400, -6), RATE, at)).toBeCloseTo(low[i], 3);
    expect(responseDb(highShelf(RATE, 1600, 6), RATE, at)).toBeCloseTo(high[i], 3);
  }
  expect(octavesToQ(1)).toBeCloseTo(1.414, 3);
});
