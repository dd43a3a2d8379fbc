/** When a transmitter was keyed: transmissions by construction, in noise of known level. */
import { describe, expect, it } from 'vitest';
import { iqSource, join, noise, scaled, silence, sine, sourceOf } from '../../../../tests/support/signals.ts';
import type { Complex } from '../../dsp/stream/complex.ts';
import { amModulate } from '../../modem/am.ts';
import { FrequencyModulator } from '../../modem/fm.ts';
import { measureAm } from './am.ts';
import { measureFm } from './fm.ts';
import { keyedTransmissions, pausePower } from './keying.ts';

const RATE = 48000;
/** Parts of 10 ms: `on` at 1 with ripple, off at `noise`. */
const parts = (pattern: readonly (readonly [boolean, number])[], off: number) =>
  pattern.flatMap(([on, count]) => Array.from({ length: count }, (_, k) => (on ? 1 + 0.1 * Math.sin(k) : off * (1 + 0.2 * Math.sin(k)))));

describe('keyed transmissions', () => {
  const PATTERN = [
    [false, 100],
    [true, 100],
    [false, 50],
    [true, 200],
    [false, 80],
  ] as const;

  it.each([1e-6, 1e-3, 0.03, 0.1])('are found over noise at %f of the carrier, each less 40 ms at its ends', (off) => {
    const found = keyedTransmissions(parts(PATTERN, off), RATE, off);
    expect(found.map(({ from, to }) => [from / RATE, to / RATE])).toEqual([
      [1.04, 1.96],
      [2.54, 4.46],
    ]);
  });

  it('need no knowledge of the noise where the pauses lie deep enough', () => {
    expect(keyedTransmissions(parts(PATTERN, 0.01), RATE, null)).toHaveLength(2);
    // All keyed: nothing is taken for a pause.
    expect(keyedTransmissions(parts([[true, 300]], 0), RATE, null)).toEqual([{ from: 0.04 * RATE, to: 2.96 * RATE }]);
  });

  it('bridge a drop-out, do not follow an impulse, and are none in silence', () => {
    const gap = parts(
      [
        [true, 100],
        [false, 4],
        [true, 100],
      ],
      0,
    );
    expect(keyedTransmissions(gap, RATE, 0)).toHaveLength(1);
    const click = parts(PATTERN, 1e-3);
    click[20] = 50;
    expect(keyedTransmissions(click, RATE, 1e-3)).toHaveLength(2);
    expect(keyedTransmissions(new Array(100).fill(0), RATE, null)).toEqual([]);
  });

  it('leave the noise in the pauses', () => {
    const all = parts(PATTERN, 0.01);
    expect(pausePower(all, keyedTransmissions(all, RATE, 0.01), RATE)).toBeCloseTo(0.01, 2);
    expect(pausePower(parts([[true, 300]], 0), [{ from: 0, to: 3 * RATE }], RATE)).toBeNull();
  });
});

describe('a wide recording with pauses measures like the keyed transmission alone', () => {
  const WIDE = 192000;
  const keyed = (signal: Complex): Complex => {
    const pad = silence(WIDE, 1);
    return { i: join(pad, signal.i, pad), q: join(pad, signal.q, pad) };
  };
  // Noise 30 dB under the carrier (0.3) in 25 kHz, spread over the file's whole width.
  const NOISE = { noiseRms: 0.3 * Math.sqrt((0.001 * WIDE) / 25000 / 2) };

  it('FM of 2500 Hz', async () => {
    const { measurement: m } = await measureFm(
      await iqSource(WIDE, keyed(new FrequencyModulator(WIDE, 30000, 2500).push(sine(WIDE, 1000, 1.5))), NOISE),
    );
    // Parabolic noise of FM (handbooks) in 7.5 kHz: sqrt(N W^3 / 3C) = 75 Hz, at most about 4.5 times that on its peaks.
    expect(m.peakDeviationHz).toBeGreaterThan(2450);
    expect(m.peakDeviationHz).toBeLessThan(2500 + 4.5 * 75);
    expect(Math.abs((m.rmsDeviationHz ?? 0) - 2500 / Math.SQRT2)).toBeLessThan(20);
    expect(m.notes.peakDeviationHz).toMatch(/^Noise-limited/);
    expect(m.findings.filter(({ severity }) => severity !== 'ok')).toEqual([]);
  });

  it('AM of 80 %', async () => {
    const { measurement: m } = await measureAm(await iqSource(WIDE, keyed(amModulate(sine(WIDE, 1000, 1.5), WIDE, -40000, 0.8)), NOISE));
    expect(m.modulationDepth.positive).toBeLessThan(0.9);
    expect(m.modulationDepth.negative).toBeLessThan(0.9);
    expect(Math.abs((m.modulationDepthUsual.positive ?? 0) - 0.8)).toBeLessThan(0.06);
    expect(m.findings.filter(({ severity }) => severity !== 'ok')).toEqual([]);
  });

  it('and the sub-audible tone is no part of the voice’s deviation', async () => {
    const voice = sine(WIDE, 1000, 3).map((x, n) => 0.8 * x + 0.2 * Math.sin((2 * Math.PI * 88.5 * n) / WIDE));
    const { measurement: m } = await measureFm(
      await iqSource(WIDE, new FrequencyModulator(WIDE, 20000, 3000).push(voice), { noiseRms: 1e-5 }),
    );
    expect(m.ctcssHz).toBe(88.5);
    expect(Math.abs((m.peakDeviationHz ?? 0) - 3000)).toBeLessThan(30);
    expect(Math.abs((m.voicePeakDeviationHz ?? 0) - 2400)).toBeLessThan(60);
  });

  it('noise alone is no transmission that anybody is accused by', async () => {
    const hiss = await sourceOf(
      RATE,
      [noise(RATE, 2, 0.01), noise(RATE, 2, 0.01, 2)].map((x) => scaled(x, 1)),
    );
    for (const { findings } of [(await measureFm(hiss)).measurement, (await measureAm(hiss)).measurement]) {
      expect(findings.filter(({ severity }) => severity === 'fault')).toEqual([]);
    }
  });
});
