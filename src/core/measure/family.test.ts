/**
 * Properties that every kind of measurement has, walked over the whole family: degenerate recordings, the coding of
 * the samples, level, channels, abort and progress.
 */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { join, noise, silence, sine, sourceOf, voiceLike } from '../../../tests/support/signals.ts';
import { bandPassTaps, filterCentred } from '../dsp/filter/fir.ts';
import type { Complex } from '../dsp/stream/complex.ts';
import { bytesInMemory } from '../files/byteSource.ts';
import { openWav } from '../files/samples.ts';
import { type WavShape, writeWav } from '../files/wavWriter.ts';
import { amModulate } from '../modem/am.ts';
import { FrequencyModulator } from '../modem/fm.ts';
import { ssbModulate } from '../modem/ssb.ts';
import { type Measurement, type MeasurementKind, RADIO_KINDS } from './measurement.ts';
import { measureRecording } from './measureRecording.ts';
import { NotMeasurable } from './radio/iq.ts';

const RATE = 24000;
type RadioKind = (typeof RADIO_KINDS)[number] & ('ssb' | 'am' | 'fm' | 'two-tone');

const talk = filterCentred(voiceLike(RATE, 3), bandPassTaps(RATE, 300, 2700, 401));
const twoTones = sine(RATE, 700, 2, 0.5).map((x, n) => x + 0.5 * Math.sin((2 * Math.PI * 1900 * n) / RATE));

/** A good recording of each radio kind, away from the centre of the file. */
const GOOD: Record<RadioKind, Complex> = {
  ssb: ssbModulate(talk, RATE, 3000, 'usb'),
  am: amModulate(sine(RATE, 900, 2), RATE, -2000, 0.7),
  fm: new FrequencyModulator(RATE, 1500, 2400).push(sine(RATE, 1200, 2)),
  'two-tone': ssbModulate(twoTones, RATE, 2000, 'usb'),
};
const OPTIONS: Record<RadioKind, object> = { ssb: { carrierHz: 3000 }, am: {}, fm: {}, 'two-tone': {} };
const KINDS = RADIO_KINDS as readonly RadioKind[];
const NOT_FINITE = 'a number that is none';

/** Channels with a little noise, at a level. */
const channelsOf = ({ i, q }: Complex, gain = 0.3): Float64Array[] =>
  [i, q].map((part, seed) => {
    const hiss = noise(RATE, part.length / RATE, 1e-4, seed + 5);
    return part.map((x, n) => gain * (x + hiss[n]));
  });

const measure = async (kind: MeasurementKind, channels: readonly Float64Array[], options: object = {}) =>
  (await measureRecording(kind as Exclude<MeasurementKind, 'power'>, await sourceOf(RATE, channels), options)).measurement;

/** The numbers that a kind is judged by, in one row. */
function numbersOf(m: Measurement): (number | null)[] {
  switch (m.kind) {
    case 'ssb':
      return [m.occupiedBandwidthHz, m.oppositeSidebandDb, m.carrierDb, m.peakToAverageDb, ...(m.passbandHz ?? []), ...(m.extentHz ?? [])];
    case 'am':
      return [m.modulationDepth.positive, m.modulationDepth.negative, m.audioBandwidthHz, m.carrierOffsetHz, m.occupiedBandwidthHz];
    case 'fm':
      return [m.peakDeviationHz, m.rmsDeviationHz, m.audioBandwidthHz, m.offsetHz, m.occupiedBandwidthHz];
    case 'two-tone':
      return [...(m.tonesHz ?? [])];
    default:
      return [];
  }
}

/** No number may be NaN or infinite, and every missing one has its reason. */
function expectSound(m: Measurement): void {
  const text = JSON.stringify(m, (_, value) => (typeof value === 'number' && !Number.isFinite(value) ? NOT_FINITE : value));
  expect(text).not.toContain(NOT_FINITE);
  for (const [key, value] of Object.entries(m)) if (value === null) expect(m.notes, key).toHaveProperty(key);
  for (const { text: words, evidence, severity } of m.findings) {
    expect(words).toMatch(/[.?]$/);
    expect(evidence.length).toBeGreaterThan(5);
    expect(['ok', 'watch', 'fault']).toContain(severity);
  }
}

