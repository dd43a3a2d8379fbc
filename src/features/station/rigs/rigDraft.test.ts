import { describe, expect, it } from 'vitest';
import { graphicRig, parametricRig, twoBankRig } from '../../../../tests/support/rigs.ts';
import { USUAL_DIALS } from '../../../core/rig/shapes.ts';
import { problemsOfRig } from '../../../core/rig/validate.ts';
import { blankDial, type RigAction, rigReducer } from './rigDraft.ts';

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
