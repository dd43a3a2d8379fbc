import { describe, expect, it } from 'vitest';
import { FLOAT64, join, mix, noise, PCM16, scaled, silence, sine, sourceOf, voiceLike } from '../../../tests/support/signals.ts';
import { BiquadChain, butterworthQs, highPass, highShelf, lowPass, lowShelf } from '../dsp/filter/biquad.ts';
import { bandPassTaps, filterCentred } from '../dsp/filter/fir.ts';
import { VOICE_TWELFTH_OCTAVES } from '../dsp/spectrum/bands.ts';
import type { FindingCode } from '../findings/finding.ts';
import { amplitudeToDb, powerToDb } from '../units/conversions.ts';
import type { VoiceMeasurement } from './measurement.ts';
import { occupiedBand } from './passband.ts';
import { measureVoice, type VoiceOptions } from './voice/voice.ts';

const RATE = 16000;
const measure = async (samples: Float64Array, options: VoiceOptions = {}, kind: typeof FLOAT64 = FLOAT64, rate = RATE) =>
  (await measureVoice(await sourceOf(rate, [samples], kind), options)).measurement;
const filtered = (samples: Float64Array, ...filters: Parameters<typeof chain>[0]) => chain(filters).process(samples.slice());
const chain = (filters: ConstructorParameters<typeof BiquadChain>[0]) => new BiquadChain(filters);
const codes = ({ findings }: VoiceMeasurement) => findings.map(({ code }) => code);
const has = (measurement: VoiceMeasurement, code: FindingCode) => codes(measurement).includes(code);

/** Room noise under a voice, about 45 dB down. */
const quietRoom = (samples: Float64Array, seed = 5) => mix(samples, noise(RATE, samples.length / RATE, 0.0005, seed));
const voice = quietRoom(voiceLike(RATE, 10));