const DEGENERATE: readonly (readonly [string, readonly Float64Array[]])[] = [
  ['one sample', [Float64Array.of(0.5), Float64Array.of(-0.5)]],
  ['two samples', [Float64Array.of(0.5, 0.1), Float64Array.of(-0.5, 0.2)]],
  ['silence', [silence(RATE, 0.5), silence(RATE, 0.5)]],
  ['shorter than a frame', [noise(RATE, 0.03, 0.1), noise(RATE, 0.03, 0.1, 2)]],
  ['shorter than a window', [noise(RATE, 0.07, 0.1), noise(RATE, 0.07, 0.1, 2)]],
  ['a constant', [new Float64Array(RATE).fill(0.4), new Float64Array(RATE).fill(-0.2)]],
  ['one channel dead', [noise(RATE, 0.5, 0.1), silence(RATE, 0.5)]],
  ['both channels the same', [noise(RATE, 0.5, 0.1), noise(RATE, 0.5, 0.1)]],
  ['white noise', [noise(RATE, 1, 0.1), noise(RATE, 1, 0.1, 2)]],
  ['full scale throughout', [new Float64Array(RATE).fill(1), new Float64Array(RATE).fill(1)]],
  ['a single click', [Float64Array.from({ length: RATE }, (_, n) => (n === 9000 ? 1 : 0)), silence(RATE, 1)]],
  ['next to nothing', [noise(RATE, 0.5, 1e-9), noise(RATE, 0.5, 1e-9, 2)]],
  ['less than single precision holds', [Float64Array.of(-2.6e-23, 0), Float64Array.of(0, 0)]],
  ['odd length', [noise(RATE, 1, 0.1).subarray(0, 23977), noise(RATE, 1, 0.1, 2).subarray(0, 23977)]],
];

describe.each(KINDS)('%s', (kind) => {
  it.each(DEGENERATE)('of %s is measured, or missing with a reason', async (_, channels) => {
    expectSound(await measure(kind, channels, OPTIONS[kind]));
  });

  it('of a good recording is complete', async () => {
    const m = await measure(kind, channelsOf(GOOD[kind]), OPTIONS[kind]);
    expectSound(m);
    expect(numbersOf(m)).not.toContain(null);
  });

  it('needs I and Q', async () => {
    await expect(measure(kind, [GOOD[kind].i])).rejects.toThrow(NotMeasurable);
  });

  it('does not depend on the level', async () => {
    const [loud, quiet] = [await measure(kind, channelsOf(GOOD[kind], 0.5)), await measure(kind, channelsOf(GOOD[kind], 0.01))];
    const [a, b] = [numbersOf(loud), numbersOf(quiet)];
    a.forEach((value, k) => {
      expect(Math.abs((value ?? 0) - (b[k] ?? 0))).toBeLessThan(0.02 + 1e-4 * Math.abs(value ?? 0));
    });
  });

  it('is mirrored when I and Q change places', async () => {
    const [i, q] = channelsOf(GOOD[kind]);
    const options = kind === 'ssb' ? { carrierHz: -3000, sideband: 'lsb' } : {};
    const mirrored = await measure(kind, [q, i], options);
    const turned = await measure(kind, [q, i], { ...OPTIONS[kind], isSwapped: true });
    const plain = await measure(kind, [i, q], OPTIONS[kind]);
    const strip = ({ ...m }: Measurement) => JSON.stringify(numbersOf(m));
    expect(strip(turned)).toBe(strip(plain));
    if (plain.kind === 'fm' && mirrored.kind === 'fm') expect(mirrored.offsetHz).toBeCloseTo(-(plain.offsetHz ?? 0), 0);
    if (plain.kind === 'am' && mirrored.kind === 'am') expect(mirrored.carrierOffsetHz).toBeCloseTo(-(plain.carrierOffsetHz ?? 0), 1);
    if (plain.kind === 'ssb' && mirrored.kind === 'ssb')
      expect(mirrored.occupiedBandwidthHz).toBeCloseTo(plain.occupiedBandwidthHz ?? 0, -1);
    if (plain.kind === 'two-tone' && mirrored.kind === 'two-tone') expect(mirrored.tonesHz?.[0]).toBeCloseTo(-(plain.tonesHz?.[1] ?? 0), 0);
  });

  it('follows a recording that is moved in frequency', async () => {
    const { i, q } = GOOD[kind];
    const turn = (2 * Math.PI * 500) / RATE;
    const moved = {
      i: i.map((x, n) => x * Math.cos(turn * n) - q[n] * Math.sin(turn * n)),
      q: i.map((x, n) => x * Math.sin(turn * n) + q[n] * Math.cos(turn * n)),
    };
    const at = async (signal: Complex, carrierHz: number) => measure(kind, channelsOf(signal), kind === 'ssb' ? { carrierHz } : {});
    const [here, there] = [await at(GOOD[kind], 3000), await at(moved, 3500)];
    if (here.kind === 'am' && there.kind === 'am') expect((there.carrierOffsetHz ?? 0) - (here.carrierOffsetHz ?? 0)).toBeCloseTo(500, 1);
    if (here.kind === 'fm' && there.kind === 'fm') expect((there.offsetHz ?? 0) - (here.offsetHz ?? 0)).toBeCloseTo(500, 0);
    if (here.kind === 'two-tone' && there.kind === 'two-tone')
      expect((there.tonesHz?.[0] ?? 0) - (here.tonesHz?.[0] ?? 0)).toBeCloseTo(500, 0);
    if (here.kind === 'ssb' && there.kind === 'ssb') {
      expect(Math.abs((there.occupiedBandwidthHz ?? 0) - (here.occupiedBandwidthHz ?? 0))).toBeLessThan(15);
      expect(Math.abs((there.passbandHz?.[1] ?? 0) - (here.passbandHz?.[1] ?? 0))).toBeLessThan(15);
    }
  });

  it('comes out alike from every coding of the samples', async () => {
    const codings: readonly Omit<WavShape, 'sampleRateHz' | 'channels'>[] = [
      { bits: 16, encoding: 'pcm' },
      { bits: 24, encoding: 'pcm' },
      { bits: 32, encoding: 'pcm' },
      { bits: 32, encoding: 'float' },
      { bits: 64, encoding: 'float' },
    ];
    const all = await Promise.all(
      codings.map(async (coding) => {
        const bytes = writeWav({ sampleRateHz: RATE, channels: 2, ...coding }, channelsOf(GOOD[kind]));
        return numbersOf((await measureRecording(kind, await openWav(bytesInMemory(bytes)), OPTIONS[kind])).measurement);
      }),
    );
    // 16 bits round at -98 dB; below that there is only the noise that was put in.
    for (const numbers of all.slice(1)) {
      numbers.forEach((value, k) => {
        expect(Math.abs((value ?? 0) - (all[0][k] ?? 0))).toBeLessThan(0.5 + 1e-3 * Math.abs(value ?? 0));
      });
    }
  });

  it('stops when told to, and tells how far it is', async () => {
    const source = await sourceOf(RATE, channelsOf(GOOD[kind]));
    const shares: number[] = [];
    await measureRecording(kind, source, { ...OPTIONS[kind], onProgress: (share) => shares.push(share) });
    expect(shares.length).toBeGreaterThan(1);
    expect(shares.every((share, n) => share >= 0 && share <= 1 + 1e-9 && (n === 0 || share >= shares[n - 1] - 1e-9))).toBe(true);
    expect(shares[shares.length - 1]).toBeCloseTo(1, 6);
    const stopped = new AbortController();
    stopped.abort(new Error('enough'));
    await expect(measureRecording(kind, source, { ...OPTIONS[kind], signal: stopped.signal })).rejects.toThrow('enough');
  });

  it('reads samples that are no numbers as silence, and says how many', async () => {
    const [i, q] = channelsOf(GOOD[kind]);
    i[100] = Number.NaN;
    q[2000] = Number.POSITIVE_INFINITY;
    q[2001] = 1e30;
    const m = await measure(kind, [i, q], OPTIONS[kind]);
    expectSound(m);
    expect(m.notes.samples).toMatch(/^3 samples/);
  });

  it('never breaks on short random recordings', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.tuple(fc.double({ min: -1, max: 1, noNaN: true }), fc.double({ min: -1, max: 1, noNaN: true })), {
          minLength: 1,
          maxLength: 3000,
        }),
        async (pairs) => {
          expectSound(
            await measure(
              kind,
              [0, 1].map((c) => Float64Array.from(pairs, (pair) => pair[c])),
            ),
          );
        },
      ),
      { numRuns: 15 },
    );
  });
});

