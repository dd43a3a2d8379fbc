/**
 * Source: SciPy, run live from Debian's package. It makes the recordings (modulators of its own, written as WAV or
 * SigMF) and works out the contract's numbers by its own means.
 */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { bytesInMemory } from '../../src/core/files/byteSource.ts';
import { openWav } from '../../src/core/files/samples.ts';
import { openSigmf, parseSigmfMeta } from '../../src/core/files/sigmf.ts';
import type {
  AmMeasurement,
  FmMeasurement,
  ResponseMeasurement,
  SsbMeasurement,
  TwoToneMeasurement,
} from '../../src/core/measure/measurement.ts';
import { measureRecording } from '../../src/core/measure/measureRecording.ts';

const folder = mkdtempSync(join(tmpdir(), 'dialtune-reference-'));
const bytesOf = (name: string) => bytesInMemory(new Uint8Array(readFileSync(join(folder, name))));
const wav = (name: string) => openWav(bytesOf(name));

const SCRIPT = `
import json, sys
import numpy as np, scipy.signal as sig, scipy.io.wavfile as wavfile
folder = sys.argv[1]
rng = np.random.default_rng(5)
truth = {}

def audio(rate, seconds):
    "noise in syllables, shaped like talk"
    n = int(rate * seconds)
    x = sig.sosfilt(sig.butter(4, [300, 2700], 'bandpass', fs=rate, output='sos'), rng.standard_normal(n))
    x = sig.sosfilt(sig.butter(1, 500, fs=rate, output='sos'), x)
    t = np.arange(n) / rate
    return x * (np.maximum(0, np.sin(2 * np.pi * 1.7 * t)) ** 2 + 1e-4)

def write(name, rate, z, kind):
    z = z / np.max(np.abs(np.r_[z.real, z.imag])) * 0.7
    pair = np.stack([z.real, z.imag], axis=1)
    if kind == 'i16': pair = np.round(pair * 32767).astype(np.int16)
    elif kind == 'u8': pair = np.round(pair * 127 + 128).astype(np.uint8)
    elif kind == 'i32': pair = np.round(pair * 2147483000).astype(np.int32)
    elif kind == 'f32': pair = pair.astype(np.float32)
    wavfile.write(f'{folder}/{name}.wav', rate, pair)
    return {'i16': lambda p: p / 32768, 'u8': lambda p: (p.astype(float) - 128) / 128, 'i32': lambda p: p / 2147483648, 'f32': lambda p: p.astype(float)}[kind](pair)

def by_definition(pair, rate, carrier, sign):
    z = pair[:, 0] + 1j * pair[:, 1]
    frame = round(0.05 * rate)
    powers = np.mean(np.abs(z[: len(z) // frame * frame].reshape(-1, frame)) ** 2, axis=1)
    active = powers >= powers.max() * 10 ** -2.5
    keep = np.repeat(active, frame)
    size = 2 ** int(np.ceil(np.log2(rate / 12)))
    w = sig.get_window('hann', size)
    total = np.zeros(size); weight = 0
    for s in range(0, len(z) - size + 1, size // 2):
        share = active[s // frame : min((s + size - 1) // frame + 1, len(active))].mean()
        total += share * np.abs(np.fft.fft(z[s : s + size] * w)) ** 2
        weight += share
    p = np.fft.fftshift(total / weight)
    f = (np.fft.fftshift(np.fft.fftfreq(size, 1 / rate)) - carrier) * sign
    band = lambda lo, hi: p[(f >= lo) & (f < hi)].sum()
    wanted = band(100, 3000)
    db = lambda x: float(10 * np.log10(x))
    inside = np.abs(z[: len(keep)][keep]) ** 2
    order = np.argsort(f)
    near = order[np.abs(f[order]) <= 15000]
    noise = np.median(p[np.abs(f) > 10000]) if np.any(np.abs(f) > 10500) else 0
    c = np.cumsum(p[near] - noise); c /= c[-1]
    edges = f[near][[np.argmax(c >= 0.005), np.argmax(c >= 0.995)]]
    return dict(peakToAverageDb=db(np.percentile(inside, 99.9) / inside.mean()), oppositeSidebandDb=db(band(-3000, -100) / wanted),
                carrierDb=db(band(-30, 30) / wanted), wantedSide=db(band(3300, 6300) / wanted), otherSide=db(band(-6300, -3300) / wanted),
                occupied=float(edges[1] - edges[0]))

for name, rate, carrier, sign, kind in [('ssb-usb', 48000, 5000, 1, 'i16'), ('ssb-lsb', 96000, -11000, -1, 'f32'), ('ssb-32', 48000, 0, 1, 'i32')]:
    x = audio(rate, 8)
    a = sig.hilbert(x)
    z = a + 10 ** (-28 / 20) * np.conj(sig.hilbert(audio(rate, 8))) + 0.02 * x.std()
    if sign < 0: z = np.conj(z)
    z = z * (1 + 0.12 * np.abs(z) ** 2 / np.max(np.abs(z)) ** 2 * -2.5)
    z = z * np.exp(2j * np.pi * carrier * np.arange(len(z)) / rate) + 1e-5 * x.std() * (rng.standard_normal(len(z)) + 1j * rng.standard_normal(len(z)))
    truth[name] = by_definition(write(name, rate, z, kind), rate, carrier, sign)

rate = 48000
t = np.arange(4 * rate) / rate
m = np.sin(2 * np.pi * 700 * t) * 0.55 + np.sin(2 * np.pi * 1810 * t) * 0.2
write('am', rate, (1 + m) * np.exp(2j * np.pi * 3217.3 * t), 'i16')
truth['am'] = dict(positive=float(np.percentile(1 + m, 99.9) - 1), negative=float(1 - np.percentile(1 + m, 0.1)))

for name, dev, ctcss in [('fm-wide', 4500, 88.5), ('fm-narrow', 2200, 0)]:
    rate = 96000
    t = np.arange(4 * rate) / rate
    m = np.sin(2 * np.pi * 1000 * t) * 0.8 + np.sin(2 * np.pi * 2500 * t) * 0.2
    d = dev * m + (600 * np.sin(2 * np.pi * ctcss * t) if ctcss else 0) - 7300
    write(name, rate, np.exp(2j * np.pi * np.cumsum(d) / rate), 'i16')
    truth[name] = dict(peak=float(np.percentile(np.abs(d - d.mean()), 99.9)), rms=float(np.std(d)), offset=float(d.mean()))

a = np.exp(2j * np.pi * 700 * t) + np.exp(2j * np.pi * 1900 * t)
z = a - 0.02 * np.abs(a) ** 2 * a - 0.001 * np.abs(a) ** 4 * a
p = np.abs(np.fft.fft(z * sig.get_window('blackmanharris', len(z)))) ** 2
line = lambda hz: p[np.round((hz + np.arange(-1.5, 1.75, 0.25)) * len(z) / rate).astype(int)].max()
truth['two-tone'] = {f'imd{2 * k + 1}Db': float(10 * np.log10(max(line(700 - k * 1200), line(1900 + k * 1200)) / ((line(700) + line(1900)) / 2))) for k in (1, 2)}
pair = np.stack([z.real, z.imag], axis=1) / 4
pair.astype('<f4').tofile(f'{folder}/two-tone.sigmf-data')
json.dump({'global': {'core:datatype': 'cf32_le', 'core:sample_rate': rate, 'core:version': '1.0.0'}, 'captures': [{'core:sample_start': 0}], 'annotations': []}, open(f'{folder}/two-tone.sigmf-meta', 'w'))

# a foreign sweep through a Chebyshev filter, frequency-shifted and resampled
rate = 48000
T = 7
t = np.arange(T * rate) / rate
sweep = 0.5 * sig.chirp(t, 100, T, 4500, method='logarithmic', phi=-90) * sig.get_window(('tukey', 0.02), len(t))
wavfile.write(f'{folder}/sweep.wav', rate, np.round(sweep * 32767).astype(np.int16))
sos = sig.cheby1(5, 1, [350, 2500], 'bandpass', fs=rate, output='sos')
got = sig.sosfilt(sos, np.r_[np.zeros(rate), sweep, np.zeros(rate)])
n = np.arange(len(got))
got = np.real(sig.hilbert(got) * np.exp(2j * np.pi * 73.0 * n / rate)) + 1e-4 * rng.standard_normal(len(got))
got = sig.resample(got, int(round(len(got) * (1 + 120e-6))))
wavfile.write(f'{folder}/sweep-recorded.wav', rate, np.round(got * 30000).astype(np.int16))
f = 1000 * 2 ** (np.arange(-36, 37) / 24)
h = 20 * np.log10(np.abs(sig.sosfreqz(sos, np.r_[f, 1000], fs=rate)[1]))
truth['sweep'] = [[float(a), float(b - h[-1])] for a, b in zip(f, h)]
json.dump(truth, sys.stdout)
`;

