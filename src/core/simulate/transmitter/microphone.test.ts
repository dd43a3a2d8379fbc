import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { microphone } from '../../../../tests/support/microphones.ts';
import { PATTERNS, type Pattern } from '../../rig/microphone.ts';
import { microphoneResponseDb, proximityDb, SPEED_OF_SOUND } from './microphone.ts';

/**
 * Source: first principles. Two pressures of a spherical wave a hair apart stand for the gradient; scaled so that
 * a plane wave gives 1, and added to the pressure in the pattern's shares.
 */
function byDifference(pattern: Pattern, distanceCm: number, hz: number): number {
  const k = (2 * Math.PI * hz) / SPEED_OF_SOUND;
  const gap = 1e-6;
  const at = distanceCm / 100;
  const pressure = (r: number) => ({ re: Math.cos(k * r) / r, im: -Math.sin(k * r) / r });
  const [near, far, here] = [pressure(at - gap / 2), pressure(at + gap / 2), pressure(at)];
  // -dp/dr / (jk): 1 for a plane wave.
  const slope = { re: (near.re - far.re) / gap, im: (near.im - far.im) / gap };
  const gradient = { re: slope.im / k, im: -slope.re / k };
  const a = PATTERNS[pattern];
  const sum = { re: a * here.re + (1 - a) * gradient.re, im: a * here.im + (1 - a) * gradient.im };
  return 20 * Math.log10(Math.hypot(sum.re, sum.im) / Math.hypot(here.re, here.im));
}

describe('proximity effect', () => {
  it.each(Object.keys(PATTERNS) as Pattern[])('%s: the formula is the difference of two pressures', (pattern) => {
    for (const cm of [2, 6, 20, 60]) {
      for (const hz of [80, 200, 1000, 3000]) expect(proximityDb(pattern, cm, hz)).toBeCloseTo(byDifference(pattern, cm, hz), 3);
    }
  });
  it('an all-round capsule has none; others have more of it nearer and lower', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 190 }), fc.integer({ min: 50, max: 5000 }), (cm, hz) => {
        expect(proximityDb('omni', cm, hz)).toBe(0);
        expect(proximityDb('cardioid', cm, hz)).toBeGreaterThanOrEqual(proximityDb('cardioid', cm + 1, hz));
        expect(proximityDb('cardioid', cm, hz)).toBeGreaterThanOrEqual(proximityDb('cardioid', cm, hz + 10));
        expect(proximityDb('figure-8', cm, hz)).toBeGreaterThanOrEqual(proximityDb('cardioid', cm, hz));
      }),
    );
  });
  it('the corner of a cardioid, where kr is its gradient share, stands 3 dB up', () => {
    const hz = (0.5 * SPEED_OF_SOUND) / (2 * Math.PI * 0.06);
    expect(proximityDb('cardioid', 6, hz)).toBeCloseTo(10 * Math.log10(2), 9);
  });
});

describe('response of a microphone', () => {
  const curve = [
    [100, -6],
    [1000, 0],
    [4000, 3],
  ] as [number, number][];
  const use = { position: 'flat', accessories: [], distanceCm: 6 };
  it('is the curve of its position, re 1 kHz, plus what is fitted', () => {
    const mic = microphone({
      pattern: 'omni',
      positions: [
        { name: 'flat', curve: curve.map(([hz, db]) => [hz, db + 20]) },
        {
          name: 'cut',
          curve: [
            [100, -20],
            [1000, 0],
          ],
        },
      ],
      accessories: [
        {
          name: 'cap',
          curve: [
            [1000, 0],
            [4000, -5],
          ],
        },
      ],
    });
    expect(microphoneResponseDb(mic, use, [100, 1000, 4000])).toEqual([-6, 0, 3]);
    expect(microphoneResponseDb(mic, { ...use, position: 'cut' }, [100])).toEqual([-20]);
    expect(microphoneResponseDb(mic, { ...use, accessories: ['cap'] }, [4000])[0]).toBeCloseTo(-2, 9);
    expect(microphoneResponseDb(mic, { ...use, position: 'gone', accessories: ['gone'] }, [100])).toEqual([0]);
  });
  it('a curve taken at the talking distance has the effect in it already', () => {
    const mic = microphone({ positions: [{ name: 'flat', curve }], curveDistanceCm: 6 });
    expect(microphoneResponseDb(mic, use, [100])[0]).toBeCloseTo(-6, 9);
    const [nearer] = microphoneResponseDb(mic, { ...use, distanceCm: 3 }, [100]);
    expect(nearer).toBeCloseTo(-6 + proximityDb('cardioid', 3, 100) - proximityDb('cardioid', 6, 100), 9);
  });
});
