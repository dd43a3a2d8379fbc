import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { graphicRig, options, parametricRig, rigOf, steps, toneRig, twoBankRig, values } from '../../../tests/support/rigs.ts';
import { InvalidInput } from '../schema/problems.ts';
import { cardSchema, factoryCard, valueOn } from './card.ts';
import { compareMenu, isOnScale, parseDialText, positionsOf, rangeText, stepFrom } from './dialScale.ts';
import { effective } from './effective.ts';
import { bandsResponseDb, equalizerBands, equalizerText, widthInOctaves } from './equalizer.ts';
import { type DialScale, type RigProfile, rigSchema } from './rig.ts';
import { sheet, valueText } from './sheet.ts';
import { parseCard, parseRig } from './validate.ts';

const card = (rig: RigProfile, changes: Record<string, number | string> = {}, mode: RigProfile['modes'][number] = 'usb') => ({
  mode,
  values: { ...factoryCard(rig, mode).values, ...changes },
});
const deadOf = (rig: RigProfile, changes: Record<string, number | string>, id: string, mode: RigProfile['modes'][number] = 'usb') =>
  effective(rig, card(rig, changes, mode)).dials.find(({ dial }) => dial.id === id)?.dead ?? null;

describe('dial scales', () => {
  it('have every position once, without what binary fractions add', () => {
    expect(positionsOf({ kind: 'steps', min: 0, max: 0.5, step: 0.1 })).toEqual([0, 0.1, 0.2, 0.3, 0.4, 0.5]);
    expect(positionsOf({ kind: 'steps', min: -3, max: 3, step: 3 })).toEqual([-3, 0, 3]);
    expect(positionsOf({ kind: 'steps', min: -0.3, max: 0, step: 0.1 })).toContain(0);
  });

  const scales: DialScale[] = [
    { kind: 'steps', min: -20, max: 20, step: 0.5 },
    { kind: 'values', values: [100, 150, 700] },
    { kind: 'options', options: ['off', 'low', 'HIGH'] },
  ];
  it.each(scales)('of kind $kind: steps stay on the scale, text reads back', (scale) => {
    const positions = positionsOf(scale);
    fc.assert(
      fc.property(fc.constantFrom(...positions), fc.integer({ min: -99, max: 99 }), (value, by) => {
        expect(isOnScale(scale, stepFrom(scale, value, by))).toBe(true);
        expect(parseDialText(scale, String(value))).toBe(value);
        expect(parseDialText(scale, valueText({ unit: 'dB', scale }, value))).toBe(value);
      }),
    );
    expect(stepFrom(scale, positions[0], -1)).toBe(positions[0]);
  });

  it('refuse what is none of their positions', () => {
    for (const text of ['', '3.3', '21', 'x', '1e1', '--3', '3 3']) expect(parseDialText(scales[0], text)).toBeNull();
    expect(parseDialText(scales[0], '+2,5 dB')).toBe(2.5);
    expect(parseDialText(scales[0], '−3')).toBe(-3);
    expect(parseDialText(scales[2], 'high')).toBe('HIGH');
  });

  it('tell their range, and menus sort as people count', () => {
    expect(rangeText(steps('x', -6, 6, 2))).toBe('-6 to 6 dB in steps of 2');
    expect(rangeText(options('x', ['off', 'on'], 'off'))).toBe('off, on');
    expect(
      ['4.10', '', '4.2', '12']
        .map((menu) => ({ menu }))
        .sort(compareMenu)
        .map(({ menu }) => menu),
    ).toEqual(['', '4.2', '4.10', '12']);
  });
});

describe('effective settings', () => {
  const rig = twoBankRig();

  it('everything of the equalizer sleeps while its switch is off, and says what enables it', () => {
    const dead = deadOf(rig, {}, 'n-level');
    expect(dead).toMatchObject({ kind: 'switch', text: 'eq (4.10) is off.', enable: 'Works while eq (4.10) is on.' });
    expect(effective(rig, card(rig)).bands).toEqual([]);
  });

  it('the bank in use follows the processor', () => {
    expect(deadOf(rig, { eq: 'on' }, 'n-level')).toBeNull();
    expect(deadOf(rig, { eq: 'on' }, 'p-level')).toMatchObject({ kind: 'bank' });
    expect(deadOf(rig, { eq: 'on', processor: 'on' }, 'n-level')?.text).toContain('Bank N is not in use');
    expect(deadOf(rig, { eq: 'on', processor: 'on' }, 'p-level')).toBeNull();
  });

  it('a processor that the mode lacks counts as off, whatever the card says', () => {
    expect(deadOf(rig, { processor: 'on', eq: 'on' }, 'processor', 'am')).toMatchObject({ kind: 'mode' });
    expect(deadOf(rig, { processor: 'on', eq: 'on' }, 'p-level', 'am')).toMatchObject({ kind: 'bank' });
    expect(deadOf(rig, { processor: 'on', eq: 'on' }, 'n-level', 'am')).toBeNull();
  });

  it('a band far beyond the passband is dead; a near one says how much of it is left', () => {
    const narrow = rigOf({
      dials: [values('c', [100, 250, 1000], 100), steps('l', -10, 10, 1)],
      equalizer: {
        kind: 'parametric',
        width: { meaning: 'octaves' },
        banks: [{ name: 'A', bands: [{ centre: 'c', level: 'l', width: 0.3 }] }],
      },
    });
    expect(deadOf(narrow, { c: 100, l: 6 }, 'l')).toMatchObject({ kind: 'passband' });
    const near = effective(narrow, card(narrow, { c: 250, l: 6 })).dials.find(({ dial }) => dial.id === 'l');
    expect(near?.dead).toBeNull();
    expect(near?.remark).toContain('of 6 dB left at 300 Hz');
    expect(deadOf(narrow, { c: 1000, l: 6 }, 'l')).toBeNull();
  });
});

