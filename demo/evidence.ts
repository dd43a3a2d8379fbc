/**
 * Makes the demo's captures beside the voices: I/Q recordings of the same synthetic voices as SSB, AM and FM with
 * known faults, sweeps through a good and a muffled radio, two tones and a scope trace. Run by `npm run demo`;
 * the results are checked in.
 */
import { mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { BiquadChain, butterworthQs, highPass, lowPass } from '../src/core/dsp/filter/biquad.ts';
import { bandPassTaps, filterCentred } from '../src/core/dsp/filter/fir.ts';
import { atRate, resampled } from '../src/core/dsp/filter/resample.ts';
import { analytic } from '../src/core/dsp/signals/analytic.ts';
import { testSignal } from '../src/core/dsp/signals/testSignals.ts';
import { gaussian, seededRandom } from '../src/core/dsp/statistics/random.ts';
import { type Complex, shifted } from '../src/core/dsp/stream/complex.ts';
import { bytesInMemory } from '../src/core/files/byteSource.ts';
import { openWav, readAll } from '../src/core/files/samples.ts';
import { writeWav } from '../src/core/files/wavWriter.ts';
import { amModulate } from '../src/core/modem/am.ts';
import { FrequencyModulator } from '../src/core/modem/fm.ts';
import { ssbModulate } from '../src/core/modem/ssb.ts';
import { dbToAmplitude } from '../src/core/units/conversions.ts';
import type { DemoEvidence } from '../src/server/demo/demo.ts';

const folder = join(process.cwd(), 'demo');
const random = seededRandom(2026);
const normal = gaussian(random);
const SECONDS = 6;

/** A piece of a demo over's talk at a rate, peak 1, as a transmitter's filter would let it through. */
async function talk(file: string, rateHz: number, highHz = 2700): Promise<Float64Array> {
  const source = await openWav(bytesInMemory(new Uint8Array(readFileSync(join(folder, 'overs', file)))));
  const piece = (await readAll(source)).slice(0, SECONDS * source.sampleRateHz);
  const clean = filterCentred(atRate(piece, source.sampleRateHz, rateHz), bandPassTaps(rateHz, 300, highHz, 601));
  const peak = clean.reduce((most, x) => Math.max(most, Math.abs(x)), 0);
  return clean.map((x) => x / peak);
}

/** I/Q as a 16-bit file with receiver noise, `levelDb` at the peak. */
function iqFile(name: string, rateHz: number, { i, q }: Complex, levelDb: number, noiseDb = -85): void {
  const peak = i.reduce((most, x, n) => Math.max(most, Math.hypot(x, q[n])), 0);
  const gain = dbToAmplitude(levelDb) / peak;
  const noisy = (part: Float64Array) => part.map((x) => gain * x + dbToAmplitude(noiseDb) * normal());
  writeFileSync(
    join(folder, 'evidence', name),
    writeWav({ sampleRateHz: rateHz, channels: 2, bits: 16, encoding: 'pcm' }, [noisy(i), noisy(q)]),
  );
}

/** A driven amplifier: straight to begin with, flat in the end (C. Rapp 1991, smoothness 3). */
function amplified({ i, q }: Complex, driveDb: number): Complex {
  const drive = dbToAmplitude(driveDb);
  const gain = i.map((x, n) => drive / (1 + (drive * Math.hypot(x, q[n])) ** 6) ** (1 / 6));
  return { i: i.map((x, n) => x * gain[n]), q: q.map((x, n) => x * gain[n]) };
}

const plus = (a: Complex, b: Complex, db: number): Complex => ({
  i: a.i.map((x, n) => x + dbToAmplitude(db) * b.i[n]),
  q: a.q.map((x, n) => x + dbToAmplitude(db) * b.q[n]),
});

/** The response signal through a radio, heard on a receiver that is a little off. */
function sweepFile(name: string, highHz: number, order: number, mistuneHz: number, ppm: number): void {
  const rate = 12_000;
  const sent = testSignal({ signal: 'sweep', rateHz: rate, seconds: 3, levelDb: -12 });
  const filters = [
    ...butterworthQs(6).map((each) => highPass(rate, 250, each)),
    ...butterworthQs(order).map((each) => lowPass(rate, highHz, each)),
  ];
  const bent = sent.map((x) => x + 0.02 * x * x);
  const moved = resampled(shifted(analytic(new BiquadChain(filters).process(bent)), rate, mistuneHz).i, 1 + ppm * 1e-6);
  const noisy = moved.map((x) => x + dbToAmplitude(-75) * normal());
  writeFileSync(join(folder, 'evidence', name), writeWav({ sampleRateHz: rate, channels: 1, bits: 16, encoding: 'pcm' }, [noisy]));
}

/** 2 ms of two tones across 50 ohm, as a scope with an envelope of 21.4 V shows them. */
function traceFile(name: string): void {
  const rows = Array.from({ length: 1500 }, (_, n) => {
    const t = (n * 2e-3) / 1500;
    const envelope = 10.7 * (Math.cos(2 * Math.PI * 600 * t) + 0.04 * Math.cos(2 * Math.PI * 1800 * t));
    const volts = envelope * Math.cos(2 * Math.PI * 7.0312e6 * t) + 0.05 * normal();
    return `${(t * 1e6).toFixed(3)}e-6,${volts.toFixed(3)}`;
  });
  writeFileSync(join(folder, 'evidence', name), ['second,volt', ...rows, ''].join('\n'));
}

const OVER = { kind: 'over', load: 'dummy load', powerW: 10, receiver: 'Shack second receiver', alcReading: null, settings: {} } as const;

const PLAN: DemoEvidence = [
  {
    ...OVER,
    key: 'ssb-clean',
    at: [1, '18:02'],
    card: 'runa-dx',
    alcReading: 0.45,
    note: 'Wide recording, whip near the dummy load.',
    file: 'ssb-clean.wav',
    measureAs: 'ssb',
    settings: { sideband: 'usb' },
  },
  {
    ...OVER,
    key: 'ssb-overdriven',
    at: [1, '18:06'],
    card: 'runa-dx',
    powerW: 40,
    alcReading: 0.95,
    note: 'Shouted from close by, to see what it does.',
    file: 'ssb-overdriven.wav',
    measureAs: 'ssb',
    settings: { sideband: 'usb', carrierHz: 3000 },
  },
  {
    ...OVER,
    key: 'ssb-sideband',
    at: [1, '18:31'],
    card: 'tilo-hill',
    powerW: 5,
    note: 'The little radio, as it came from the kit bench.',
    file: 'ssb-sideband.wav',
    measureAs: 'ssb',
    settings: { sideband: 'usb', carrierHz: 3000 },
  },
  {
    ...OVER,
    key: 'am-under',
    at: [1, '18:44'],
    card: 'bram-am',
    note: 'Mic gain as it stands for SSB.',
    file: 'am-under.wav',
    measureAs: 'am',
  },
  { ...OVER, key: 'fm-wide', at: [1, '19:01'], card: 'runa-fm', powerW: 5, note: 'Set to wide.', file: 'fm-wide.wav', measureAs: 'fm' },
  {
    ...OVER,
    key: 'fm-narrow',
    at: [1, '19:05'],
    card: 'runa-fm',
    powerW: 5,
    note: 'After a battery change: heard as weak on the repeater.',
    file: 'fm-narrow.wav',
    measureAs: 'fm',
  },
  {
    ...OVER,
    key: 'tones',
    at: [1, '19:20'],
    card: 'bram-dx',
    powerW: 20,
    note: 'Two tones for ten seconds only.',
    file: 'two-tone.wav',
    measureAs: 'two-tone',
  },
  {
    ...OVER,
    key: 'sweep-good',
    at: [1, '19:31'],
    card: 'bram-dx',
    note: 'Test sweep into the mic socket.',
    file: 'sweep-good.wav',
    measureAs: 'response',
  },
  {
    ...OVER,
    key: 'sweep-muffled',
    at: [1, '19:40'],
    card: 'tilo-hill',
    powerW: 5,
    note: 'The same sweep into the little radio.',
    file: 'sweep-muffled.wav',
    measureAs: 'response',
  },
  {
    ...OVER,
    key: 'scope',
    at: [1, '19:52'],
    card: 'tilo-hill',
    powerW: 1.2,
    note: 'Scope across the dummy load, two tones.',
    file: 'scope-trace.csv',
    measureAs: 'power',
    settings: { loadOhms: 50 },
  },
];

async function main(): Promise<void> {
  rmSync(join(folder, 'evidence'), { recursive: true, force: true });
  mkdirSync(join(folder, 'evidence'));
  const rate = 24_000;
  const runa = ssbModulate(await talk('14-runa-gain.wav', rate), rate, 3000, 'usb');
  iqFile('ssb-clean.wav', rate, amplified(runa, -12), -10);
  iqFile('ssb-overdriven.wav', rate, amplified(runa, 9), -6);
  const tilo = await talk('04-tilo-first.wav', rate, 2500);
  const crossed = plus(ssbModulate(tilo, rate, 3000, 'usb'), ssbModulate(tilo, rate, 3000, 'lsb'), -21);
  iqFile('ssb-sideband.wav', rate, crossed, -14);
  iqFile('am-under.wav', rate, amModulate(await talk('03-bram-after.wav', rate), rate, -1500, 0.35), -12);
  const fmRate = 32_000;
  const words = (await talk('17-runa-repeater.wav', fmRate, 3000)).map((x) => Math.max(-0.6, Math.min(0.6, 1.6 * x)) / 0.6);
  const opening = words.map((x, n) => 0.88 * x + 0.12 * Math.sin((2 * Math.PI * 88.5 * n) / fmRate));
  iqFile('fm-wide.wav', fmRate, new FrequencyModulator(fmRate, 1800, 4700).push(opening), -12);
  iqFile('fm-narrow.wav', fmRate, new FrequencyModulator(fmRate, 1800, 2350).push(opening), -12);
  const tones = Float64Array.from(
    { length: 3 * rate },
    (_, n) => Math.sin((2 * Math.PI * 700 * n) / rate) + Math.sin((2 * Math.PI * 1900 * n) / rate),
  );
  iqFile('two-tone.wav', rate, amplified(ssbModulate(tones, rate, 2000, 'usb'), -7.5), -9);
  sweepFile('sweep-good.wav', 2800, 10, 18, 35);
  sweepFile('sweep-muffled.wav', 1900, 4, -41, -22);
  traceFile('scope-trace.csv');
  writeFileSync(join(folder, 'evidence.json'), `${JSON.stringify(PLAN, null, 1)}\n`);
}

await main();
