import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Named, placeNames } from './curveNames.ts';

const SIZE = { width: 600, height: 220 };
const X = Array.from({ length: 61 }, (_, k) => 10 * k);
const curve = (name: string, y: (x: number) => number): Named => ({ name, line: X.map((x) => [x, y(x)] as const) });

/** What a name covers, worked out apart from the code under test. */
const boxOf = ({ name, line }: Named, { at, dx, dy }: { at: number; dx: number; dy: number }) => {
  const [x, y] = line[at];
  return { left: x + dx - 3.5 * name.length, right: x + dx + 3.5 * name.length, top: y + dy - 8, bottom: y + dy + 8 };
};

describe('names at curves', () => {
  it('stand near their own curve', () => {
    const [place] = placeNames([curve('alone', () => 100)], SIZE);
    expect(Math.abs(place?.dy ?? 0)).toBeLessThan(20);
  });

  it('have no place where there is no room, and none without a name', () => {
    expect(placeNames([curve('a name far too long for a plot as narrow as this one is', () => 20)], { width: 60, height: 40 })).toEqual([
      null,
    ]);
    expect(placeNames([curve('', () => 20)], SIZE)).toEqual([null]);
    expect(placeNames([{ name: 'nothing', line: [] }], SIZE)).toEqual([null]);
  });

  it('lie on no curve, on no other name and inside the plot', () => {
    const wave = fc.record({
      middle: fc.integer({ min: 30, max: 190 }),
      swing: fc.integer({ min: 0, max: 60 }),
      turns: fc.integer({ min: 0, max: 5 }),
    });
    fc.assert(
      fc.property(fc.array(wave, { minLength: 1, maxLength: 4 }), (waves) => {
        const curves = waves.map(({ middle, swing, turns }, k) =>
          curve(`curve number ${k}`, (x) => middle + swing * Math.sin((turns * 2 * Math.PI * x) / 600 + k)),
        );
        const boxes = placeNames(curves, SIZE).flatMap((place, k) => (place ? [boxOf(curves[k], place)] : []));
        for (const [k, box] of boxes.entries()) {
          expect(box.left).toBeGreaterThanOrEqual(0);
          expect(box.right).toBeLessThanOrEqual(600);
          expect(box.top).toBeGreaterThanOrEqual(0);
          expect(box.bottom).toBeLessThanOrEqual(220);
          for (const { line } of curves) {
            for (const [x, y] of line) expect(x > box.left && x < box.right && y > box.top && y < box.bottom).toBe(false);
          }
          for (const other of boxes.slice(k + 1)) {
            const apart = box.right <= other.left || other.right <= box.left || box.bottom <= other.top || other.bottom <= box.top;
            expect(apart).toBe(true);
          }
        }
      }),
      { seed: 11, numRuns: 200 },
    );
  });

  it('are found for three curves that lie close together', () => {
    const near = [0, 4, 8].map((off) => curve(`with the values ${off}`, (x) => 100 + off + 10 * Math.sin(x / 60)));
    expect(placeNames(near, SIZE).every((place) => place !== null)).toBe(true);
  });

  it('a gap in a curve is no place', () => {
    const [place] = placeNames([{ name: 'broken', line: X.map((x) => [x, x > 200 && x < 400 ? Number.NaN : 100] as const) }], SIZE);
    expect(place).not.toBeNull();
    expect(Number.isFinite(X[place?.at ?? 0])).toBe(true);
  });
});