describe('equalizer of a card', () => {
  const at = (rig: RigProfile, changes: Record<string, number | string>, hz: number[]) => {
    const { bands, values: live } = effective(rig, card(rig, changes));
    return bandsResponseDb(rig, bands, live, hz);
  };

  it('parametric: the level stands at the centre, half of it at the edges of the width', () => {
    const rig = parametricRig(1, { centres: [500, 1000], widths: [1, 2] });
    const [low, centre] = at(rig, { 'p1-centre': 1000, 'p1-level': 6, 'p1-width': 2 }, [500, 1000]);
    expect(centre).toBeCloseTo(6, 6);
    expect(low).toBeCloseTo(3, 1);
  });

  it.each([
    [1, -16],
    [1, 12],
    [2, -9],
    [2, 6],
  ])('a band that is a resonance beside the straight path, %s octaves, %s dB: by its own equation', (width, level) => {
    const plain = parametricRig(1, { centres: [500, 1000], levels: [-16, 12, 1], widths: [1, 2] });
    const rig = { ...plain, equalizer: { ...plain.equalizer, bells: 'resonance' } } as RigProfile;
    const places = [300, 500, 800, 1000, 1300, 2000, 3200];
    const got = at(rig, { 'p1-centre': 1000, 'p1-level': level, 'p1-width': width }, places);
    const [q, more] = [Math.sqrt(2 ** width) / (2 ** width - 1), 10 ** (level / 20) - 1];
    for (const [k, hz] of places.entries()) {
      const x = q * (hz / 1000 - 1000 / hz);
      // |1 + more / (1 + j x)|^2
      const wanted = 10 * Math.log10((1 + more / (1 + x * x)) ** 2 + ((more * x) / (1 + x * x)) ** 2);
      expect(Math.abs(got[k] - wanted), `${hz} Hz`).toBeLessThan(0.35);
    }
    expect(parseRig(JSON.parse(JSON.stringify(rig))).equalizer).toEqual(rig.equalizer);
  });

  it('graphic and tone knobs act where they are marked', () => {
    const sliders = graphicRig([400, 1000, 2400]);
    expect(at(sliders, { g1000: -6 }, [1000])[0]).toBeCloseTo(-6, 6);
    const knobs = toneRig();
    const [low, high] = at(knobs, { bass: -4, treble: 6 }, [60, 12000]);
    expect(low).toBeCloseTo(-4, 0);
    expect(high).toBeCloseTo(6, 0);
  });

  it('width numbers: octaves, Q, a table; unknown is read as octaves', () => {
    const withWidth = (width: object) => ({ ...parametricRig(1), equalizer: { ...parametricRig(1).equalizer, width } }) as RigProfile;
    expect(widthInOctaves(withWidth({ meaning: 'octaves' }), 2)).toBe(2);
    expect(widthInOctaves(withWidth({ meaning: 'q' }), 1.414)).toBeCloseTo(1, 2);
    const table = {
      meaning: 'table',
      table: [
        [1, 3],
        [5, 0.5],
      ],
    };
    expect(widthInOctaves(withWidth(table), 4)).toBe(0.5);
    expect(widthInOctaves(withWidth({ meaning: 'unknown' }), 2)).toBe(2);
  });

  it('says what it is in a few words', () => {
    expect(equalizerText(twoBankRig())).toBe('1 parametric bands, banks N and P');
    expect(equalizerText(graphicRig([100, 200]))).toBe('graphic, 2 bands');
    expect(equalizerBands(toneRig())).toHaveLength(2);
  });
});

