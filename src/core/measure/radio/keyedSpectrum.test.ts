/** The spectrum of keyed transmissions in two resolutions, against the whole file in fine bins. */
import { describe, expect, it } from 'vitest';
import { testKernel } from '../../../../tests/support/signals.ts';
import { bandPower, PairBlock, SpectrumAverager } from '../../dsp/index.ts';
import { gaussian, seededRandom } from '../../dsp/statistics/random.ts';
import { powerToDb } from '../../units/conversions.ts';
import { KeyedSpectrum } from './keyedSpectrum.ts';
import { weighKeyed } from './keying.ts';
import { noiseDensity } from './radioSpectrum.ts';

/** A tone at each of some frequencies while keyed, another station that never stops, and noise. */
function recording(rate: number, seconds: number, centreHz: number, keyed: readonly [number, number]): Float32Array {
  const normal = gaussian(seededRandom(7));
  const tones = [-4000, 0, 6500].map((hz) => centreHz + hz);
  const pairs = new Float32Array(2 * rate * seconds);
  for (let n = 0; n < pairs.length / 2; n++) {
    const isKeyed = n >= keyed[0] && n < keyed[1];
    let [i, q] = [0.003 * normal(), 0.003 * normal()];
    for (const hz of [...(isKeyed ? tones : []), -0.35 * rate]) {
      i += 0.1 * Math.cos((2 * Math.PI * hz * n) / rate);
      q += 0.1 * Math.sin((2 * Math.PI * hz * n) / rate);
    }
    pairs[2 * n] = i;
    pairs[2 * n + 1] = q;
  }
  return pairs;
}

describe('the spectrum of keyed transmissions', () => {
  it.each([
    [48000, 3000],
    [96000, -20000],
    [192000, 14000],
    [250000, 110000],
  ])('at %i Hz about %i Hz says what fine bins everywhere say', (rate, centreHz) => {
    const keyed = [0.3 * rate, 1.7 * rate] as const;
    const pairs = recording(rate, 2, centreHz, keyed);
    const transmissions = [{ from: keyed[0], to: keyed[1] }];
    const kernel = testKernel();
    const block = new PairBlock(kernel);
    const spectrum = new KeyedSpectrum(kernel, rate, transmissions, centreHz);
    const size = 2 ** Math.ceil(Math.log2(rate / 12));
    const whole = new SpectrumAverager({
      sampleRateHz: rate,
      size,
      averages: 1,
      isComplex: true,
      weigh: weighKeyed(transmissions, 1),
      kernel,
    });
    for (let at = 0; at < pairs.length; at += 65538) {
      block.load(pairs.subarray(at, at + 65538));
      spectrum.push(block);
      whole.push(block.values());
    }
    const [found, wanted] = [spectrum.result(), whole.result()[0]];
    if (!found || !wanted) throw new Error('no spectrum');
    expect(found.binHz).toBeCloseTo(wanted.binHz, 9);
    expect(found.density).toHaveLength(wanted.density.length);
    const levels = [found, wanted].map((each) => [
      ...[-4000, 0, 6500].map((hz) => powerToDb(bandPower(each, centreHz + hz - 100, centreHz + hz + 100))),
      powerToDb(bandPower(each, -0.35 * rate - 600, -0.35 * rate + 600)),
      powerToDb(noiseDensity(each, centreHz, [centreHz - 8000, centreHz + 8000]) ?? 0),
    ]);
    levels[0].forEach((level, k) => {
      expect(Math.abs(level - levels[1][k])).toBeLessThan(k < 4 ? 0.05 : 0.3);
    });
  });

  it('is none where nothing was keyed for a window', () => {
    const kernel = testKernel();
    const block = new PairBlock(kernel);
    const spectrum = new KeyedSpectrum(kernel, 192000, [{ from: 0, to: 2000 }], 0);
    block.load(recording(192000, 1, 0, [0, 2000]));
    spectrum.push(block);
    expect(spectrum.result()).toBeNull();
  });
});
