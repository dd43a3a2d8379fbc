import { describe, expect, it } from 'vitest';
import { twoBankRig } from '../../../../tests/support/rigs.ts';
import { linesOf } from './sheetStart.ts';

describe('where a sheet starts', () => {
  const profile = twoBankRig();
  const revision = (number: number, values: Record<string, number | string>) => ({
    id: number,
    number,
    values,
    use: {},
    reason: '',
    by: '',
    madeAt: '',
  });
  const card = {
    mode: 'usb',
    rig: { id: 1, name: 'Test rig', profile },
    revisions: [revision(2, { mic: 30, eq: 'on', 'n-level': 3 }), revision(1, { mic: 40, eq: 'on' })],
  } as unknown as Parameters<typeof linesOf>[0];
  const ids = (radio: Record<string, number | string>, start: Parameters<typeof linesOf>[2]) =>
    linesOf(card, { values: radio, tickedAt: null }, start).map(({ dial, from }) => [dial.id, from]);
  it('from the factory, from a revision, from what was ticked, from nothing', () => {
    expect(ids({}, { kind: 'factory' })).toEqual([
      ['mic', 40],
      ['n-level', 0],
      ['eq', 'off'],
    ]);
    expect(ids({}, { kind: 'revision', number: 1 })).toEqual([
      ['mic', 40],
      ['n-level', 0],
    ]);
    expect(ids({ mic: 30, eq: 'on' }, { kind: 'radio' })).toEqual([['n-level', 0]]);
    expect(ids({ mic: 30 }, { kind: 'unknown' })).toHaveLength(profile.dials.length);
  });
  it('ticks that the profile no longer has are passed over', () => {
    expect(ids({ mic: 30, eq: 'on', gone: 3, 'n-level': 99 }, { kind: 'radio' })).toEqual([['n-level', 0]]);
  });
});
