/** The radio kinds against what theory says of made-up signals. */
import { describe, expect, it } from 'vitest';
import { iqSource, join, mix, noise, PCM16, scaled, silence, sine, sourceOf, voiceLike } from '../../../../tests/support/signals.ts';
import { bandPassTaps, filterCentred } from '../../dsp/filter/fir.ts';
import type { FindingCode } from '../../findings/finding.ts';
import { amModulate } from '../../modem/am.ts';
import { FrequencyModulator } from '../../modem/fm.ts';
import { ssbModulate } from '../../modem/ssb.ts';
import { amplitudeToDb, dbToAmplitude } from '../../units/conversions.ts';
import type { Measured } from '../measurement.ts';
import { measureAm } from './am.ts';
import { measureFm } from './fm.ts';
import { fmWidthOf, heardReFullDb } from './fmWidth.ts';
import { NotMeasurable } from './iq.ts';
import { proposeCarrier } from './proposeCarrier.ts';
import { measureSsb } from './ssb.ts';
import { measureTwoTone } from './twoTone.ts';

const RATE = 48000;
const codes = ({ findings }: Measured): FindingCode[] => findings.map(({ code }) => code);
const bands = new Map<string, Float64Array>();
/** Flat noise from 300 to 2700 Hz; made once. */
function band(seconds: number, seed = 5): Float64Array {
  const key = `${seconds} ${seed}`;
  const made = bands.get(key) ?? filterCentred(noise(RATE, seconds, 0.1, seed), bandPassTaps(RATE, 300, 2700, 801));
  bands.set(key, made);
  return made;
}
const plus = (a: { i: Float64Array; q: Float64Array }, b: { i: Float64Array; q: Float64Array }) => ({ i: mix(a.i, b.i), q: mix(a.q, b.q) });
const times = ({ i, q }: { i: Float64Array; q: Float64Array }, db: number) => ({
  i: scaled(i, dbToAmplitude(db)),
  q: scaled(q, dbToAmplitude(db)),
});

