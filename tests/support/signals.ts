/** Test signals, made from formulas. Full scale 1.0. */

import { Room, type SamplesAt } from '../../src/core/dsp/filter/samplesAt.ts';
import { createKernel, type Kernel } from '../../src/core/dsp/kernel/kernel.ts';
import { gaussian, seededRandom } from '../../src/core/dsp/statistics/random.ts';
import { joined } from '../../src/core/dsp/stream/joined.ts';
import { bytesInMemory } from '../../src/core/files/byteSource.ts';
import { openWav, type SampleSource } from '../../src/core/files/samples.ts';
import { type WavShape, writeWav } from '../../src/core/files/wavWriter.ts';

export function sine(rateHz: number, hz: number, seconds: number, amplitude = 1, phase = 0): Float64Array {
  const samples = silence(rateHz, seconds);
  for (let n = 0; n < samples.length; n++) samples[n] = amplitude * Math.sin((2 * Math.PI * hz * n) / rateHz + phase);
  return samples;
}

/** White noise of a given RMS. */
export function noise(rateHz: number, seconds: number, rms: number, seed = 1): Float64Array {
  const normal = gaussian(seededRandom(seed));
  const samples = silence(rateHz, seconds);
  for (let n = 0; n < samples.length; n++) samples[n] = rms * normal();
  return samples;
}

export const silence = (rateHz: number, seconds: number): Float64Array => new Float64Array(Math.round(rateHz * seconds));

export const join = (...parts: readonly Float64Array[]): Float64Array => joined(parts);

/** As long as the first. */
export function mix(...parts: readonly Float64Array[]): Float64Array {
  const sum = new Float64Array(parts[0].length);
  for (const part of parts) for (let n = 0; n < Math.min(sum.length, part.length); n++) sum[n] += part[n];
  return sum;
}

export const scaled = (samples: Float64Array, gain: number): Float64Array => samples.map((x) => gain * x);

/** Largest sample, signed. */
export const highest = (samples: Float64Array): number => samples.reduce((most, x) => Math.max(most, x), -Infinity);

export const rms = (samples: Float64Array): number => Math.sqrt(samples.reduce((sum, x) => sum + x * x, 0) / samples.length);

/**
 * Something like a voice: a glottal pulse train of wandering pitch with a falling spectrum, in words with pauses.
 * @param tilt dB an octave of its harmonics
 */
export function voiceLike(rateHz: number, seconds: number, { pitchHz = 120, tilt = -6, level = 0.1, seed = 3 } = {}): Float64Array {
  const random = seededRandom(seed);
  const length = Math.round(rateHz * seconds);
  const out = new Float64Array(length);
  const harmonics = Math.floor(Math.min(5000, rateHz * 0.45) / (pitchHz * 1.1));
  // Each harmonic as a sine and a cosine of the angle, which turn on by one multiplication.
  const parts = Array.from({ length: harmonics }, (_, k) => {
    const [size, phase] = [(k + 1) ** (tilt / 6.02), 2 * Math.PI * random()];
    return [size * Math.cos(phase), size * Math.sin(phase)] as const;
  });
  let angle = 0;
  for (let n = 0; n < length; n++) {
    const t = n / rateHz;
    const pitch = pitchHz * (1 + 0.08 * Math.sin(2 * Math.PI * 0.7 * t) + 0.03 * Math.sin(2 * Math.PI * 2.3 * t));
    angle += (2 * Math.PI * pitch) / rateHz;
    // Words of 0.6 s with pauses of 0.4 s, soft edges.
    const word = t % 1;
    const gate = word < 0.6 ? Math.sin((Math.PI * word) / 0.6) ** 0.5 : 0;
    if (gate === 0) continue;
    let sum = 0;
    const [c, s] = [Math.cos(angle), Math.sin(angle)];
    let [re, im] = [c, s];
    for (const [ofSine, ofCosine] of parts) {
      sum += ofSine * im + ofCosine * re;
      [re, im] = [re * c - im * s, re * s + im * c];
    }
    out[n] = gate * level * sum;
  }
  return out;
}

/** I and Q as one stream of pairs. */
export function interleaved(i: Float64Array, q: Float64Array): Float32Array {
  const pairs = new Float32Array(2 * i.length);
  for (let n = 0; n < i.length; n++) {
    pairs[2 * n] = i[n];
    pairs[2 * n + 1] = q[n];
  }
  return pairs;
}

export const FLOAT64: Omit<WavShape, 'sampleRateHz' | 'channels'> = { bits: 64, encoding: 'float' };
export const PCM16: Omit<WavShape, 'sampleRateHz' | 'channels'> = { bits: 16, encoding: 'pcm' };

export const wavBytes = (rateHz: number, channels: readonly Float64Array[], kind: Omit<WavShape, 'sampleRateHz' | 'channels'> = FLOAT64) =>
  writeWav({ sampleRateHz: rateHz, channels: channels.length, ...kind }, channels);

export const sourceOf = (rateHz: number, channels: readonly Float64Array[], kind = FLOAT64): Promise<SampleSource> =>
  openWav(bytesInMemory(wavBytes(rateHz, channels, kind)));

/** A recording of I and Q, with noise of a given density beside them. @param noiseRms of each channel */
export function iqSource(
  rateHz: number,
  { i, q }: { i: Float64Array; q: Float64Array },
  { gain = 0.3, noiseRms = 1e-5, kind = FLOAT64 } = {},
) {
  const seconds = i.length / rateHz;
  const noisy = (part: Float64Array, seed: number) => mix(scaled(part, gain), noise(rateHz, seconds, noiseRms, seed));
  return sourceOf(rateHz, [noisy(i, 11), noisy(q, 12)], kind);
}

/** Feeds a meter in blocks of uneven sizes. */
export function feed<M extends { push(block: Float64Array): void }>(meter: M, samples: Float64Array, sizes: readonly number[] = [4096]): M {
  for (let at = 0, i = 0; at < samples.length; i++) {
    const size = sizes[i % sizes.length];
    meter.push(samples.subarray(at, at + size));
    at += size;
  }
  return meter;
}

/** Feeds a meter that takes samples in a kernel's memory, cut as `feed` cuts them. */
export function feedInKernel<M extends { push(samples: SamplesAt): void }>(
  kernel: Kernel,
  meter: M,
  samples: Float64Array,
  sizes: readonly number[] = [4096],
): M {
  const room = new Room(kernel);
  feed(
    {
      push(block) {
        const address = room.forValues(block.length);
        kernel.floats({ address, length: block.length }).set(block);
        meter.push({ address, count: block.length });
      },
    },
    samples,
    sizes,
  );
  return meter;
}

/** A kernel; every machine the tests run on has one. */
export function testKernel(): Kernel {
  const kernel = createKernel();
  if (!kernel) throw new Error('This machine has no WebAssembly with vectors.');
  return kernel;
}

/** The same recording, read in blocks of other sizes. @param frames sizes of the blocks, in turn */
export function recut(source: SampleSource, frames: readonly number[]): SampleSource {
  return {
    ...source,
    async *interleaved(options) {
      let k = 0;
      for await (const block of source.interleaved(options)) {
        for (let at = 0; at < block.length; ) {
          const size = frames[k++ % frames.length] * source.channels;
          yield block.subarray(at, at + size);
          at += size;
        }
      }
    },
  };
}
