/** 16-bit codes are worked on as they are stored: they must give what the same samples give as floats. */
import { describe, expect, it } from 'vitest';
import { noise, PCM16, recut, sourceOf, testKernel, voiceLike } from '../../../../tests/support/signals.ts';
import { eachMono } from '../../measure/voice/eachMono.ts';
import { measureVoice } from '../../measure/voice/voice.ts';
import { Halver } from '../filter/halver.ts';
import type { SamplesAt } from '../filter/samplesAt.ts';
import { Tuner } from '../filter/tuner.ts';
import { StepReader } from '../meter/steps.ts';
import type { Kernel } from './kernel.ts';
import { MomentSums } from './moments.ts';
import { type PieceAt, Pieces } from './pieces.ts';

/** The same values as codes and as floats, the extremes among them. */
function both(kernel: Kernel, count: number): [codes: SamplesAt, floats: SamplesAt] {
  const values = Int16Array.from(noise(count, 1, 6000, count), (x) => Math.max(-32768, Math.min(32767, x)));
  values.set([-32768, -32768, 32767, -32768, 0, 1, -1].slice(0, count));
  const [codes, floats] = [kernel.take(count, 2), kernel.take(count)];
  kernel.codes(codes).set(values);
  kernel.floats(floats).set(Array.from(values, (code) => code / 32768));
  return [
    { address: codes.address, count, isCodes: true },
    { address: floats.address, count },
  ];
}

const valuesOf = (kernel: Kernel, { address, count }: SamplesAt, width = 1) => [...kernel.floats({ address, length: width * count })];

/** What the difference of two rows is re the second, in dB. */
const apartDb = (a: readonly number[], b: readonly number[]) => {
  const power = (values: readonly number[]) => values.reduce((sum, x) => sum + x * x, 0);
  expect(a).toHaveLength(b.length);
  return 10 * Math.log10(power(a.map((value, k) => value - b[k])) / power(b));
};

