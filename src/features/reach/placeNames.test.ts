import { describe, expect, it } from 'vitest';
import { placeNames } from './placeNames.ts';

describe('names on the plane', () => {
  const spot = (name: string, x: number, y: number) => ({ name, x, y });
  it('stand to the right where there is room, else on another side, else not at all', () => {
    expect(placeNames([spot('alone', 100, 100)], [], 600)).toEqual(['right']);
    expect(placeNames([spot('at the edge', 590, 100)], [], 600)).toEqual(['left']);
    expect(placeNames([spot('first', 100, 100), spot('second', 125, 100)], [], 600)).toEqual(['left', 'right']);
    const crowd = Array.from({ length: 40 }, (_, k) => spot('a long name here', 300 + (k % 8) * 10, 100 + Math.floor(k / 8) * 10));
    expect(placeNames(crowd, [], 600).filter((side) => side !== null).length).toBeLessThan(20);
  });
});
