import { describe, expect, it } from 'vitest';
import { placeNames } from './placeNames.ts';

describe('names on the plane', () => {
  const spot = (name: string, x: number, y: number) => ({ name, x, y });
  it('stand to the right where there is room, else on another side, else not at all', () => {
    expect(placeNames([spot('alone', 100, 100)], [], 600)).toEqual(['right']);
    expect(placeNames([spot('at the edge', 590, 100)], [], 600)).toEqual(['left']);
    expect(placeNames([spot('first', 100, 100), spot('second', 125, 100)], [], 600)).toEqual(['left', 'right']);
    const beside = [70, 130].map((y) => spot('x', 100, y));
    expect(placeNames([spot('first', 100, 100), spot('x', 125, 104), spot('x', 60, 100), ...beside], [], 600)[0]).toBe('right up');
    const crowd = Array.from({ length: 40 }, (_, k) => spot('a long name here', 300 + (k % 8) * 10, 100 + Math.floor(k / 8) * 10));
    expect(placeNames(crowd, [], 600).filter((side) => side !== null).length).toBeLessThan(20);
    const needed = placeNames(
      crowd.map((each) => ({ ...each, isNeeded: true })),
      [],
      600,
    );
    expect(needed.every((side) => side !== null)).toBe(true);
  });
  it('keep off the line that joins the best', () => {
    const line = [
      { x: 100, y: 100 },
      { x: 300, y: 100 },
    ];
    expect(placeNames([spot('on the line', 100, 100)], line, 600)).toEqual(['left']);
    expect(placeNames([spot('on the line', 200, 100)], line, 600)).toEqual(['top']);
  });
});