describe('16-bit codes', () => {
  it.each([7, 8, 48, 100])('have steps of %i samples as floats have', (step) => {
    const kernel = testKernel();
    const [asCodes, asFloats] = both(kernel, 12 * step).map((samples) =>
      valuesOf(kernel, new StepReader(kernel, 48000, step).push(samples), 4),
    );
    expect(asCodes).toHaveLength(4 * 12);
    asCodes.forEach((value, k) => {
      expect(value).toBeCloseTo(asFloats[k], 4);
    });
    // The first step holds both ends of the scale.
    expect(asCodes.slice(2, 4)).toEqual([32767 / 32768, -1]);
  });

  it.each([16, 18, 50, 1000])('are halved as floats are: %i of them', (count) => {
    const kernel = testKernel();
    const [asCodes, asFloats] = both(kernel, count).map((samples) => valuesOf(kernel, new Halver(kernel, 48000, 7000, 1).push(samples)));
    // The taps beside the middle one are whole numbers of 16 bits.
    expect(apartDb(asCodes, asFloats)).toBeLessThan(-90);
    expect(asCodes.length).toBeGreaterThan(0);
  });

  it('go over to floats in the middle of a stream, and floats never to codes', () => {
    const kernel = testKernel();
    const [codes, floats] = both(kernel, 4000);
    const halved = (parts: readonly SamplesAt[]) => {
      const halver = new Halver(kernel, 48000, 7000, 1);
      return parts.flatMap((part) => valuesOf(kernel, halver.push(part)));
    };
    for (const first of [2, 10, 1000]) {
      const rest = { address: floats.address + 4 * first, count: 4000 - first };
      const mixed = halved([{ ...codes, count: first }, rest]);
      expect(apartDb(mixed, halved([{ ...floats, count: first }, rest]))).toBeLessThan(-90);
      expect(mixed.length).toBeGreaterThan(1980);
    }
    expect(() => halved([floats, codes])).toThrow('Codes come before floats');
  });

  it('are the same bits for any cut', () => {
    const kernel = testKernel();
    const [codes] = both(kernel, 4000);
    const [whole, cut] = [[4000], [2, 30, 1000, 18, 2950]].map((lengths) => {
      const halver = new Halver(kernel, 48000, 7000, 1);
      let from = 0;
      return lengths.flatMap((count) => {
        const part = { ...codes, address: codes.address + 2 * from, count };
        from += count;
        return valuesOf(kernel, halver.push(part));
      });
    });
    expect(cut).toEqual(whole);
  });

  it('at the ends of the scale give what floats give', () => {
    // The sign of each tap makes the largest sum that can be.
    const kernel = testKernel();
    for (const seed of [1, 2, 3, 4, 5]) {
      const values = Int16Array.from(noise(2000, 1, 1, seed), (x) => (x > 0 ? 32767 : -32768));
      const [codes, floats] = [kernel.take(2000, 2), kernel.take(2000)];
      kernel.codes(codes).set(values);
      kernel.floats(floats).set(Array.from(values, (code) => code / 32768));
      const [a, b] = [
        { address: codes.address, count: 2000, isCodes: true },
        { address: floats.address, count: 2000 },
      ].map((samples) => valuesOf(kernel, new Halver(kernel, 48000, 7000, 1).push(samples)));
      expect(apartDb(a, b)).toBeLessThan(-85);
    }
  });

  it('as pairs are turned and halved as floats are, the odd rest at the end too', () => {
    const kernel = testKernel();
    const shape = { sampleRateHz: 192000, centreHz: 14000, keptHz: 16500, leastRateHz: 48000 };
    const runs = both(kernel, 2 * 4003).map((pairs) => {
      const tuner = new Tuner(kernel, shape);
      const bytes = pairs.isCodes ? 4 : 8;
      const parts = [0, 2000, 4000].flatMap((from) => {
        const part = { ...pairs, address: pairs.address + bytes * from, count: Math.min(2000, 4003 - from) };
        return valuesOf(kernel, tuner.push(part), 2);
      });
      return [...parts, ...valuesOf(kernel, tuner.end(), 2)];
    });
    expect(runs[0].length).toBeGreaterThan(2 * 1000);
    // The taps are whole numbers of 16 bits: what that makes lies under the stop band of either.
    expect(apartDb(runs[0], runs[1])).toBeLessThan(-84);
  });

  it.each([14000, -37500, 60000])('a band at %i Hz keeps its distance to what folds onto it', (centreHz) => {
    const rate = 192000;
    const heardDb = [0, rate / 2 - 1000].map((offset) => {
      const kernel = testKernel();
      const tuner = new Tuner(kernel, { sampleRateHz: rate, centreHz, keptHz: 16500, leastRateHz: 96000 });
      const codes = Int16Array.from({ length: 8000 }, (_, n) => {
        const angle = (2 * Math.PI * (tuner.centreHz + 500 + offset) * Math.floor(n / 2)) / rate;
        return Math.round(32767 * (n % 2 === 0 ? Math.cos(angle) : Math.sin(angle)));
      });
      const at = kernel.take(codes.length, 2);
      kernel.codes(at).set(codes);
      const values = valuesOf(kernel, tuner.push({ address: at.address, count: 4000, isCodes: true }), 2).slice(400, -400);
      return 10 * Math.log10((2 * values.reduce((sum, x) => sum + x * x, 0)) / values.length);
    });
    expect(heardDb[0]).toBeCloseTo(0, 2);
    expect(heardDb[1]).toBeLessThan(-74);
  });

  it('are summed without an overflow, whatever they are', () => {
    // Every code at the end of the scale that makes the sum the largest it can be: the sign of each tap.
    const kernel = testKernel();
    for (const centreHz of [0, 12000, 24000, 45000]) {
      const [asCodes, asFloats] = [1, 2, 3, 4].flatMap((seed) => {
        const values = Int16Array.from(noise(4000, 1, 1, seed), (x) => (x > 0 ? 32767 : -32768));
        const codes = kernel.take(values.length, 2);
        const floats = kernel.take(values.length);
        kernel.codes(codes).set(values);
        kernel.floats(floats).set(Array.from(values, (code) => code / 32768));
        return [
          { address: codes.address, count: 2000, isCodes: true },
          { address: floats.address, count: 2000 },
        ].map((pairs) =>
          valuesOf(kernel, new Tuner(kernel, { sampleRateHz: 192000, centreHz, keptHz: 36000, leastRateHz: 96000 }).push(pairs), 2),
        );
      });
      asCodes.forEach((value, k) => {
        expect(Math.abs(value - asFloats[k])).toBeLessThan(3e-4);
      });
    }
  });

  it.each([1, 3, 4, 257, 1000])('of %i pairs have the moments of floats', (pairs) => {
    const kernel = testKernel();
    const [asCodes, asFloats] = both(kernel, 2 * pairs).map((values) => {
      const sums = new MomentSums(kernel, 3);
      // Cut in two, so that parts go on from one block into the next.
      for (const [from, to] of [
        [0, pairs >> 1],
        [pairs >> 1, pairs],
      ]) {
        const isCodes = values.isCodes === true;
        sums.add({ address: values.address + (isCodes ? 4 : 8) * from, count: to - from, isCodes });
      }
      return { ...sums.result(), parts: sums.parts };
    });
    expect(asFloats.parts).toHaveLength(Math.max(1, Math.floor(pairs / 3)));
    asFloats.parts.forEach((power, k) => {
      expect(asCodes.parts[k]).toBeCloseTo(power, 5);
    });
    expect(asFloats.parts.reduce((sum, power) => sum + power, 0)).toBeGreaterThan(0);
    expect(asCodes.peak).toBe(1);
    for (const key of ['count', 'i', 'q', 'ii', 'qq', 'iq', 'peak'] as const) expect(asCodes[key]).toBeCloseTo(asFloats[key], 3);
  });
});

