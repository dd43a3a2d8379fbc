import { describe, expect, it } from 'vitest';
import { VOICE_THIRD_OCTAVES } from '../dsp/index.ts';
import { toneAgainst } from './toneAgainst.ts';

const TARGET = [
  [100, -12],
  [1000, 0],
  [4000, -6],
] as const;

describe('a tone beside its target', () => {
  const { wanted } = toneAgainst(TARGET, null);

  it('is nothing while nothing is heard', () => expect(toneAgainst(TARGET, null).heard).toBeNull());

  it('lies on the target for the same shape at any level', () => {
    for (const level of [-70, 0, 12]) {
      const { heard } = toneAgainst(
        TARGET,
        wanted.map(([, db]) => (db ?? 0) + level),
      );
      heard?.forEach(([hz, db], i) => {
        expect(hz).toBe(wanted[i][0]);
        expect(db).toBeCloseTo(wanted[i][1] ?? 0, 9);
      });
    }
  });

  it('keeps gaps, and one loud band moves no other by more than its share', () => {
    const levels = wanted.map(([, db]) => db);
    const { heard } = toneAgainst(TARGET, [null, ...levels.slice(1)]);
    expect(heard?.[0][1]).toBeNull();
    const loud = VOICE_THIRD_OCTAVES.findIndex(({ centreHz }) => centreHz > 950);
    const raised = toneAgainst(
      TARGET,
      levels.map((db, i) => (db ?? 0) + (i === loud ? 9 : 0)),
    ).heard;
    // Nine bands lie between 380 and 2600 Hz: the common level rises by a ninth.
    expect((raised?.[loud][1] ?? 0) - (wanted[loud][1] ?? 0)).toBeCloseTo(8, 6);
    expect((raised?.[loud - 1][1] ?? 0) - (wanted[loud - 1][1] ?? 0)).toBeCloseTo(-1, 6);
  });
});
