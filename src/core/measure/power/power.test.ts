import { describe, expect, it } from 'vitest';
import { headline } from '../headline.ts';
import { exampleLimit, judgeHarmonics, measureTrace, padFor, pepOfVolts, powerBeforePad, powerOfTrace, wattsToDbm } from './power.ts';

const trace = (volts: (t: number) => number, seconds: number, points: number) => {
  const times = Float64Array.from({ length: points }, (_, n) => (n * seconds) / points);
  return { seconds: times, volts: times.map(volts) };
};
const turn = 2 * Math.PI;

describe('power', () => {
  it('of volts across a load: 20 Vpp into 50 ohm is 1 W, 200 Vpp is 100 W (arithmetic)', () => {
    expect(pepOfVolts(20, 'peak-to-peak', 50)).toBeCloseTo(1, 12);
    expect(pepOfVolts(200, 'peak-to-peak', 50)).toBeCloseTo(100, 10);
    expect(pepOfVolts(10, 'peak', 50)).toBeCloseTo(1, 12);
    expect(pepOfVolts(Math.sqrt(50), 'rms', 50)).toBeCloseTo(1, 12);
  });

  it('in dBm and behind pads: 1 W is +30 dBm, through 60 dB it reads -30 (arithmetic)', () => {
    expect(wattsToDbm(1)).toBeCloseTo(30, 12);
    expect(powerBeforePad(-30, 60)).toBeCloseTo(1, 12);
  });

  it('the pad in front of an input, and the heat in its resistors', () => {
    const { leastDb, heatW, outDbm } = padFor(100, -10, 10);
    expect(leastDb).toBe(70);
    expect(outDbm).toBeCloseTo(-20, 9);
    expect(heatW).toBeCloseTo(100, 3);
    expect(padFor(0.001, 20, 0)).toMatchObject({ leastDb: 0, heatW: 0 });
    // Half the power stays in a 3 dB pad.
    expect(padFor(2, 30.3, 0).leastDb).toBe(3);
    expect(padFor(2, 30.3, 0).heatW).toBeCloseTo(2 * (1 - 10 ** -0.3), 9);
  });

  it('of a scope trace of two tones: PEP is twice the mean (handbook)', () => {
    const tones = (t: number) => 5 * Math.cos(turn * 7.1e6 * t) + 5 * Math.cos(turn * 7.1012e6 * t) + 0.3;
    const found = powerOfTrace(trace(tones, 1 / 1200, 60000), 50);
    expect(found.kind).toBe('rf');
    expect(found.pepW).toBeCloseTo(1, 2);
    expect(found.pepToMeanDb).toBeCloseTo(3.01, 1);
    expect(Math.max(...found.envelope.map(([, v]) => v))).toBeCloseTo(10, 1);
  });

  it('of a detected envelope', () => {
    const found = powerOfTrace(
      trace((t) => Math.abs(10 * Math.cos(turn * 600 * t)), 1 / 300, 10000),
      50,
    );
    expect(found.kind).toBe('envelope');
    expect(found.pepW).toBeCloseTo(1, 2);
    expect(found.meanW).toBeCloseTo(0.5, 2);
  });

  it('of harmonics against a limit, by ratio and by watts (47 CFR 97.307(d),(e) as the example)', () => {
    expect(exampleLimit(14e6, 100)).toEqual({ leastDb: 43, mostW: null });
    expect(exampleLimit(144e6, 50)).toEqual({ leastDb: 60, mostW: null });
    expect(exampleLimit(144e6, 5)).toEqual({ leastDb: 40, mostW: 25e-6 });
    const [good, bad] = judgeHarmonics(
      [
        { order: 2, levelDb: -50 },
        { order: 3, levelDb: -40 },
      ],
      100,
      exampleLimit(14e6, 100),
    );
    expect(good.marginDb).toBeCloseTo(7, 9);
    expect(bad.marginDb).toBeCloseTo(-3, 9);
    expect(good.watts).toBeCloseTo(1e-3, 9);
    // 5 W at -50 dB are 50 microwatts: 3 dB over 25.
    expect(judgeHarmonics([{ order: 2, levelDb: -50 }], 5, exampleLimit(144e6, 5))[0].marginDb).toBeCloseTo(-3.01, 2);
  });
});

describe('a trace as a measurement', () => {
  it('one spike is no peak envelope power: 50 W stay 50 W', () => {
    const carrier = trace((t) => 70.71 * Math.cos(turn * 7e6 * t), 1e-4, 20_000);
    for (const spikes of [1, 2]) {
      const volts = carrier.volts.slice();
      for (let k = 0; k < spikes; k++) volts[7000 + k] = 140;
      expect(powerOfTrace({ ...carrier, volts }, 50).pepW).toBeCloseTo(50, 0);
    }
    // A crest that lasts is one.
    const burst = trace((t) => (t > 4e-5 && t < 4.2e-5 ? 140 : 70) * Math.cos(turn * 7e6 * t), 1e-4, 20_000);
    expect(powerOfTrace(burst, 50).pepW).toBeCloseTo(196, -1);
  });

  it('a flat one has no power, with the reason', () => {
    const { measurement } = measureTrace(trace(() => 0, 1, 100));
    expect(measurement).toMatchObject({ pepW: null, pepDbm: null, meanW: null, pepToMeanDb: null, crestV: null });
    expect(measurement.notes.pepW).toMatch(/flat/);
    expect(headline(measurement)).toBe('not measurable');
  });
});