describe('pieces of a recording', () => {
  const pieces = (block: Int16Array | Float32Array, length: number, cut: number, isReadThere: boolean) => {
    const kernel = testKernel();
    const out: number[][] = [];
    const feed = new Pieces(kernel, length, ({ address, count, isCodes }: PieceAt) => {
      out.push([...(isCodes ? kernel.codes({ address, length: count }) : kernel.floats({ address, length: count }))]);
      // What uses a piece may ask for more memory, which moves it.
      kernel.take(100_000);
    });
    for (let at = 0; at < block.length; at += cut) {
      const part = block.slice(at, at + cut);
      const room = isReadThere ? feed.room(part.byteLength) : undefined;
      if (!room) {
        feed.push(part);
        continue;
      }
      room.set(new Uint8Array(part.buffer));
      feed.push(part instanceof Int16Array ? new Int16Array(room.buffer, room.byteOffset, part.length) : part);
    }
    feed.end();
    return out;
  };

  it.each([1, 5, 64, 999, 1000])('are the same however it is cut (%i at a time) and wherever it was read to', (cut) => {
    const codes = Int16Array.from({ length: 1000 }, (_, n) => n - 500);
    const whole = Array.from({ length: 16 }, (_, k) => [...codes.subarray(64 * k, 64 * k + 64)]);
    expect(pieces(codes, 64, cut, false)).toEqual(whole);
    expect(pieces(codes, 64, cut, true)).toEqual(whole);
    expect(pieces(Float32Array.from(codes), 64, cut, false)).toEqual(whole);
  });

  it('reach a voice as codes, and give the numbers of floats', async () => {
    const talk = voiceLike(48000, 4.013, { level: 0.2 });
    const coded = await sourceOf(48000, [talk], PCM16);
    const kernel = testKernel();
    const kinds = new Set<boolean>();
    await eachMono(coded, kernel, 9600, {}, [0, 1], ({ isCodes }) => kinds.add(isCodes === true));
    // The last block is not whole.
    expect([...kinds]).toEqual([true, false]);
    const rounded = talk.map((x) => Math.round(32768 * x) / 32768);
    const [{ measurement: a }, { measurement: b }] = [await measureVoice(coded), await measureVoice(await sourceOf(48000, [rounded]))];
    for (const key of ['activeSpeechLevelDb', 'loudnessLufs', 'pitchHz', 'noiseFloorDb', 'tiltDbPerOctave'] as const) {
      expect(a[key]).not.toBeNull();
      expect(a[key]).toBeCloseTo(b[key] ?? NaN, 2);
    }
    expect(await measureVoice(recut(coded, [777, 4096]))).toEqual(await measureVoice(coded));
  });
});