describe('voice measurement', () => {
  it('gives every number of a good recording, none of them a guess', async () => {
    const m = await measure(voice);
    expect(m.durationS).toBe(10);
    expect(m.sampleRateHz).toBe(RATE);
    expect(m.clippedShare).toBe(0);
    expect(m.pitchHz).toBeGreaterThan(105);
    expect(m.pitchHz).toBeLessThan(135);
    // Words fill 60 % of the time; the 200 ms hangover bridges half of each pause.
    expect(m.activityFactor).toBeGreaterThan(0.6);
    expect(m.activityFactor).toBeLessThan(0.9);
    expect(m.noiseFloorDb).toBeCloseTo(amplitudeToDb(0.0005), 0);
    expect(m.snrDb).toBeCloseTo((m.activeSpeechLevelDb ?? 0) - (m.noiseFloorDb ?? 0), 9);
    expect(m.thirdOctaveDb).toHaveLength(17);
    expect(Math.max(...m.thirdOctaveDb.map(([, db]) => db ?? -99))).toBe(0);
    expect(m.notes.thirdOctaveDb).toBeUndefined();
  });

  it('its numbers follow from definitions: peak-to-average, tilt of a known source', async () => {
    const m = await measure(voice);
    const peak = voice.reduce((most, x) => Math.max(most, Math.abs(x)), 0);
    expect(m.peakToAverageDb).toBeCloseTo(amplitudeToDb(peak) - (m.activeSpeechLevelDb ?? 0), 5);
    // Harmonics fall 6 dB an octave; a third octave holds twice as many of them an octave up.
    expect(m.tiltDbPerOctave).toBeCloseTo(-6 + 3, 0);
  });

  it('follows gain: levels move by it, shapes do not', async () => {
    const [loud, soft] = [await measure(voice), await measure(scaled(voice, 0.1))];
    for (const key of ['activeSpeechLevelDb', 'loudnessLufs', 'noiseFloorDb'] as const) {
      expect((soft[key] ?? 0) - (loud[key] ?? 0)).toBeCloseTo(-20, 1);
    }
    for (const key of ['activityFactor', 'pitchHz', 'tiltDbPerOctave', 'snrDb'] as const) expect(soft[key]).toBeCloseTo(loud[key] ?? 0, 1);
  });

  it.each([8000, 12000, 44100, 48000])('gives the same balance at %i Hz', async (rate) => {
    const m = await measure(voiceLike(rate, 6), {}, FLOAT64, rate);
    const reference = await measure(voiceLike(RATE, 6));
    m.thirdOctaveDb.forEach(([hz, db], i) => {
      // Narrower bands may lie between two harmonics, where the width of the FFT's bins shows.
      if (hz > 490 && hz < 3000 && db !== null) {
        expect(Math.abs(db - (reference.thirdOctaveDb[i][1] ?? 0))).toBeLessThan(0.5);
      }
    });
  });

  it('finds the -6 dB edges of a transmit passband against the microphone recording', async () => {
    const studio = noise(RATE, 20, 0.1);
    const sent = filterCentred(studio, bandPassTaps(RATE, 300, 2700, 2001));
    const { passbandHz } = await measure(sent, { reference: await sourceOf(RATE, [studio]) });
    expect(Math.abs((passbandHz?.[0] ?? 0) - 300)).toBeLessThan(15);
    expect(Math.abs((passbandHz?.[1] ?? 0) - 2700)).toBeLessThan(15);
  });

  it('an edge that is not there is null, with the reason', async () => {
    const studio = noise(RATE, 10, 0.1);
    const sent = filtered(studio, ...butterworthQs(8).map((q) => highPass(RATE, 400, q)));
    const m = await measure(sent, { reference: await sourceOf(RATE, [studio]) });
    expect(m.passbandHz?.[1]).toBeNull();
    expect(m.passbandHz?.[0]).toBeGreaterThan(360);
    expect(m.notes.passbandHz).toContain('null');
  });

  it('without a reference it holds 99 %: flat noise of width B measures 0.99 B (ITU-R SM.328)', async () => {
    const { passbandHz } = await measure(filterCentred(noise(RATE, 20, 0.1), bandPassTaps(RATE, 500, 2500, 4001)));
    expect(((passbandHz?.[1] ?? 0) - (passbandHz?.[0] ?? 0)) / 2000).toBeCloseTo(0.99, 1);
    expect(occupiedBand({ binHz: 10, firstHz: 0, density: new Float64Array(101).fill(1) }, 100, 500, 0.5)?.map(Math.round)).toEqual([
      200, 400,
    ]);
  });

  it('measures the mean of the channels, or the one asked for', async () => {
    const source = await sourceOf(RATE, [voice, silence(RATE, 10)]);
    const mean = (await measureVoice(source)).measurement;
    const [left, right] = [1, 2].map((channel) => measureVoice(source, { channel }));
    expect((mean.activeSpeechLevelDb ?? 0) - ((await left).measurement.activeSpeechLevelDb ?? 0)).toBeCloseTo(-6.02, 1);
    expect((await right).measurement.activeSpeechLevelDb).toBeNull();
    await expect(measureVoice(source, { channel: 3 })).rejects.toThrow('Channel 3 does not exist');
  });

  it.each([
    ['silence', silence(RATE, 3)],
    ['one sample', Float64Array.of(0.5)],
    ['a short click', join(Float64Array.of(1), silence(RATE, 0.01))],
    ['not-a-number', Float64Array.from({ length: 8000 }, () => NaN)],
    ['infinity', Float64Array.from({ length: 8000 }, () => Infinity)],
    ['a constant', Float64Array.from({ length: 8000 }, () => 0.5)],
  ])('%s: no guess, no NaN, a reason for every null', async (_, samples) => {
    const m = await measure(samples);
    for (const [key, value] of Object.entries(m)) {
      if (typeof value === 'number') expect(Number.isFinite(value), key).toBe(true);
      if (value === null) expect(m.notes[key], key).toBeTruthy();
    }
    expect(JSON.stringify(m)).not.toContain('NaN');
  });

  it.each([4000, 768000])('stands the slowest and the fastest rate: %i Hz', async (rate) => {
    const m = await measure(voiceLike(rate, 1.5), {}, FLOAT64, rate);
    expect(m.activeSpeechLevelDb).toBeLessThan(0);
    expect(Math.abs((m.pitchHz ?? 0) - 120)).toBeLessThan(12);
    for (const [hz, db] of m.thirdOctaveDb) expect(db === null).toBe(hz * 10 ** 0.05 > rate / 2);
    // The bands past the file's end are left out of the tilt; six are enough.
    if (rate === 4000) expect(m.tiltDbPerOctave).not.toBeNull();
  });

  it('says how many samples were no numbers', async () => {
    const broken = voice.slice();
    broken[500] = NaN;
    broken[900] = -Infinity;
    expect((await measure(broken)).notes.samples).toContain('2 samples');
  });

  it('has no noise floor without pauses, and says so', async () => {
    const m = await measure(sine(RATE, 500, 3, 0.1));
    expect(m.noiseFloorDb).toBeNull();
    expect(m.snrDb).toBeNull();
    expect(m.notes.noiseFloorDb).toContain('no pause');
  });

  it('leaves frames of digital silence out of the noise floor', async () => {
    const withGaps = join(voice, silence(RATE, 5));
    expect((await measure(withGaps)).noiseFloorDb).toBeCloseTo((await measure(voice)).noiseFloorDb ?? 0, 0);
  });

  it('tells bands that the pauses explain: upper bounds', async () => {
    const narrow = mix(filtered(voiceLike(RATE, 8), ...butterworthQs(8).map((q) => lowPass(RATE, 1500, q))), noise(RATE, 8, 0.003));
    const m = await measure(narrow);
    expect(m.notes.thirdOctaveDb).toContain('Noise-limited');
    expect(m.notes.thirdOctaveDb).toContain('3162');
  });

  it('reports progress to the end and stops when told to', async () => {
    const shares: number[] = [];
    await measure(voice, { onProgress: (share) => shares.push(share) });
    expect(shares.at(-1)).toBeCloseTo(1, 9);
    expect([...shares].sort((a, b) => a - b)).toEqual(shares);
    const abort = new AbortController();
    abort.abort();
    await expect(measure(voice, { signal: abort.signal })).rejects.toThrow();
  });

  it('keeps what the screens and the fit need', async () => {
    const { detail } = await measureVoice(await sourceOf(RATE, [voice]));
    expect(detail.speechPowers).toHaveLength(VOICE_TWELFTH_OCTAVES.length);
    expect(detail.pausePowers).not.toBeNull();
    expect(detail.stripDb.length * detail.stripSeconds).toBeCloseTo(10, 1);
    expect(detail.stripActive).toHaveLength(detail.stripDb.length);
    const long = await measureVoice(await sourceOf(4000, [voiceLike(4000, 120)]));
    expect(long.detail.stripDb.length).toBeLessThanOrEqual(600);
  });
});