describe('sheet', () => {
  it('holds only what changes, in menu order, and marks what has no effect', () => {
    const rig = twoBankRig();
    const lines = sheet(rig, card(rig), card(rig, { eq: 'on', 'p-level': 3, 'n-level': -2 }));
    expect(lines.map(({ dial }) => dial.id)).toEqual(['n-level', 'p-level', 'eq']);
    expect(lines.find(({ dial }) => dial.id === 'p-level')?.dead?.kind).toBe('bank');
    expect(lines.find(({ dial }) => dial.id === 'n-level')?.dead).toBeNull();
    expect(sheet(rig, card(rig), card(rig))).toEqual([]);
  });

  it('taken from one card to another and back, it leads to the same radio', () => {
    const rig = parametricRig(2);
    const levels = positionsOf(rig.dials[1].scale);
    fc.assert(
      fc.property(fc.constantFrom(...levels), fc.constantFrom(...levels), (a, b) => {
        const from = card(rig, { 'p1-level': a });
        const to = card(rig, { 'p1-level': b, 'p2-level': a });
        const applied = { ...from.values, ...Object.fromEntries(sheet(rig, from, to).map((line) => [line.dial.id, line.to])) };
        expect(applied).toEqual(to.values);
      }),
    );
  });

  it('writes values as operators do', () => {
    expect(valueText(steps('x', -9, 9, 1), 3)).toBe('+3 dB');
    expect(valueText(steps('x', -9, 9, 1), -3)).toBe('−3 dB');
    expect(valueText(values('x', [250], 250), 250)).toBe('250 Hz');
    expect(valueText(options('x', ['off'], 'off'), 'off')).toBe('off');
  });
});

describe('rig profiles and cards at the door', () => {
  it.each([
    ['rig', rigSchema],
    ['card', cardSchema],
  ])('the published schema of a %s is the one that guards the door', (name, schema) => {
    expect(JSON.parse(readFileSync(`docs/formats/${name}.schema.json`, 'utf8'))).toEqual(schema);
  });

  const good = () => JSON.parse(JSON.stringify(twoBankRig()));
  const problem = (change: (rig: ReturnType<typeof good>) => void) => {
    const rig = good();
    change(rig);
    try {
      parseRig(rig);
    } catch (error) {
      expect(error).toBeInstanceOf(InvalidInput);
      return (error as InvalidInput).message;
    }
    return 'accepted';
  };

  it.each(['tern-100', 'fulmar-8', 'knot-5', 'dunlin-fm'])('the demo rig %s is good, round trip exact', (name) => {
    const text = readFileSync(`demo/rigs/${name}.json`, 'utf8');
    expect(parseRig(JSON.parse(text))).toEqual(JSON.parse(text));
  });

  it('says what is wrong and where', () => {
    expect(problem((rig) => (rig.dials[0].scale.min = 200))).toContain('upside down');
    expect(problem((rig) => (rig.dials[0].scale.step = 7))).toContain('do not divide');
    expect(problem((rig) => (rig.dials[1].menu = '4.10'))).toContain('Two dials have the menu address 4.10');
    expect(problem((rig) => (rig.dials[1].id = 'mic'))).toContain('Two dials have the id "mic"');
    expect(problem((rig) => (rig.dials[0].rest = 1000))).toContain('not on its scale');
    expect(problem((rig) => (rig.passbands[0].edges = [2700, 300]))).toContain('upside down');
    expect(problem((rig) => (rig.equalizer.banks[0].bands[0].level = 'nope'))).toContain('"nope", which does not exist');
    expect(problem((rig) => (rig.dials[2].needs = [{ dial: 'n-level', is: [0] }]))).toContain('circle');
    expect(problem((rig) => (rig.modes = ['usb', 'fm']))).toContain('No passband is given for fm');
    expect(problem((rig) => (rig.surprise = 1))).toContain('surprise');
    expect(problem((rig) => (rig.dials = new Array(201).fill(rig.dials[0])))).toContain('200');
    expect(problem((rig) => (rig.alc.zone = [0.5]))).toContain('alc.zone');
  });

  it('never breaks on anything else', () => {
    fc.assert(
      fc.property(fc.anything(), (input) => {
        expect(() => parseRig(input)).toThrow(InvalidInput);
        expect(() => parseCard(input, twoBankRig())).toThrow(InvalidInput);
      }),
    );
    expect(() => parseRig(JSON.parse('{"__proto__": {"format": "dialtune-rig"}}'))).toThrow(InvalidInput);
  });

  it('a card must fit its rig', () => {
    const rig = twoBankRig();
    const parse = (changes: object) => parseCard({ format: 'dialtune-card', version: 1, mode: 'usb', values: {}, ...changes }, rig);
    expect(parse({ values: { mic: 30 } }).values).toEqual({ mic: 30 });
    expect(valueOn(parse({}), rig.dials[0])).toBe(40);
    expect(() => parse({ values: { mic: 101 } })).toThrow("mic can't be 101; it goes 0 to 100");
    expect(() => parse({ values: { nope: 1 } })).toThrow('no dial "nope"');
    expect(() => parse({ mode: 'fm' })).toThrow('no mode fm');
    expect(() => parse({ rig: 'Other' })).toThrow('belongs to Other');
    expect(() => parse({ values: JSON.parse('{"__proto__": 3}') })).toThrow(InvalidInput);
  });
});