let truth: Record<string, Record<string, number>>;
let sweepCurve: [number, number][];

beforeAll(() => {
  const { sweep, ...numbers } = JSON.parse(
    execFileSync('/usr/bin/python3', ['-c', SCRIPT, folder], { maxBuffer: 1 << 26 }).toString('utf8'),
  );
  truth = numbers;
  sweepCurve = sweep;
}, 120_000);
afterAll(() => rmSync(folder, { recursive: true }));

describe('recordings made by SciPy, numbers by the contract worked out there', () => {
  it.each([
    ['ssb-usb', 5000, 'usb'],
    ['ssb-lsb', -11000, 'lsb'],
    ['ssb-32', 0, 'usb'],
  ] as const)('%s', async (name, carrierHz, sideband) => {
    const m = (await measureRecording('ssb', await wav(`${name}.wav`), { carrierHz, sideband })).measurement as SsbMeasurement;
    const wanted = truth[name];
    expect(Math.abs((m.peakToAverageDb ?? 0) - wanted.peakToAverageDb)).toBeLessThan(0.1);
    for (const key of ['oppositeSidebandDb', 'carrierDb'] as const) expect(Math.abs((m[key] ?? 0) - wanted[key])).toBeLessThan(0.5);
    for (const key of ['wantedSide', 'otherSide'] as const) expect(Math.abs((m.adjacentDb[key] ?? 0) - wanted[key])).toBeLessThan(0.3);
    // A bin of 12 Hz at each end.
    expect(Math.abs((m.occupiedBandwidthHz ?? 0) - wanted.occupied)).toBeLessThan(30);
  });

  it('am', async () => {
    const m = (await measureRecording('am', await wav('am.wav'))).measurement as AmMeasurement;
    expect(m.modulationDepth.positive).toBeCloseTo(truth.am.positive, 2);
    expect(m.modulationDepth.negative).toBeCloseTo(truth.am.negative, 2);
    expect(m.carrierOffsetHz).toBeCloseTo(3217.3, 1);
  });

  it.each([
    ['fm-wide', 88.5],
    ['fm-narrow', null],
  ] as const)('%s', async (name, ctcss) => {
    const m = (await measureRecording('fm', await wav(`${name}.wav`))).measurement as FmMeasurement;
    expect(Math.abs((m.peakDeviationHz ?? 0) / truth[name].peak - 1)).toBeLessThan(0.02);
    expect(Math.abs((m.rmsDeviationHz ?? 0) / truth[name].rms - 1)).toBeLessThan(0.02);
    expect(Math.abs((m.offsetHz ?? 0) - truth[name].offset)).toBeLessThan(5);
    expect(m.ctcssHz).toBe(ctcss);
  });

  it('two tones, from SigMF', async () => {
    const meta = parseSigmfMeta(readFileSync(join(folder, 'two-tone.sigmf-meta'), 'utf8'));
    const m = (await measureRecording('two-tone', openSigmf(meta, bytesOf('two-tone.sigmf-data')))).measurement as TwoToneMeasurement;
    expect(m.imd3Db).toBeCloseTo(truth['two-tone'].imd3Db, 1);
    expect(m.imd5Db).toBeCloseTo(truth['two-tone'].imd5Db, 1);
  });

  it('a foreign sweep through a filter it knows, shifted by 73 Hz and 120 ppm slow', async () => {
    const m = (await measureRecording('response', await wav('sweep-recorded.wav'), { reference: await wav('sweep.wav') }))
      .measurement as ResponseMeasurement;
    expect(Math.abs((m.mistuneHz ?? 0) - 73)).toBeLessThan(2);
    const errors = sweepCurve
      .filter(([, db]) => db > -25)
      .map(([hz, db]) => {
        const [, got] = m.curve.reduce((best, point) => (Math.abs(point[0] - hz) < Math.abs(best[0] - hz) ? point : best));
        return Math.abs(got - db);
      });
    expect(errors.length).toBeGreaterThan(40);
    expect(Math.max(...errors)).toBeLessThan(0.6);
  });
});