describe('findings', () => {
  it('a good voice gets no fault', async () => {
    const natural = quietRoom(voiceLike(RATE, 10, { tilt: -5 }));
    expect((await measure(natural)).findings.filter(({ severity }) => severity === 'fault')).toEqual([]);
  });

  it('clipping: at full scale in runs', async () => {
    const hot = voice.map((x) => Math.max(-1, Math.min(1, 12 * x)));
    const m = await measure(hot, {}, PCM16);
    expect(m.clippedShare).toBeGreaterThan(1e-3);
    expect(m.findings[0]).toMatchObject({ code: 'clipping', severity: 'fault' });
    expect(m.findings[0].evidence).toContain('common practice');
  });

  it('flat tops: clipped, then turned down', async () => {
    const top = voice.reduce((most, x) => Math.max(most, x), 0);
    const flat = voice.map((x) => 0.5 * Math.max(-0.4 * top, Math.min(0.4 * top, x)));
    const m = await measure(flat, {}, PCM16);
    expect(m.clippedShare).toBe(0);
    expect(has(m, 'flat-tops')).toBe(true);
    expect(has(await measure(voice, {}, PCM16), 'flat-tops')).toBe(false);
  });

  it.each([50, 60])('hum of %i Hz by name', async (hz) => {
    const hum = mix(...[1, 2, 3, 5].map((k) => sine(RATE, hz * k, 10, 0.004 / k)));
    const found = (await measure(mix(voice, hum))).findings.find(({ code }) => code === 'hum');
    expect(found?.text).toContain(`${hz} Hz`);
    expect(has(await measure(voice), 'hum')).toBe(false);
    // So loud that there is no pause left to hear it in.
    const drowned = await measure(mix(voice, scaled(hum, 12)));
    expect(drowned.snrDb).toBeNull();
    expect(has(drowned, 'hum')).toBe(true);
  });

  it('a steady low voice is no hum', async () => {
    for (const pitchHz of [100, 120]) expect(has(await measure(quietRoom(voiceLike(RATE, 10, { pitchHz }))), 'hum')).toBe(false);
  });

  it('room noise: with pauses by their level, without by the dips', async () => {
    expect(has(await measure(mix(voice, noise(RATE, 10, 0.02))), 'room-noise')).toBe(true);
    const drowned = await measure(mix(voice, noise(RATE, 10, 0.12)));
    expect(drowned.snrDb).toBeNull();
    expect(has(drowned, 'room-noise')).toBe(true);
    expect(has(await measure(voice), 'room-noise')).toBe(false);
    // A tone has no words for noise to lie between.
    expect(has(await measure(sine(RATE, 440, 10, 0.3)), 'room-noise')).toBe(false);
  });

  it('levels: very quiet, very hot', async () => {
    expect(has(await measure(scaled(voice, 0.001)), 'low-level')).toBe(true);
    expect(has(await measure(scaled(voice, 8)), 'high-level')).toBe(true);
  });

  it.each([
    ['boomy', [lowShelf(RATE, 250, 14)]],
    ['muffled', [highShelf(RATE, 1400, -20)]],
    ['thin', [lowShelf(RATE, 800, -18)]],
    ['harsh', [highShelf(RATE, 1700, 18)]],
  ] as const)('%s', async (code, filters) => {
    const natural = quietRoom(voiceLike(RATE, 10, { tilt: -5 }));
    const m = await measure(filtered(natural, ...filters));
    expect(codes(m)).toContain(code);
    expect(has(await measure(natural), code)).toBe(false);
  });

  it('plosives: bursts of air far below the voice', async () => {
    const pops = join(...Array.from({ length: 10 }, () => join(sine(RATE, 30, 0.1, 0.5), silence(RATE, 0.9))));
    expect(has(await measure(mix(voice, pops)), 'plosives')).toBe(true);
    expect(has(await measure(voice), 'plosives')).toBe(false);
  });

  it('sibilance needs a file that reaches that high', async () => {
    const hissing = mix(
      voice,
      filtered(noise(RATE, 10, 0.3), highPass(RATE, 5500), highPass(RATE, 5500)).map((x, n) => (n % RATE < 3000 ? x : 0)),
    );
    expect(has(await measure(hissing), 'sibilance')).toBe(true);
  });

  it('narrow', async () => {
    expect(has(await measure(filterCentred(voice, bandPassTaps(RATE, 500, 1200, 801))), 'narrow')).toBe(true);
  });

  it('a recorder that recorded its own dither is told that it is quiet, and nothing else', async () => {
    const dither = noise(RATE, 3, 1 / 32768);
    expect(codes(await measure(dither, {}, PCM16 as never))).toEqual(['low-level']);
  });

  it('noise never speaks for a strong region: hiss is not harshness, rumble not boom', async () => {
    const natural = voiceLike(RATE, 10, { tilt: -5, level: 0.05 });
    const hiss = filterCentred(noise(RATE, 10, 0.05), bandPassTaps(RATE, 1900, 3500, 801));
    const hissing = await measure(mix(natural, hiss));
    expect(has(hissing, 'harsh')).toBe(false);
    expect(has(hissing, 'room-noise')).toBe(true);
    const rumble = filterCentred(noise(RATE, 10, 0.08), bandPassTaps(RATE, 90, 280, 1601));
    expect(has(await measure(mix(natural, rumble)), 'boomy')).toBe(false);
  });

  it('noise over several bands of the words is named', async () => {
    const narrow = filtered(voiceLike(RATE, 10), ...butterworthQs(8).map((q) => lowPass(RATE, 900, q)));
    const m = await measure(mix(narrow, noise(RATE, 10, 0.003)));
    expect(has(m, 'noise-limited')).toBe(true);
    expect(has(m, 'muffled')).toBe(true);
    expect(has(await measure(voice), 'noise-limited')).toBe(false);
  });

  it('none in silence, worst first otherwise', async () => {
    expect((await measure(silence(RATE, 2))).findings).toEqual([]);
    const bad = await measure(
      mix(
        voice.map((x) => Math.max(-1, Math.min(1, 12 * x))),
        noise(RATE, 10, 0.1),
      ),
      {},
      PCM16,
    );
    const order = ['fault', 'watch', 'ok'];
    const ranks = bad.findings.map(({ severity }) => order.indexOf(severity));
    expect([...ranks].sort((a, b) => a - b)).toEqual(ranks);
  });

  it('noise of known level is told within a decibel', async () => {
    const m = await measure(mix(voice, noise(RATE, 10, 0.01, 8)));
    expect(m.noiseFloorDb).toBeCloseTo(powerToDb(0.01 ** 2), 0);
  });
});
