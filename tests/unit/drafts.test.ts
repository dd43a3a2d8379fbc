/** Drafts of the editors: a rig profile in work, a card read from a file. */
import { describe, expect, it } from 'vitest';
import { USUAL_DIALS } from '../../src/core/rig/shapes.ts';
import { problemsOfRig } from '../../src/core/rig/validate.ts';
import { draftFromFile } from '../../src/features/cards/cardDraft.ts';
import { linesOf } from '../../src/features/cards/sheet/sheetStart.ts';
import { blankDial, type RigAction, rigReducer } from '../../src/features/station/rigs/rigDraft.ts';
import { graphicRig, parametricRig, twoBankRig } from '../support/rigs.ts';

const run = (profile: ReturnType<typeof twoBankRig>, ...actions: RigAction[]) =>
  actions.reduce(rigReducer, { profile, past: [] as ReturnType<typeof twoBankRig>[] });

describe('a rig profile in work', () => {
  it('every action can be undone, in order', () => {
    const start = parametricRig(2);
    const actions: RigAction[] = [
      { kind: 'set', change: { name: 'Mine' } },
      { kind: 'dial', id: 'p1-level', change: { label: 'Low level' } },
      { kind: 'addDials', dials: [blankDial('gain', [])] },
      { kind: 'addBand', bank: 0 },
      { kind: 'removeBand', bank: 0, band: 1 },
      { kind: 'removeDial', id: 'new-dial' },
    ];
    const end = run(start, ...actions);
    expect(end.past).toHaveLength(actions.length);
    expect(actions.reduce((draft) => rigReducer(draft, { kind: 'undo' }), end).profile).toEqual(start);
    expect(rigReducer({ profile: start, past: [] }, { kind: 'undo' }).profile).toBe(start);
  });

  it('a band more has dials like the last one; taken away, its dials go with it', () => {
    for (const start of [parametricRig(2), graphicRig([300, 600])]) {
      const more = run(start, { kind: 'addBand', bank: 0 }).profile;
      expect(problemsOfRig(more)).toEqual([]);
      const bands = more.equalizer.kind === 'parametric' ? more.equalizer.banks[0].bands.length : 3;
      expect(bands).toBe(3);
      const back = run(more, { kind: 'removeBand', bank: 0, band: 2 }).profile;
      expect(back).toEqual(start);
    }
  });

  it('another kind of equalizer comes with dials of its own; back and forth nothing is left behind', () => {
    const kinds = (['graphic', 'tone', 'none', 'parametric'] as const).map((shape) => ({
      kind: 'equalizer' as const,
      shape,
      bands: 3,
      hasTwoBanks: false,
    }));
    let { profile } = run(parametricRig(2));
    for (const action of kinds) {
      profile = run(profile, action).profile;
      expect(problemsOfRig(profile)).toEqual([]);
      expect(profile.equalizer.kind).toBe(action.shape);
    }
    expect(profile.dials.filter(({ id }) => id.startsWith('p1') || id.startsWith('eq-') || id === 'bass')).toEqual([]);
  });

  it('two banks without a processor wait for nothing that is not there', () => {
    const { profile } = run(parametricRig(1), { kind: 'equalizer', shape: 'parametric', bands: 2, hasTwoBanks: true });
    expect(problemsOfRig(profile)).toEqual([]);
  });

  it('rows are numbered from one address on, in their stage only', () => {
    const named = run(
      parametricRig(1),
      { kind: 'dial', id: 'p1-centre', change: { menu: 'EX-098' } },
      { kind: 'numberFrom', id: 'p1-centre' },
    );
    expect(named.profile.dials.map(({ menu }) => menu)).toEqual(['EX-098', 'EX-099', 'EX-100']);
    const wordy = run(parametricRig(1), { kind: 'dial', id: 'p1-centre', change: { menu: 'front' } });
    expect(rigReducer(wordy, { kind: 'numberFrom', id: 'p1-centre' })).toBe(wordy);
  });

  it('the usual dials fit', () => {
    const { profile } = run(parametricRig(1), { kind: 'addDials', dials: Object.values(USUAL_DIALS) });
    expect(problemsOfRig(profile)).toEqual([]);
  });

  it('a switch that is removed is waited for no more, and optional parts leave no trace', () => {
    const { profile } = run(twoBankRig(), { kind: 'removeDial', id: 'eq' });
    expect(JSON.stringify(profile)).not.toContain('"eq"');
    expect(problemsOfRig(profile)).toEqual([]);
    const [dial] = run(twoBankRig(), { kind: 'dial', id: 'mic', change: { modes: [], needs: [], role: undefined } }).profile.dials;
    expect(Object.keys(dial)).not.toContain('modes');
    expect(Object.keys(dial)).not.toContain('role');
  });
});

describe('a card file', () => {
  const rig = { id: 7, name: 'Test rig', profile: twoBankRig(), isRetired: false };
  const station = {
    rigs: [rig],
    operators: [{ id: 3, name: 'Runa', callsign: 'Q0RUN', note: '', isRetired: false }],
    microphones: [],
    receivers: [],
  };
  const file = (change: object = {}) =>
    JSON.stringify({
      format: 'dialtune-card',
      version: 1,
      rig: 'Test rig',
      operator: 'Q0RUN',
      name: 'Net',
      mode: 'usb',
      values: { mic: 30 },
      ...change,
    });
  it('leads to its rig and its operator', () => {
    expect(draftFromFile(file(), station)).toMatchObject({ name: 'Net', rigId: 7, operatorId: 3, mode: 'usb', values: { mic: 30 } });
  });
  it.each([
    [file({ rig: 'Other' }), /no rig named Other/],
    [file({ values: { mic: 300 } }), /mic can't be 300/],
    [file({ values: { nope: 3 } }), /no dial "nope"/],
    [file({ mode: 'fm' }), /no mode fm/],
    ['{', /not valid JSON/],
    ['null', /must be object/],
    ['{"rig":"Test rig","__proto__":{"x":1}}', /not allowed/],
  ])('%#: what is wrong is said', (text, words) => {
    expect(draftFromFile(text, station)).toMatchObject({ problem: expect.stringMatching(words) });
  });
});

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
