/** The voice estimated from overs: exact where nothing scatters, less trusting where it does. */
import { describe, expect, it } from 'vitest';
import { curveAt } from '../curve/curve.ts';
import { LONG_TERM_SPEECH } from '../curve/longTermSpeech.ts';
import { TWELFTH_CENTRES } from '../dsp/spectrum/bands.ts';
import { gaussian, seededRandom } from '../dsp/statistics/random.ts';
import { mean, standardDeviation } from '../dsp/statistics/statistics.ts';
import { dbToPower } from '../units/conversions.ts';
import { defaultTarget } from './targets.ts';
import { type HeardSpeech, toneBasis, toneErrorDb } from './toneError.ts';
import { estimateTone, type HeardOver, pooledVoice } from './toneEstimate.ts';

const FLAT = TWELFTH_CENTRES.map(() => 0);
const PASSBAND = [200, 2800] as const;
const TARGET = defaultTarget('natural');
/** Ordinary speech with a level on top. */
const voice = (over: (hz: number) => number, extra: Partial<HeardSpeech> = {}): HeardSpeech => ({
  speechPowers: TWELFTH_CENTRES.map((hz) => dbToPower(curveAt(LONG_TERM_SPEECH, hz) + over(hz) - 60)),
  pausePowers: null,
  ...extra,
});
const over = (heard: HeardSpeech, responseDb = FLAT): HeardOver => ({ voice: heard, responseDb });
const shapeOf = (overs: readonly HeardOver[]) =>
  estimateTone(overs, TARGET, PASSBAND).basis.bands.map(({ heardDb, targetDb }) => heardDb - targetDb);

describe('the voice of several overs', () => {
  it('is the same whatever equalizer each went through: levels are in the first one’s frame', () => {
    const tilt = TWELFTH_CENTRES.map((hz) => 3 * Math.log2(hz / 1000));
    const heard = voice((hz) => (hz > 1500 ? -6 : 0));
    const through: HeardSpeech = { ...heard, speechPowers: heard.speechPowers.map((power, i) => (power ?? 0) * dbToPower(tilt[i])) };
    const pooled = pooledVoice([over(heard), over(through, tilt)], PASSBAND);
    const scale = (pooled.speechPowers[30] ?? 0) / (heard.speechPowers[30] ?? 1);
    pooled.speechPowers.forEach((power, i) => {
      expect((power ?? 0) / scale).toBeCloseTo(heard.speechPowers[i] ?? 0, 9);
    });
  });

  it('bands beyond one recording are left to the others', () => {
    const short: HeardSpeech = {
      ...voice(() => 0),
      speechPowers: voice(() => 0).speechPowers.map((power, i) => (TWELFTH_CENTRES[i] > 3500 ? null : power)),
    };
    expect(pooledVoice([over(short), over(voice(() => 0))], PASSBAND).speechPowers.at(-1)).toBeGreaterThan(0);
  });
});

describe('the estimate', () => {
  it('keeps a broad shape nearly whole and one band’s bump only in part', () => {
    const dull = shapeOf([over(voice((hz) => (hz > 1200 ? -12 : 0)))]);
    const step = dull[dull.length - 3] - dull[2];
    expect(step).toBeLessThan(-9);
    const bump = shapeOf([over(voice((hz) => (Math.abs(Math.log2(hz / 1000)) < 1 / 6 ? 8 : 0)))]);
    expect(Math.max(...bump) - bump[0]).toBeLessThan(6);
    expect(Math.max(...bump) - bump[0]).toBeGreaterThan(1);
  });

  it('comes nearer to the truth with every over, and doubts less', () => {
    const truth = toneBasis(
      voice((hz) => 4 * Math.log2(hz / 1000)),
      TARGET,
      PASSBAND,
    ).bands.map(({ heardDb, targetDb }) => heardDb - targetDb);
    /** Each third octave of each over off by 2 dB: what texts do. */
    const oversOf = (seed: number) => {
      const normal = gaussian(seededRandom(seed));
      return Array.from({ length: 5 }, () => {
        const off = TWELFTH_CENTRES.map(() => 0);
        for (let i = 0; i < off.length; i += 4) off.fill(2 * normal(), i, i + 4);
        return over(voice((hz) => 4 * Math.log2(hz / 1000) + off[TWELFTH_CENTRES.indexOf(hz)]));
      });
    };
    const wrong = (count: number) =>
      mean([1, 2, 3, 4, 5, 6].map((seed) => standardDeviation(shapeOf(oversOf(seed).slice(0, count)).map((db, b) => db - truth[b]))));
    expect(wrong(5)).toBeLessThan(wrong(1) - 0.2);
    const doubt = (count: number) => estimateTone(oversOf(1).slice(0, count), TARGET, PASSBAND).basis.bands[4].doubtDb2 ?? 0;
    expect(doubt(5)).toBeLessThan(doubt(1));
  });

  it('promises no error of 0: the next over scatters too', () => {
    const { basis } = estimateTone([over(voice(() => 0))], TARGET, PASSBAND);
    const exact = toneBasis(
      voice(() => 0),
      TARGET,
      PASSBAND,
    );
    expect(toneErrorDb(exact, FLAT)).toBeLessThan(0.4);
    expect(toneErrorDb(basis, FLAT)).toBeGreaterThan(1);
    expect(toneErrorDb(basis, FLAT)).toBeLessThan(3.5);
  });

  it('halves that disagree make it doubt more', () => {
    const half = (db: number) => voice((hz) => (hz > 1000 ? db : -db)).speechPowers;
    const calm = estimateTone([over(voice(() => 0, { halfPowers: [half(0), half(0)] }))], TARGET, PASSBAND);
    const torn = estimateTone([over(voice(() => 0, { halfPowers: [half(4), half(-4)] }))], TARGET, PASSBAND);
    expect(torn.basis.bands[3].doubtDb2 ?? 0).toBeGreaterThan(calm.basis.bands[3].doubtDb2 ?? 0);
  });
});
