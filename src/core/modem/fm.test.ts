/** The kernel's discriminator beside the plain one, and both beside the frequency that was sent. */
import { describe, expect, it } from 'vitest';
import { highest, interleaved, noise, testKernel } from '../../../tests/support/signals.ts';
import { PairBlock } from '../dsp/index.ts';
import { Discriminator, FrequencyModulator, PairDiscriminator } from './fm.ts';

const RATE_HZ = 48_000;
const audio = noise(RATE_HZ, 0.5, 0.3, 4).map((x) => Math.max(-1, Math.min(1, x)));

function heard(size: number, { carrierHz, deviationHz, level = 1 }: { carrierHz: number; deviationHz: number; level?: number }) {
  const { i, q } = new FrequencyModulator(RATE_HZ, carrierHz, deviationHz).push(audio);
  const pairs = interleaved(
    i.map((x) => level * x),
    q.map((x) => level * x),
  );
  const kernel = testKernel();
  const block = new PairBlock(kernel);
  const discriminator = new PairDiscriminator(kernel, RATE_HZ, 120);
  const hz: number[] = [];
  for (let at = 0; at < pairs.length; at += 2 * size) {
    block.load(pairs.subarray(at, at + 2 * size));
    hz.push(...discriminator.push({ address: block.address(), count: block.count }));
  }
  return { hz, plain: new Discriminator(RATE_HZ).push({ i, q }) };
}

describe('the discriminator in the kernel', () => {
  it.each([
    [{ carrierHz: 0, deviationHz: 5000 }],
    [{ carrierHz: 9000, deviationHz: 5000 }],
    // Nearly half the rate: every quadrant.
    [{ carrierHz: -3000, deviationHz: 20_000 }],
    [{ carrierHz: 1000, deviationHz: 5000, level: 1e-4 }],
  ])('is the plain one, the offset aside: %o', (shape) => {
    const { hz, plain } = heard(4800, shape);
    expect(hz).toHaveLength(audio.length);
    expect(highest(plain.map((each, n) => (n === 0 ? 0 : Math.abs(hz[n] + 120 - each))))).toBeLessThan(0.02);
    const wrong = plain.map((each, n) => (n === 0 ? 0 : Math.abs(each - shape.carrierHz - shape.deviationHz * audio[n])));
    expect(highest(wrong)).toBeLessThan(1e-6);
  });

  it('gives the same bits for any cut', () => {
    const shape = { carrierHz: 500, deviationHz: 5000 };
    const whole = heard(24_000, shape).hz;
    for (const size of [1, 2, 3, 5, 997]) expect(heard(size, shape).hz).toEqual(whole);
  });

  it('makes 0 of silence', () => {
    const kernel = testKernel();
    const block = new PairBlock(kernel);
    block.load(new Float32Array(20));
    expect([...new PairDiscriminator(kernel, RATE_HZ, 0).push({ address: block.address(), count: 10 })]).toEqual(new Array(10).fill(0));
  });
});