describe('SSB', () => {
  it.each([
    ['usb', 4000],
    ['lsb', -7000],
  ] as const)('on the %s at %i Hz: the numbers of a flat band of noise 2400 Hz wide', async (sideband, carrierHz) => {
    const { measurement: m } = await measureSsb(await iqSource(RATE, ssbModulate(band(8), RATE, carrierHz, sideband)), {
      carrierHz,
      sideband,
    });
    // ITU-R SM.328: flat noise of width B measures 0.99 B; the filter's skirts of 200 Hz take about 1 % more.
    expect(m.occupiedBandwidthHz).toBeGreaterThan(0.975 * 2400);
    expect(m.occupiedBandwidthHz).toBeLessThan(0.995 * 2400);
    expect(Math.abs((m.passbandHz?.[0] ?? 0) - 315)).toBeLessThan(20);
    expect(Math.abs((m.passbandHz?.[1] ?? 0) - 2685)).toBeLessThan(20);
    // Complex Gaussian noise: the power is exponentially distributed, its 99.9 percentile is ln 1000 times the mean.
    expect(m.peakToAverageDb).toBeCloseTo(10 * Math.log10(Math.log(1000)), 0.4);
    expect(m.extentHz?.[sideband === 'usb' ? 0 : 1]).toBeCloseTo(sideband === 'usb' ? 230 : -230, -2);
    expect(m.notes.oppositeSidebandDb).toMatch(/^Noise-limited/);
    expect(codes(m).filter((code) => code !== 'noise-limited')).toEqual([]);
  });

  it('finds an opposite sideband, a carrier and neighbours at the levels they were put in', async () => {
    const wanted = ssbModulate(band(6), RATE, 2000, 'usb');
    const opposite = times(ssbModulate(band(6, 6), RATE, 2000, 'lsb'), -34);
    const power = 0.01 * (2400 / 24000);
    const carrier = { i: sine(RATE, 2000, 6, 1, Math.PI / 2), q: sine(RATE, 2000, 6, 1) };
    const carrierAt = times(carrier, -45 + amplitudeToDb(Math.sqrt(power * 2)));
    const above = times(ssbModulate(filterCentred(noise(RATE, 6, 0.1, 7), bandPassTaps(RATE, 3600, 6000, 801)), RATE, 2000, 'usb'), -50);
    const { measurement: m } = await measureSsb(await iqSource(RATE, plus(plus(wanted, opposite), plus(carrierAt, above))), {
      carrierHz: 2000,
    });
    expect(m.oppositeSidebandDb).toBeCloseTo(-34, 0.3);
    expect(m.carrierDb).toBeCloseTo(-45, 0.3);
    expect(m.adjacentDb.wantedSide).toBeCloseTo(-50, 0.3);
    expect(codes(m)).toContain('opposite-sideband');
    expect(codes(m)).not.toContain('overdrive');
  });

  it('blames overdrive, not the sideband filter, for what a clipping amplifier makes', async () => {
    const { i, q } = ssbModulate(band(6), RATE, 3000, 'usb');
    const limit = 0.03;
    const gain = i.map((x, n) => 1 / Math.max(1, Math.hypot(x, q[n]) / limit));
    const { measurement: m } = await measureSsb(
      await iqSource(RATE, { i: i.map((x, n) => x * gain[n]), q: q.map((x, n) => x * gain[n]) }),
      { carrierHz: 3000 },
    );
    expect(m.adjacentDb.wantedSide).toBeGreaterThan(-30);
    expect(m.oppositeSidebandDb).toBeGreaterThan(-35);
    expect(codes(m)).toContain('overdrive');
    expect(codes(m)).not.toContain('opposite-sideband');
    expect(codes(m)).not.toContain('carrier-leak');
  });

  it('drive raised step by step shows one knee, and never blames filter or balance', async () => {
    const rate = 32000;
    const talk = filterCentred(voiceLike(rate, 5, { pitchHz: 110 }), bandPassTaps(rate, 300, 2700, 401));
    const { i, q } = ssbModulate(talk, rate, 5000, 'usb');
    const peak = Math.sqrt(i.reduce((most, x, n) => Math.max(most, x * x + q[n] * q[n]), 0));
    const found: boolean[] = [];
    for (const drive of [-15, -12, -9, -6, -3, 0, 3, 6, 9, 12, 15]) {
      // C. Rapp 1991, p = 2: the highest peak stands `drive` dB over saturation.
      const gain = i.map((x, n) => (1 + ((Math.hypot(x, q[n]) / peak) * dbToAmplitude(drive)) ** 4) ** -0.25);
      const driven = { i: i.map((x, n) => x * gain[n]), q: q.map((x, n) => x * gain[n]) };
      const said = codes((await measureSsb(await iqSource(rate, driven, { gain: 1 / peak / 4 }), { carrierHz: 5000 })).measurement);
      found.push(said.includes('overdrive'));
      expect(said).not.toContain('opposite-sideband');
      expect(said).not.toContain('carrier-leak');
    }
    expect(found[0]).toBe(false);
    expect(found.at(-1)).toBe(true);
    expect(found.filter((each, k) => k > 0 && each !== found[k - 1])).toHaveLength(1);
  });

  it.each([1, 2, 3])('leakage whose quieter moments the noise hides is no overdrive (%i)', async (seed) => {
    const rate = 32000;
    const voice = filterCentred(voiceLike(rate, 8, { pitchHz: 110, seed }), bandPassTaps(rate, 300, 2700, 401));
    // Loud and soft words, sixteen decibels apart.
    const words = Float64Array.from(voice, (_, n) => dbToAmplitude(8 * Math.sin((4.4 * n) / rate)));
    const talk = voice.map((x, n) => x * words[n]);
    const sent = (carrierHz: number, sideband: 'usb' | 'lsb') => ssbModulate(talk, rate, carrierHz, sideband);
    const steady = sine(rate, 5000, 8, 0.1, Math.PI / 2).map((x, n) => 0.018 * x * words[n]);
    const turned = sine(rate, 5000, 8, 0.1).map((x, n) => 0.018 * x * words[n]);
    // All of it keeps its distance to the voice: the mirror, a neighbour, and what lies at the carrier.
    const leak = plus(times(sent(5000, 'lsb'), -33), plus(times(sent(8600, 'usb'), -31), { i: steady, q: turned }));
    const level = Math.sqrt(talk.reduce((sum, x) => sum + x * x, 0) / talk.length);
    const hiss = (from: number) => noise(rate, 8, level * dbToAmplitude(-22), seed + from);
    const all = plus(plus(sent(5000, 'usb'), leak), { i: hiss(10), q: hiss(20) });
    const { measurement } = await measureSsb(await iqSource(rate, all), { carrierHz: 5000 });
    expect(codes(measurement)).toContain('noise-limited');
    expect(codes(measurement)).not.toContain('overdrive');
  });

  it('says when the wanted side is the empty one, and swapping I and Q mirrors the spectrum', async () => {
    const source = await iqSource(RATE, ssbModulate(band(3), RATE, -5000, 'lsb'));
    const wrong = (await measureSsb(source, { carrierHz: -5000, sideband: 'usb' })).measurement;
    expect(codes(wrong)[0]).toBe('wrong-sideband');
    const swapped = (await measureSsb(source, { carrierHz: 5000, sideband: 'usb', isSwapped: true })).measurement;
    expect(swapped.passbandHz?.[1]).toBeCloseTo(2688, -1.5);
  });

  it('measures the envelope in the channel where the file holds other stations', async () => {
    const wanted = ssbModulate(band(5), RATE, -12000, 'usb');
    const other = times({ i: sine(RATE, 15000, 5, 1, Math.PI / 2), q: sine(RATE, 15000, 5, 1) }, -20);
    const { measurement: m } = await measureSsb(await iqSource(RATE, plus(wanted, other)), { carrierHz: -12000 });
    expect(m.peakToAverageDb).toBeCloseTo(10 * Math.log10(Math.log(1000)), 0.3);
  });

  it('says where a signal lies that the carrier was not set to, and nothing of a weak neighbour', async () => {
    const source = await iqSource(RATE, ssbModulate(band(4), RATE, 5000, 'usb'));
    const lost = (await measureSsb(source, { carrierHz: 0 })).measurement;
    expect(lost.notes.wanted).toMatch(/stronger lies around 6\.\d+ kHz from the file’s centre: give its carrier/);
    expect((await measureSsb(source, { carrierHz: 5000 })).measurement.notes.wanted).toBeUndefined();
    expect((await measureSsb(source, { carrierHz: 5000, sideband: 'lsb' })).measurement.notes.wanted ?? '').not.toMatch(/give its carrier/);
    const beside = plus(ssbModulate(band(4), RATE, -5000, 'usb'), times(ssbModulate(band(4, 9), RATE, 5000, 'usb'), 10));
    expect((await measureSsb(await iqSource(RATE, beside), { carrierHz: -5000 })).measurement.notes.wanted).toBeUndefined();
  });

  it('is null where a narrow file does not reach', async () => {
    const rate = 8000;
    const voice = filterCentred(voiceLike(rate, 4), bandPassTaps(rate, 300, 2700, 301));
    const { measurement: m } = await measureSsb(await iqSource(rate, ssbModulate(voice, rate, 0, 'usb')));
    expect(m.adjacentDb).toEqual({ wantedSide: null, otherSide: null });
    expect(m.notes['adjacentDb.wantedSide']).toMatch(/does not reach/);
  });

  it('suspects the receiver first: full scale, a dead channel, the same in both, a constant offset', async () => {
    const { i, q } = ssbModulate(band(2), RATE, 4000, 'usb');
    const clipped = [i, q].map((part) => part.map((x) => Math.max(-1, Math.min(0.99997, 12 * x))));
    expect(codes((await measureSsb(await sourceOf(RATE, clipped, PCM16), { carrierHz: 4000 })).measurement)[0]).toBe('receiver-overload');
    for (const channels of [
      [i, silence(RATE, 2)],
      [i, i],
      [i.map((x) => x + 0.5), q],
    ]) {
      expect(codes((await measureSsb(await sourceOf(RATE, channels), { carrierHz: 4000 })).measurement)).toContain('iq-imbalance');
    }
  });

  describe('a file of few bits', () => {
    const rate = 96000;
    const talk = filterCentred(
      join(silence(rate, 0.5), voiceLike(rate, 3, { seed: 4, tilt: -12 }), silence(rate, 0.5)),
      bandPassTaps(rate, 300, 2700, 1601),
    );
    const size = talk.reduce((most, x) => Math.max(most, Math.abs(x)), 0);
    const said = scaled(talk, 1 / size);
    const hiss = (seed: number) => noise(rate, 4, 2e-4, seed);
    /** So many 8-bit codes at the peak, and an offset of the receiver in codes. */
    const heard = async (codes: number, { opposite = -70, offset = 0, carrierHz = 3000 } = {}) => {
      const sent = plus(ssbModulate(said, rate, carrierHz, 'usb'), times(ssbModulate(said, rate, carrierHz, 'lsb'), opposite));
      const all = plus(times(sent, 20 * Math.log10(codes / 128)), { i: hiss(5), q: hiss(6) });
      const parts = [all.i.map((x) => x + offset / 128), all.q];
      return (await measureSsb(await sourceOf(rate, parts, { bits: 8, encoding: 'pcm' }), { carrierHz })).measurement;
    };

    it.each([100, 32, 8, 3])('is no fault of the transmitter where the talk fills %i codes', async (codes) => {
      const found = (await heard(codes, { carrierHz: 15776.9 })).findings.filter(
        ({ severity, code }) => severity !== 'ok' && code !== 'low-level',
      );
      expect(found).toEqual([]);
    });

    it('but hides no opposite sideband of -25 dB in a file that is well filled', async () => {
      expect(codes(await heard(100, { opposite: -25 }))).toContain('opposite-sideband');
    });

    it('the receiver’s own line at the centre of the file is no part of the signal', async () => {
      const [with_, without] = [await heard(100, { offset: 4 }), await heard(100)];
      expect(codes(with_)).toEqual(codes(without));
      expect(with_.occupiedBandwidthHz ?? 0).toBeCloseTo(without.occupiedBandwidthHz ?? 0, -1.5);
      // 3 kHz under the carrier it would stand in the other sideband.
      expect(with_.oppositeSidebandDb ?? 0).toBeLessThan(-30);
    });
  });

  it('refuses one channel, and tells silence from a signal', async () => {
    await expect(measureSsb(await sourceOf(RATE, [band(1)]))).rejects.toThrow(NotMeasurable);
    const { measurement: m } = await measureSsb(await sourceOf(RATE, [silence(RATE, 1), silence(RATE, 1)]));
    expect(m.occupiedBandwidthHz).toBeNull();
    expect(Object.keys(m.notes)).toEqual(
      expect.arrayContaining(['oppositeSidebandDb', 'carrierDb', 'adjacentDb', 'extentHz', 'passbandHz']),
    );
  });
});

