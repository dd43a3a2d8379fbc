import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { graphicRig, options, parametricRig, rigOf, steps, toneRig, values } from '../../../tests/support/rigs.ts';
import { TWELFTH_CENTRES, VOICE_THIRD_OCTAVES } from '../dsp/spectrum/bands.ts';
import { factoryCard } from '../rig/card.ts';
import { isOnScale, positionsOf } from '../rig/dialScale.ts';
import { effective } from '../rig/effective.ts';
import { responseOf } from '../rig/response.ts';
import type { RigProfile } from '../rig/rig.ts';
import { compressionDials, matchCurve, nearestPassband, positionAt, thirdsOf } from './nearestDials.ts';

const flat = (rig: RigProfile) => factoryCard(rig);

describe('a curve put on dials', () => {
  const level = fc.integer({ min: -6, max: 6 });

  it('is never farther from the wish than leaving the dials flat, and stays on their scales', () => {
    const rig = graphicRig([400, 800, 1600, 2400]);
    fc.assert(
      fc.property(level, level, level, (low, middle, high) => {
        const wanted = TWELFTH_CENTRES.map((hz) => (hz < 600 ? low : hz < 1500 ? middle : high));
        const { values: found, errorDb } = matchCurve(rig, flat(rig), wanted);
        for (const dial of rig.dials) expect(isOnScale(dial.scale, found[dial.id])).toBe(true);
        expect(errorDb).toBeLessThanOrEqual(spread(rig, wanted) + 1e-9);
      }),
      { numRuns: 25 },
    );
  });

  /** RMS of a wish about its own mean over the third octaves sent: what remains when nothing is turned. */
  function spread(rig: RigProfile, wanted: readonly number[]): number {
    const [low, high] = effective(rig, flat(rig)).passbandHz;
    const inside = thirdsOf(wanted).filter(([hz]) => hz > low * 0.9 && hz < high * 1.1);
    const mean = inside.reduce((sum, [, db]) => sum + db, 0) / inside.length;
    // Bands cut by an edge count in part there and in full here: a little room for that.
    return Math.sqrt(inside.reduce((sum, [, db]) => sum + (db - mean) ** 2, 0) / inside.length) + 0.5;
  }

  it('a sound that the dials can make is found again, on each kind of equalizer', () => {
    for (const [rig, set] of [
      [graphicRig([400, 1000, 2400]), { g400: -4, g2400: 5 }],
      [toneRig(), { bass: -3, treble: 4 }],
      [parametricRig(2), { 'p1-centre': 700, 'p1-level': -6, 'p2-centre': 2300, 'p2-level': 6 }],
    ] as const) {
      const wanted = responseOf(rig, { ...flat(rig), values: { ...flat(rig).values, ...set } });
      expect(matchCurve(rig, flat(rig), wanted).errorDb).toBeLessThan(0.3);
    }
  });

  it('an overall gain is no wish: the dials stay', () => {
    const rig = graphicRig([400, 1000, 2400]);
    const { values: found, errorDb } = matchCurve(
      rig,
      flat(rig),
      TWELFTH_CENTRES.map(() => 7),
    );
    expect(found).toEqual(flat(rig).values);
    expect(errorDb).toBeCloseTo(0, 9);
  });

  it('third octaves are the means of their four twelfths', () => {
    const ramp = TWELFTH_CENTRES.map((_, i) => i);
    expect(thirdsOf(ramp).map(([, db]) => db)).toEqual(VOICE_THIRD_OCTAVES.map((_, b) => 4 * b + 1.5));
  });
});

describe('the nearest passband', () => {
  const edged = rigOf({
    dials: [
      values('low', [50, 100, 200, 300], 200, { stage: 'passband' }),
      values('high', [2400, 2700, 3000], 2700, { stage: 'passband' }),
    ],
    passbands: [{ kind: 'edges', modes: ['usb'], low: 'low', high: 'high' }],
    equalizer: { kind: 'none' },
  });
  it('free edges go to the nearest position in octaves, each by itself', () => {
    const notes: string[] = [];
    expect(nearestPassband(edged, 'usb', {}, [140, 2600], notes)).toEqual({ low: 100, high: 2700 });
    expect(nearestPassband(edged, 'usb', {}, [150, 2600])).toEqual({ low: 200, high: 2700 });
    expect(notes).toEqual(['Passband 140–2600 Hz becomes 100–2700 Hz, the nearest that Test rig has.']);
  });
  it('what is met exactly needs no words; what is fixed has no dial', () => {
    const notes: string[] = [];
    expect(nearestPassband(edged, 'usb', {}, [100, 3000], notes)).toEqual({ low: 100, high: 3000 });
    expect(notes).toEqual([]);
    expect(nearestPassband(toneRig(), 'usb', {}, [100, 3000], notes)).toEqual({});
    expect(notes[0]).toContain('becomes 300–2700 Hz');
  });
  it('every edge asked for comes to the position that is nearest', () => {
    const distance = (a: number, b: number) => Math.abs(Math.log2(a / b));
    fc.assert(
      fc.property(fc.integer({ min: 40, max: 400 }), fc.integer({ min: 2000, max: 3500 }), (low, high) => {
        const found = nearestPassband(edged, 'usb', {}, [low, high]);
        for (const [id, asked] of [
          ['low', low],
          ['high', high],
        ] as const) {
          const dial = edged.dials.find((each) => each.id === id);
          for (const each of dial ? positionsOf(dial.scale) : []) {
            expect(distance(Number(found[id]), asked)).toBeLessThanOrEqual(distance(Number(each), asked) + 1e-12);
          }
        }
      }),
    );
  });
});

describe('a share of a scale', () => {
  it('rises with the share, from end to end', () => {
    const dial = steps('x', -10, 30, 2);
    fc.assert(
      fc.property(fc.double({ min: 0, max: 1, noNaN: true }), fc.double({ min: 0, max: 1, noNaN: true }), (a, b) => {
        const [less, more] = [Math.min(a, b), Math.max(a, b)];
        expect(Number(positionAt(dial, less))).toBeLessThanOrEqual(Number(positionAt(dial, more)));
      }),
    );
    expect([positionAt(dial, 0), positionAt(dial, 1)]).toEqual([-10, 30]);
  });
  it('compression without a switch of its own: off is only for none', () => {
    const rig = rigOf({
      dials: [options('speech', ['off', 'low', 'middle', 'high'], 'off', { stage: 'compressor', role: 'compression' })],
      equalizer: { kind: 'none' },
    });
    expect([0, 0.01, 0.5, 1].map((share) => compressionDials(rig, 'usb', share).speech)).toEqual(['off', 'low', 'middle', 'high']);
  });
});
