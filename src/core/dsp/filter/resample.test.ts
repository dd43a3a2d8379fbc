import { describe, expect, it } from 'vitest';
import { gaussian, seededRandom } from '../statistics/random.ts';
import { resampled } from './resample.ts';

/** The series itself, term by term: a sinc under a Hann window of 32 crossings, 0.97 of the lower rate. */
function bySeries(samples: Float64Array, ratio: number, n: number): number {
  const scale = Math.min(1, ratio) * 0.97;
  const reach = 32 / scale;
  let sum = 0;
  samples.forEach((sample, k) => {
    const away = k - n / ratio;
    if (Math.abs(away) > reach) return;
    const sinc = away === 0 ? scale : Math.sin(Math.PI * scale * away) / (Math.PI * away);
    sum += sample * sinc * (0.5 + 0.5 * Math.cos((Math.PI * away) / reach));
  });
  return sum;
}

describe('another sample rate', () => {
  it.each([
    ['48 to 16 kHz', 1 / 3],
    ['44.1 to 16 kHz', 16_000 / 44_100],
    ['8 to 48 kHz', 6],
    ['11.025 to 48 kHz', 48_000 / 11_025],
    ['a clock that is off by 37 ppm', 1 / 1.000037],
    ['a rate of no ratio', Math.PI / 4],
    ['a rate that no sound card has', 16 / 999_999],
  ])('is the series: %s', (_, ratio) => {
    const random = gaussian(seededRandom(7));
    const samples = Float64Array.from({ length: 900 }, () => random());
    const out = resampled(samples, ratio);
    expect(out).toHaveLength(Math.floor(900 * ratio));
    for (let n = 0; n < out.length; n += 7) expect(out[n]).toBeCloseTo(bySeries(samples, ratio, n), 9);
    // The same again, and after another ratio.
    resampled(samples, ratio * 1.5);
    expect(resampled(samples, ratio)).toEqual(out);
  });
});