describe('the carrier of an SSB voice', () => {
  it.each(['usb', 'lsb'] as const)('is proposed from the harmonics (%s)', async (sideband) => {
    const rate = 24000;
    // Talk moves over half an octave and more; one pitch alone would fit a whole harmonic beside as well.
    const talk = join(...[100, 122, 140, 165, 190].map((pitchHz) => voiceLike(rate, 2, { pitchHz })));
    const voice = filterCentred(talk, bandPassTaps(rate, 300, 2700, 401));
    const proposal = await proposeCarrier(await iqSource(rate, ssbModulate(voice, rate, 3210, sideband), { noiseRms: 1e-3 }), sideband);
    // Common practice: a voice mistuned by less than 25 Hz still sounds right.
    expect(Math.abs((proposal?.carrierHz ?? 0) - 3210)).toBeLessThan(25);
    expect(proposal?.confidence).toBeGreaterThan(0.1);
  });

  it('is not proposed for noise with any confidence, nor for silence', async () => {
    const proposal = await proposeCarrier(await iqSource(RATE, ssbModulate(band(6), RATE, 3000, 'usb')), 'usb');
    expect(proposal?.confidence ?? 0).toBeLessThan(0.5);
    expect(await proposeCarrier(await sourceOf(RATE, [silence(RATE, 1), silence(RATE, 1)]), 'usb')).toBeNull();
  });
});

