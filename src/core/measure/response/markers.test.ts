/** The quick look for our own response signal: never a no where it is there, and no search for nothing in talk. */
import { readdirSync, readFileSync } from 'node:fs';
import { join as path } from 'node:path';
import { describe, expect, it } from 'vitest';
import { join, mix, noise, PCM16, silence, sourceOf, voiceLike } from '../../../../tests/support/signals.ts';
import { BiquadChain, butterworthQs, highPass, lowPass } from '../../dsp/filter/biquad.ts';
import { analytic } from '../../dsp/signals/analytic.ts';
import { testSignal } from '../../dsp/signals/testSignals.ts';
import { shifted } from '../../dsp/stream/complex.ts';
import { bytesInMemory, openWav } from '../../files/index.ts';
import { recognised } from '../recognise.ts';
import { mayHoldMarkers } from './markers.ts';

const sent = (rateHz: number) => testSignal({ signal: 'sweep', rateHz, seconds: 3, levelDb: -6 });
const narrow = (rateHz: number, samples: Float64Array) =>
  new BiquadChain([
    ...butterworthQs(4).map((q) => highPass(rateHz, 350, q)),
    ...butterworthQs(8).map((q) => lowPass(rateHz, 2400, q)),
  ]).process(samples);

describe('the quick look for markers', () => {
  it.each([8000, 11_025, 16_000, 44_100, 48_000, 96_000])('finds them at %i Hz, in 16 bits', async (rateHz) => {
    const samples = join(silence(rateHz, 1.3), sent(rateHz), silence(rateHz, 0.7));
    expect(await mayHoldMarkers(await sourceOf(rateHz, [samples], PCM16))).toBe(true);
  });

  it.each([
    ['through a narrow filter', (x: Float64Array) => narrow(24_000, x)],
    ['mistuned by 60 Hz', (x: Float64Array) => shifted(analytic(x), 24_000, 60).i],
    ['in as much noise as signal', (x: Float64Array) => mix(x, noise(24_000, x.length / 24_000, 0.35))],
    ['far too faint', (x: Float64Array) => x.map((value) => 0.002 * value)],
    ['cut off hard', (x: Float64Array) => x.map((value) => Math.max(-0.1, Math.min(0.1, value)))],
  ])('finds them %s, and so does the search in earnest', async (_, worse) => {
    const source = await sourceOf(24_000, [worse(sent(24_000))]);
    expect(await mayHoldMarkers(source)).toBe(true);
    expect(await recognised('voice', source)).toBe('response');
  });

  it('leaves talk, noise and silence alone', async () => {
    for (const samples of [voiceLike(48_000, 20), noise(48_000, 20, 0.1), silence(48_000, 5)]) {
      expect(await mayHoldMarkers(await sourceOf(48_000, [samples], PCM16))).toBe(false);
    }
  });

  it('leaves every over of the demo alone', async () => {
    const folder = path('demo', 'overs');
    for (const name of readdirSync(folder).filter((each) => each.endsWith('.wav'))) {
      const source = await openWav(bytesInMemory(new Uint8Array(readFileSync(path(folder, name)))));
      expect([name, await mayHoldMarkers(source)]).toEqual([name, false]);
    }
  });
});