describe('a transmission between pauses', () => {
  it.each(KINDS)('counts as %s without the pauses', async (kind) => {
    const whole = await measure(kind, channelsOf(GOOD[kind]), OPTIONS[kind]);
    const hiss = (seconds: number, seed: number) => noise(RATE, seconds, 3e-5, seed);
    const keyed = channelsOf(GOOD[kind]).map((part, c) => join(hiss(0.6, c + 1), part, hiss(0.4, c + 3)));
    const among = await measure(kind, keyed, OPTIONS[kind]);
    const key = (m: Measurement): number | null =>
      m.kind === 'ssb'
        ? m.occupiedBandwidthHz
        : m.kind === 'am'
          ? m.modulationDepth.positive
          : m.kind === 'fm'
            ? m.rmsDeviationHz
            : m.kind === 'two-tone'
              ? (m.tonesHz?.[0] ?? null)
              : null;
    expect(Math.abs((key(among) ?? 0) / (key(whole) ?? 1) - 1)).toBeLessThan(0.02);
    expect(among.durationS).toBeCloseTo(whole.durationS + 1, 6);
  });

  it('voice too: its level and tone stay, the room is heard in the pauses', async () => {
    const voice = voiceLike(RATE, 4);
    const room = noise(RATE, 6, 1e-3);
    const whole = join(silence(RATE, 1), voice, silence(RATE, 1)).map((x, n) => x + room[n]);
    const m = await measure('voice', [whole]);
    const alone = await measure('voice', [voice]);
    if (m.kind !== 'voice' || alone.kind !== 'voice') throw new Error('not a voice');
    expect(Math.abs((m.activeSpeechLevelDb ?? 0) - (alone.activeSpeechLevelDb ?? 0))).toBeLessThan(0.3);
    expect(m.noiseFloorDb).toBeCloseTo(-60, 0);
  });
});