describe('AM', () => {
  it.each([0.3, 0.8, 1])('of depth %f by a tone: depth, carrier and widths', async (depth) => {
    const { measurement: m } = await measureAm(await iqSource(RATE, amModulate(sine(RATE, 1000, 3), RATE, 1234.5, depth)));
    expect(m.modulationDepth.positive).toBeCloseTo(depth, 2);
    expect(m.modulationDepth.negative).toBeCloseTo(depth, 2);
    expect(m.carrierOffsetHz).toBeCloseTo(1234.5, 1);
    // A bin more than the tone, for the window's width.
    expect(Math.abs((m.audioBandwidthHz ?? 0) - 1000)).toBeLessThan(14);
    // Each sideband holds m^2/4 of the carrier (handbook): 0.5 % of the whole from a depth of 0.14 on.
    expect(Math.abs((m.occupiedBandwidthHz ?? 0) - 2000)).toBeLessThan(40);
    expect(codes(m)).toEqual(depth === 1 ? ['over-modulated'] : depth === 0.3 ? ['under-modulated'] : []);
  });

  it.each([12000, 16000, 22050])('in a file narrower than its low-pass, at %i Hz', async (rate) => {
    const { measurement: m } = await measureAm(await iqSource(rate, amModulate(sine(rate, 800, 3), rate, 300, 0.6)));
    expect(m.modulationDepth.positive).toBeCloseTo(0.6, 2);
    expect(m.carrierOffsetHz).toBeCloseTo(300, 1);
  });

  it('too shallow for its sidebands has no occupied bandwidth', async () => {
    const { measurement: m } = await measureAm(await iqSource(RATE, amModulate(sine(RATE, 1000, 3), RATE, -900, 0.1)));
    expect(m.occupiedBandwidthHz).toBeNull();
    expect(m.notes.occupiedBandwidthHz).toMatch(/too shallow/);
    expect(m.modulationDepth.positive).toBeCloseTo(0.1, 2);
  });

  it('does not take the keying edges for modulation, and tells a carrier that was misplaced', async () => {
    const carrier = amModulate(sine(RATE, 400, 2), RATE, 2000, 0.7);
    const keyed = [carrier.i, carrier.q].map((part) => join(silence(RATE, 0.5), part, silence(RATE, 0.5)));
    const { measurement: m } = await measureAm(await sourceOf(RATE, keyed), { carrierHz: 1000 });
    expect(m.modulationDepth.negative).toBeCloseTo(0.7, 2);
    expect(m.carrierOffsetHz).toBeCloseTo(2000, 1);
    expect(codes(m)).toContain('off-frequency');
  });

  describe('a carrier at the very centre of the file', () => {
    // Talk with two seconds of silence, and noise as a receiver has it.
    const talk = join(voiceLike(RATE, 4, { pitchHz: 120, seed: 3 }), silence(RATE, 2));
    const most = talk.reduce((peak, x) => Math.max(peak, Math.abs(x)), 0);
    const hiss = { i: noise(RATE, 6, 0.002, 8), q: noise(RATE, 6, 0.002, 9) };
    const turned = ({ i, q }: { i: Float64Array; q: Float64Array }, degrees: number) => {
      const [c, s] = [Math.cos((degrees / 180) * Math.PI), Math.sin((degrees / 180) * Math.PI)];
      return { i: i.map((x, n) => 0.3 * (c * x - s * q[n])), q: i.map((x, n) => 0.3 * (s * x + c * q[n])) };
    };
    const am = (degrees: number, hz = 0) =>
      plus(
        turned(
          amModulate(
            talk.map((x) => x / most),
            RATE,
            hz,
            0.9,
          ),
          degrees,
        ),
        hiss,
      );

    it.each([0, 45, 80, 135].flatMap((degrees) => [0, 0.05].map((hz) => [degrees, hz] as const)))(
      'at %i degrees, %f Hz aside, is no constant offset and no dead channel',
      async (degrees, hz) => {
        for (const options of [{}, { carrierHz: 0 }])
          expect(codes((await measureAm(await iqSource(RATE, am(degrees, hz)), options)).measurement)).toEqual([]);
      },
    );

    it('but an offset of the receiver is told beside a carrier elsewhere, and alone', async () => {
      const { i, q } = am(0, 4000);
      const offset = await measureAm(await iqSource(RATE, { i: i.map((x) => x + 0.5), q }), {});
      expect(codes(offset.measurement)).toContain('iq-imbalance');
      const alone = await measureAm(await iqSource(RATE, { i: hiss.i.map((x) => x + 0.5), q: hiss.q }), {});
      expect(codes(alone.measurement)).toContain('iq-imbalance');
    });

    it('AM of few codes is not over-modulated by their rounding', async () => {
      const { i, q } = amModulate(scaled(talk, -1 / most), RATE, 3000, 0.96);
      const few = [i, q].map((part) => scaled(part, 6 / 128));
      const { measurement } = await measureAm(await sourceOf(RATE, few, { bits: 8, encoding: 'pcm' }), {});
      expect(codes(measurement)).not.toContain('over-modulated');
    });

    it('FM that rests there in its pauses is no constant offset either', async () => {
      const quiet = join(voiceLike(RATE, 1, { pitchHz: 120, seed: 3 }), silence(RATE, 5));
      const fm = new FrequencyModulator(RATE, 0, 4500 / most).push(quiet);
      for (const options of [{}, { carrierHz: 0 }])
        expect(codes((await measureFm(await iqSource(RATE, plus(turned(fm, 30), hiss)), options)).measurement)).toEqual([]);
    });
  });

  it('is null of silence', async () => {
    const { measurement: m } = await measureAm(await sourceOf(RATE, [silence(RATE, 1), silence(RATE, 1)]));
    expect([m.carrierOffsetHz, m.modulationDepth.positive, m.audioBandwidthHz]).toEqual([null, null, null]);
    expect(m.notes.modulationDepth).toBeTruthy();
  });
});

