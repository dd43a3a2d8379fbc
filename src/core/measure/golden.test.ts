/**
 * Golden numbers: what is measured of a few fixed signals, kept with the core version that measured it. A number that
 * changes while the version stays is a number that somebody's stored overs contradict: raise CORE_VERSION, say in
 * docs/measurements.md what changed, and write the table anew with GOLDEN=write.
 */
import { readFileSync, writeFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { iqSource, join, mix, noise, scaled, silence, sine, sourceOf, voiceLike } from '../../../tests/support/signals.ts';
import { bandPassTaps, filterCentred } from '../dsp/filter/fir.ts';
import { testSignal } from '../dsp/signals/testSignals.ts';
import { amModulate } from '../modem/am.ts';
import { FrequencyModulator } from '../modem/fm.ts';
import { ssbModulate } from '../modem/ssb.ts';
import { CORE_VERSION, type Measurement, type MeasurementKind } from './measurement.ts';
import { measureRecording } from './measureRecording.ts';

const FILE = 'src/core/measure/golden.json';
/** Enough to see a change of definition, few enough to stand another processor's rounding. */
const DIGITS = 4;
const RATE = 24000;

const talk = filterCentred(join(silence(RATE, 0.5), voiceLike(RATE, 4), silence(RATE, 0.5)), bandPassTaps(RATE, 300, 2700, 401));
const SIGNALS: Record<string, () => Promise<Measurement>> = {
  voice: async () =>
    measured('voice', await sourceOf(RATE, [mix(talk, noise(RATE, 5, 0.0005), sine(RATE, 60, 5, 0.002), sine(RATE, 120, 5, 0.002))])),
  ssb: async () => measured('ssb', await iqSource(RATE, ssbModulate(talk, RATE, 2500, 'usb'), { noiseRms: 1e-4 }), { carrierHz: 2500 }),
  am: async () => measured('am', await iqSource(RATE, amModulate(scaled(talk, 3), RATE, -2000, 0.9))),
  fm: async () =>
    measured('fm', await iqSource(RATE, new FrequencyModulator(RATE, 1500, 2400).push(mix(scaled(talk, 2), sine(RATE, 88.5, 5, 0.2))))),
  'two-tone': async () => {
    const tones = mix(sine(RATE, 700, 2, 0.4), sine(RATE, 1900, 2, 0.4));
    const bent = tones.map((x) => x - 0.05 * x ** 3);
    return measured('two-tone', await iqSource(RATE, ssbModulate(bent, RATE, 2000, 'usb')));
  },
  response: async () =>
    measured(
      'response',
      await sourceOf(16000, [
        filterCentred(testSignal({ signal: 'sweep', rateHz: 16000, seconds: 4, levelDb: -6 }), bandPassTaps(16000, 300, 2700, 401)),
      ]),
    ),
};

const measured = async (
  kind: Exclude<MeasurementKind, 'power'>,
  source: Awaited<ReturnType<typeof sourceOf>>,
  options = {},
): Promise<Measurement> => (await measureRecording(kind, source, options)).measurement;

/** Numbers to so many digits, findings by code and severity; words may change. */
function digest(value: unknown): unknown {
  if (typeof value === 'number') return Math.abs(value) < 1e-12 ? 0 : Number(value.toPrecision(DIGITS));
  if (Array.isArray(value)) return value.map(digest);
  if (value === null || typeof value !== 'object') return value;
  if ('code' in value && 'severity' in value) return `${value.code} ${value.severity}`;
  return Object.fromEntries(
    Object.entries(value).flatMap(([key, each]) =>
      key === 'notes' ? [['notes', Object.keys(each as object).sort()]] : [[key, digest(each)]],
    ),
  );
}

describe('golden numbers', () => {
  it('changed only with a new core version', async () => {
    const numbers: Record<string, unknown> = {};
    for (const [name, measure] of Object.entries(SIGNALS)) numbers[name] = digest(await measure());
    if (process.env.GOLDEN === 'write') writeFileSync(FILE, `${JSON.stringify({ version: CORE_VERSION, numbers })}\n`);
    const kept = JSON.parse(readFileSync(FILE, 'utf8'));
    expect(kept.version).toBe(CORE_VERSION);
    expect(numbers).toEqual(kept.numbers);
  });
});
