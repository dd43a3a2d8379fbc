import { describe, expect, it } from 'vitest';
import type { Dial, DialValue } from '../rig/index.ts';
import { type GainReading, nextGain } from './alcGain.ts';
import { ALC_SCHOOLS } from './next/schools.ts';

const fine: Pick<Dial, 'scale'> = { scale: { kind: 'steps', min: 0, max: 100, step: 1 } };
const coarse: Pick<Dial, 'scale'> = { scale: { kind: 'steps', min: 0, max: 10, step: 1 } };
const ZONE = [0.3, 0.5] as const;

/** A seeded generator of our own: mulberry32. */
function random(seed: number): () => number {
  let state = seed;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

/**
 * A radio by other equations than the belief's: a gain in dB that bends with the dial, a meter that bends with the
 * level, a voice that differs by 1.2 dB from over to over, an eye that reads to a twentieth.
 */
function radio(seed: number, { positions, dialDb, most }: { positions: number; dialDb: number; most: number }) {
  const next = random(seed);
  const normal = () => Math.sqrt(-2 * Math.log(next() + 1e-12)) * Math.cos(2 * Math.PI * next());
  const span = dialDb * (0.75 + 0.5 * next());
  const bend = 0.8 + 0.5 * next();
  const meterDb = 7 + 7 * next();
  const threshold = -span * (0.25 + 0.5 * next());
  const truth = (share: number): number => {
    const over = span * share ** bend - span - threshold;
    const linear = over / meterDb;
    return Math.min(1, Math.max(0, linear < 0.7 ? linear : 0.7 + 0.6 * (linear - 0.7)));
  };
  return {
    start: Math.round(most * (0.4 + 0.2 * next())),
    truth: (gain: DialValue) => truth(Number(gain) / positions),
    read: (gain: DialValue): number => {
      const shared = truth(Number(gain) / positions);
      const heard = shared <= 0 || shared >= 1 ? shared : shared + (1.2 * normal()) / meterDb;
      return Math.round(20 * Math.min(1, Math.max(0, heard))) / 20;
    },
  };
}

/** How many readings until the advice is to stay, and where the ALC really is then. */
function settled(
  dial: Pick<Dial, 'scale'>,
  station: ReturnType<typeof radio>,
  most: number,
  zone: readonly [number, number] = ZONE,
): { readings: number; truth: number } {
  const readings: GainReading[] = [];
  let gain: DialValue = station.start;
  for (let k = 1; k <= most; k++) {
    readings.push({ gain, alc: station.read(gain) });
    const { to } = nextGain(dial, readings, gain, zone);
    if (to === gain) return { readings: k, truth: station.truth(gain) };
    gain = to;
  }
  return { readings: most + 1, truth: station.truth(gain) };
}

describe('the next mic gain', () => {
  it('behind which a compressor takes most of a turn away: turned further once readings show it, and not as far before', () => {
    const read = (...pairs: [number, number][]) => pairs.map(([gain, alc]): GainReading => ({ gain, alc }));
    const slow = read([60, 0.7], [55, 0.65], [50, 0.65], [45, 0.6]);
    const to = (isCompressed: boolean) => Number(nextGain(fine, slow, 45, ZONE, 1, isCompressed).to);
    expect(to(true)).toBeLessThan(to(false));
    expect(to(true)).toBeLessThan(40);
    // As steep as without one: what is read counts, not what is behind it.
    const steep = read([60, 0.9], [50, 0.5], [45, 0.3], [48, 0.4]);
    expect(
      Math.abs(Number(nextGain(fine, steep, 48, ZONE, 1, true).to) - Number(nextGain(fine, steep, 48, ZONE, 1, false).to)),
    ).toBeLessThan(3);
  });

  it('goes down from above the zone and up from below it, and says what to expect', () => {
    const high = nextGain(fine, [{ gain: 40, alc: 0.8 }], 40, ZONE);
    expect(Number(high.to)).toBeLessThan(40);
    expect(high.expected[0]).toBeLessThanOrEqual(high.expected[1]);
    expect(high.expected[1]).toBeGreaterThanOrEqual(ZONE[0]);
    expect(high.expected[1]).toBeLessThanOrEqual(ZONE[1]);
    expect(Number(nextGain(fine, [{ gain: 40, alc: 0.1 }], 40, ZONE).to)).toBeGreaterThan(40);
  });

  it('stays where the reading is in the middle of the zone', () => {
    expect(nextGain(fine, [{ gain: 40, alc: 0.4 }], 40, ZONE).to).toBe(40);
    expect(nextGain(coarse, [{ gain: 4, alc: 0.4 }], 4, ZONE).to).toBe(4);
  });

  it('after one look inside the zone is looked at again; after two near its edge it is moved further in', () => {
    for (const alc of [0.35, 0.45]) expect(nextGain(fine, [{ gain: 34, alc }], 34, ZONE).to).toBe(34);
    const twice = [0.5, 0.5].map((alc) => ({ gain: 34, alc }));
    expect(Number(nextGain(fine, twice, 34, ZONE).to)).toBeLessThan(34);
  });

  it('takes a reading at an end of the scale for a bound', () => {
    const bound = nextGain(fine, [{ gain: 60, alc: 1 }], 60, ZONE);
    expect(Number(bound.to)).toBeLessThan(50);
    const both = nextGain(
      fine,
      [
        { gain: 60, alc: 1 },
        { gain: 30, alc: 0 },
      ],
      30,
      ZONE,
    );
    expect(Number(both.to)).toBeGreaterThan(32);
    expect(Number(both.to)).toBeLessThan(58);
  });

  it('makes up for a level that has changed since', () => {
    const asIs = nextGain(fine, [{ gain: 40, alc: 0.4 }], 40, ZONE);
    const louder = nextGain(fine, [{ gain: 40, alc: 0.4, shiftDb: 4 }], 40, ZONE);
    expect(Number(louder.to)).toBeLessThan(Number(asIs.to));
    expect(louder.now.expected[1]).toBeGreaterThan(0.6);
  });

  it('where the zone is out of reach in one turn it goes as near as that', () => {
    // An equalizer that lifts by so much, or takes as much away, since the level was inside the zone.
    const since = (shiftDb: number) => [0.4, 0.45, 0.4].map((alc): GainReading => ({ gain: 40, alc, shiftDb, shiftDoubtDb: 1 }));
    const down = nextGain(fine, since(24), 40, ZONE);
    expect(Number(down.to)).toBeLessThanOrEqual(13);
    expect(down.expected[1]).toBe(1);
    expect(nextGain(fine, since(-30), 40, ZONE, 0.6)).toMatchObject({ to: 60, expected: [0, 0, expect.any(Number)] });
  });
  it('contradictions widen what is expected', () => {
    const sure = nextGain(
      fine,
      [0.4, 0.4].map((alc) => ({ gain: 40, alc })),
      40,
      ZONE,
    );
    const torn = nextGain(
      fine,
      [0.15, 0.65].map((alc) => ({ gain: 40, alc })),
      40,
      ZONE,
    );
    expect(torn.now.expected[2] - torn.now.expected[0]).toBeGreaterThan(sure.now.expected[2] - sure.now.expected[0]);
  });

  it('learns what a step does to the reading, and says no more than readings tell', () => {
    const at = (gain: number, perStep: number) => ({ gain, alc: Math.round(20 * (0.5 + perStep * (gain - 50))) / 20 });
    const lawOf = (gains: readonly number[], perStep: number) =>
      nextGain(
        fine,
        gains.map((gain) => at(gain, perStep)),
        50,
        ZONE,
      ).law;
    const ratio = ([low, , high]: readonly [number, number, number]) => high / low;
    const before = lawOf([], 0.04);
    expect(before.stepDb[1]).toBeCloseTo(0.38, 2);
    expect(before.scaleDb[1]).toBeCloseTo(10, 1);
    expect(ratio(before.perStep)).toBeGreaterThan(1.8);
    const gains = [42, 46, 50, 54, 58, 44, 56];
    for (const perStep of [0.025, 0.055]) {
      const { perStep: told } = lawOf(gains, perStep);
      expect(told[0]).toBeLessThan(perStep);
      expect(told[2]).toBeGreaterThan(perStep);
      expect(ratio(told)).toBeLessThan(1.7);
    }
    // A steep one is a dial of more decibels, a meter of fewer, or both: which, no reading tells.
    const [steep, flat] = [0.055, 0.025].map((perStep) => lawOf(gains, perStep));
    expect(steep.stepDb[1]).toBeGreaterThan(flat.stepDb[1]);
    expect(steep.scaleDb[1]).toBeLessThan(flat.scaleDb[1]);
    expect(ratio(steep.stepDb)).toBeGreaterThan(ratio(steep.perStep));
    // One look tells nothing of it.
    expect(ratio(lawOf([50], 0.04).perStep)).toBeGreaterThan(1.8);
  });

  it('what a step does lies within what is told in about 80 of 100', () => {
    const next = random(7);
    const normal = () => Math.sqrt(-2 * Math.log(next() + 1e-12)) * Math.cos(2 * Math.PI * next());
    const isTold = Array.from({ length: 60 }, () => {
      const [dialDb, meterDb] = [38 * Math.exp(0.22 * normal()), 10 * Math.exp(0.22 * normal())];
      const perStep = dialDb / meterDb / 100;
      const readings = [-0.3, -0.15, 0, 0.15, 0.3].map((level) => {
        const gain = Math.round(50 + level / perStep);
        return { gain, alc: Math.round(20 * (0.5 + perStep * (gain - 50) + (0.9 * normal()) / meterDb)) / 20 };
      });
      const [low, , high] = nextGain(fine, readings, 50, ZONE).law.perStep;
      return perStep >= low && perStep <= high;
    });
    const share = isTold.filter(Boolean).length / isTold.length;
    expect(share).toBeGreaterThan(0.68);
    expect(share).toBeLessThan(0.95);
  });

  it.each([
    ['a fine dial', fine, { positions: 100, dialDb: 38, most: 100 }],
    ['ten steps', coarse, { positions: 10, dialDb: 16, most: 10 }],
  ] as const)('on radios of other equations, %s: three readings as a rule, and then the ALC is right', (_, dial, kind) => {
    const runs = Array.from({ length: 80 }, (_each, seed) => settled(dial, radio(seed + 1, kind), 10));
    const taken = runs.map(({ readings }) => readings).sort((a, b) => a - b);
    const right = runs.filter(({ truth }) => truth >= ZONE[0] - 0.1 && truth <= ZONE[1] + 0.1).length;
    expect(taken[40]).toBeLessThanOrEqual(3);
    expect(taken[72]).toBeLessThanOrEqual(5);
    expect(right).toBeGreaterThanOrEqual(72);
  });

  it.each(Object.values(ALC_SCHOOLS))('$name: from a meter that shows nothing it goes up, and the ALC comes into its zone', ({ zone }) => {
    expect(Number(nextGain(fine, [{ gain: 30, alc: 0 }], 30, zone).to)).toBeGreaterThan(30);
    // Far below, once known: a reading more of nothing tells where it is not.
    const nothing = [20, 30].map((gain): GainReading => ({ gain, alc: 0, shiftDb: -4, shiftDoubtDb: 4 }));
    expect(Number(nextGain(fine, [...nothing, { gain: 30, alc: 0 }], 30, zone).to)).toBeGreaterThan(30);
    const runs = Array.from({ length: 30 }, (_each, seed) =>
      settled(fine, radio(seed + 1, { positions: 100, dialDb: 38, most: 30 }), 10, zone),
    );
    // The meter's own end is in the zone that goes up to it.
    expect(runs.filter(({ truth }) => truth >= zone[0] - 0.1 && truth <= zone[1] + 0.1).length).toBeGreaterThanOrEqual(26);
  });
});

describe('the lower end of a dial of few positions', () => {
  const from = (min: number): Pick<Dial, 'scale'> => ({ scale: { kind: 'steps', min, max: min + 9, step: 1 } });
  const hot = (gain: number): GainReading[] => Array.from({ length: 3 }, () => ({ gain, alc: 0.85 }));
  it('is reached step by step where its lowest position still is a gain', () => {
    expect(nextGain(from(1), hot(2), 2, ZONE).to).toBe(1);
    expect(nextGain(from(1), hot(4), 4, ZONE).to).toBeLessThan(4);
  });
  it('and never where nothing is heard at all', () => {
    expect(nextGain(from(0), hot(1), 1, ZONE).to).toBe(1);
    expect(nextGain(from(0), hot(2), 2, ZONE).to).toBe(1);
  });
});