describe('FM', () => {
  it.each([
    [48000, -3000, 2500],
    [192000, 41000, 5000],
  ])('at %i Hz: deviation, offset and widths of a tone', async (rate, offsetHz, deviation) => {
    const { measurement: m } = await measureFm(
      await iqSource(rate, new FrequencyModulator(rate, offsetHz, deviation).push(sine(rate, 1500, 3))),
    );
    expect(Math.abs((m.peakDeviationHz ?? 0) / deviation - 1)).toBeLessThan(0.01);
    expect(Math.abs((m.rmsDeviationHz ?? 0) / (deviation / Math.SQRT2) - 1)).toBeLessThan(0.01);
    expect(Math.abs((m.offsetHz ?? 0) - offsetHz)).toBeLessThan(1);
    expect(Math.abs((m.audioBandwidthHz ?? 0) - 1500)).toBeLessThan(14);
    // J. R. Carson 1922: 2 (deviation + audio).
    expect(m.carsonBandwidthHz).toBeCloseTo(2 * ((m.peakDeviationHz ?? 0) + (m.audioBandwidthHz ?? 0)), 6);
    expect(codes(m)).toEqual(deviation === 2500 ? ['narrow-deviation'] : []);
    expect(m.ctcssHz).toBeNull();
  });

  it.each([20000, 24000])('in a file narrower than its channel, at %i Hz', async (rate) => {
    const { measurement: m } = await measureFm(await iqSource(rate, new FrequencyModulator(rate, 500, 2500).push(sine(rate, 1000, 3))));
    expect(Math.abs((m.peakDeviationHz ?? 0) / 2500 - 1)).toBeLessThan(0.02);
    expect(Math.abs((m.offsetHz ?? 0) - 500)).toBeLessThan(2);
  });

  it.each([67, 100, 254.1])('names the sub-audible tone of %f Hz', async (tone) => {
    const audio = mix(scaled(voiceLike(RATE, 4), 0.5), sine(RATE, tone, 4, 0.12));
    const { measurement: m } = await measureFm(await iqSource(RATE, new FrequencyModulator(RATE, 0, 5000).push(audio)));
    expect(m.ctcssHz).toBe(tone);
  });

  it.each([
    [0, 4],
    [0.12, 5],
  ])('reads a file once for each thing it must know first: with a sub-audible tone of %f in %i passes', async (level, passes) => {
    const audio = mix(scaled(voiceLike(RATE, 4), 0.5), sine(RATE, 100, 4, level));
    const source = await iqSource(RATE, new FrequencyModulator(RATE, 4100, 3000).push(audio));
    let reads = 0;
    const counted = {
      ...source,
      interleaved: (options?: Parameters<typeof source.interleaved>[0]) => {
        reads++;
        return source.interleaved(options);
      },
    };
    const { measurement: m } = await measureFm(counted);
    expect(reads).toBe(passes);
    expect(Math.abs((m.offsetHz ?? 0) - 4100)).toBeLessThan(60);
  });

  it('does not trust deviation in noise', async () => {
    const { measurement: m } = await measureFm(
      await iqSource(RATE, new FrequencyModulator(RATE, 0, 3000).push(sine(RATE, 1000, 2)), { gain: 0.1, noiseRms: 0.05 }),
    );
    expect(m.notes.peakDeviationHz).toMatch(/^Noise-limited/);
    expect(codes(m)).toEqual(['noise-limited']);
  });

  it('names widths and what each receiver makes of them (20 log10 (5/2.5) = 6.02 dB)', () => {
    expect([fmWidthOf(2400), fmWidthOf(4800)]).toEqual(['narrow', 'wide']);
    expect(heardReFullDb(2500, 'wide')).toBeCloseTo(-6.02, 2);
    expect(heardReFullDb(5000, 'narrow')).toBeCloseTo(6.02, 2);
  });
});

