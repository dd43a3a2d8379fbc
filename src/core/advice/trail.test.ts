import { describe, expect, it } from 'vitest';
import { expectedText, groupMoves, type KeptMove, levelDropText } from './trail.ts';

const move = (revision: number, changeDb: number | null, got?: number): KeptMove => ({
  revision,
  overId: 1,
  expected: changeDb === null ? null : { hz: 2500, changeDb, alcChangeDb: 0, errorBeforeDb: 4, errorAfterDb: 2 },
  outcome: got === undefined ? null : { overId: 2, changeDb: got, expectedDb: changeDb ?? 0 },
});

describe('the trail', () => {
  it('moves made together are one entry, told by the one that shows most', () => {
    const groups = groupMoves([move(3, 1), move(3, -4), move(3, null), move(2, 2)]);
    expect(groups.map(({ revision, moves }) => [revision, moves.length])).toEqual([
      [3, 3],
      [2, 1],
    ]);
    expect(groups[0].telling?.expected?.changeDb).toBe(-4);
  });
  it('what was checked tells more than what was not; a move without an effect tells nothing', () => {
    expect(groupMoves([move(3, -4), move(3, 1, 0.8)])[0].telling?.outcome?.changeDb).toBe(0.8);
    expect(groupMoves([move(1, null)])[0].telling).toBeNull();
    expect(groupMoves([])).toEqual([]);
  });
  it('names the band it acts in', () => {
    expect(expectedText(move(1, 3.14))).toBe('+3.1 dB in the highs, at 2.5 kHz');
    expect(expectedText(move(1, null))).toBe('');
  });
});

describe('a drop of level', () => {
  const over = (overId: number, levelDb: number | null, powerW: number | null = null) => ({ overId, levelDb, powerW });
  it('is named where nothing explains it', () => {
    expect(levelDropText(over(4, -20), over(5, -29), 0)).toContain('Over 5 came in 9 dB quieter than over 4');
  });
  it.each([
    ['within what overs differ by', over(4, -20), over(5, -24), 0],
    ['louder', over(4, -20), over(5, -10), 0],
    ['the dials took it', over(4, -20), over(5, -29), -6],
    ['the power went down', over(4, -20, 100), over(5, -30, 10), 0],
    ['nothing measured', over(4, null), over(5, -29), 0],
  ])('%s: nothing is said', (_, before, now, expected) => expect(levelDropText(before, now, expected)).toBeNull());
  it('more power does not hide it', () => expect(levelDropText(over(4, -20, 10), over(5, -30, 100), 0)).not.toBeNull());
});