describe('two tones', () => {
  const tones = (levels: readonly (readonly [number, number])[]) =>
    mix(...levels.map(([hz, db]) => sine(RATE, hz, 3, 0.3 * dbToAmplitude(db), hz)));

  it('and the products that were put in', async () => {
    const audio = tones([
      [700, 0],
      [1900, 0],
      [3100, -32],
      [4300, -41],
    ]);
    const { measurement: m } = await measureTwoTone(await iqSource(RATE, ssbModulate(audio, RATE, 1000, 'usb')));
    expect(m.tonesHz?.[0]).toBeCloseTo(1700, 0);
    expect(m.imd3Db).toBeCloseTo(-32, 1);
    expect(m.imd5Db).toBeCloseTo(-41, 1);
    expect(m.imd3PepDb).toBeCloseTo(-38.02, 1);
    expect(codes(m)).toEqual([]);
  });

  it('through a cubic amplifier: third-order products as algebra has them', async () => {
    const { i, q } = ssbModulate(
      tones([
        [700, 0],
        [1900, 0],
      ]),
      RATE,
      0,
      'usb',
    );
    const c = -1;
    const bend = i.map((x, n) => 1 + c * (x * x + q[n] * q[n]));
    // |z|^2 z of two tones a: products of c a^3, tones of a + 3 c a^3 (complex baseband).
    const a = 0.3;
    const expected = amplitudeToDb(Math.abs(c) * a ** 3) - amplitudeToDb(a + 3 * c * a ** 3);
    const { measurement: m } = await measureTwoTone(
      await iqSource(RATE, { i: i.map((x, n) => x * bend[n]), q: q.map((x, n) => x * bend[n]) }),
    );
    expect(m.imd3Db).toBeCloseTo(expected, 1);
    expect(codes(m)).toContain('overdrive');
  });

  it.each([3, 4, 6])('of %i codes have no products that rounding may have made', async (size) => {
    const clean = tones([
      [700, 0],
      [1900, 0],
    ]);
    const { i, q } = ssbModulate(scaled(clean, size / 128 / 0.6), RATE, 1000, 'usb');
    const { measurement: m } = await measureTwoTone(await sourceOf(RATE, [i, q], { bits: 8, encoding: 'pcm' }));
    expect(codes(m)).not.toContain('distortion');
    expect(m.notes.imd3Db).toMatch(/few bits/);
  });

  it('are not found in one tone', async () => {
    const { measurement: m } = await measureTwoTone(await iqSource(RATE, ssbModulate(tones([[900, 0]]), RATE, 0, 'usb')));
    expect([m.tonesHz, m.imd3Db]).toEqual([null, null]);
    expect(m.notes.imd3Db).toMatch(/no two tones/);
  });
});
