import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { microphone } from '../../../tests/support/microphones.ts';
import { rigOf, steps, twoBankRig } from '../../../tests/support/rigs.ts';
import { InvalidInput } from '../schema/problems.ts';
import { factoryCard } from './card.ts';
import { dialIdFor, parseDialRows } from './dialRows.ts';
import { nearestOn, positionsOf } from './dialScale.ts';
import { effective } from './effective.ts';
import { type DialScale, dialInRole, type RigProfile } from './rig.ts';
import { parseScaleText, ScaleProblem, scaleText } from './scaleText.ts';
import { MOST_BANDS, SHAPES, startRig } from './shapes.ts';
import { sheet } from './sheet.ts';
import { parseMicrophone, parseRig, problemsOfRig } from './validate.ts';

describe('a scale as text', () => {
  it.each<[string, DialScale]>([
    ['0 to 100', { kind: 'steps', min: 0, max: 100, step: 1 }],
    ['-20 to 20 by 2', { kind: 'steps', min: -20, max: 20, step: 2 }],
    ['−8..+8 / 0.5', { kind: 'steps', min: -8, max: 8, step: 0.5 }],
    ['0–10', { kind: 'steps', min: 0, max: 10, step: 1 }],
    ['100, 200; 300', { kind: 'values', values: [100, 200, 300] }],
    ['off, on', { kind: 'options', options: ['off', 'on'] }],
    ['300-2700, 200-2800', { kind: 'options', options: ['300-2700', '200-2800'] }],
    ['"1", "2"', { kind: 'options', options: ['1', '2'] }],
  ])('%s', (text, scale) => {
    expect(parseScaleText(text)).toEqual(scale);
  });

  it.each([
    ['', /range/],
    ['10 to 0', /upside down/],
    ['0 to 10 by 3', /do not lead/],
    ['0 to 10 by 0', /above 0/],
    ['300, 200', /must rise/],
    ['on, on', /twice/],
    [`${'x'.repeat(30)}, on`, /24/],
  ])('refuses "%s" in words', (text, words) => {
    expect(() => parseScaleText(text)).toThrow(ScaleProblem);
    expect(() => parseScaleText(text)).toThrow(words);
  });

  it('comes back the same from its text', () => {
    const stepsScale = fc
      .tuple(fc.integer({ min: -100, max: 100 }), fc.integer({ min: 1, max: 20 }), fc.integer({ min: 1, max: 9 }))
      .map(([min, count, step]): DialScale => ({ kind: 'steps', min, max: min + count * step, step }));
    const valuesScale = fc
      .uniqueArray(fc.integer({ min: -5000, max: 5000 }), { minLength: 1, maxLength: 12 })
      .map((list): DialScale => ({ kind: 'values', values: list.sort((a, b) => a - b) }));
    const name = fc.stringMatching(/^[a-z0-9][a-z0-9 –-]{0,10}[a-z0-9]$/);
    const optionsScale = fc.uniqueArray(name, { minLength: 1, maxLength: 6 }).map((options): DialScale => ({ kind: 'options', options }));
    fc.assert(
      fc.property(fc.oneof(stepsScale, valuesScale, optionsScale), (scale) => {
        expect(parseScaleText(scaleText(scale))).toEqual(scale);
      }),
    );
  });
});

describe('rows of a manual', () => {
  it('become dials; what can not be read is named by its line', () => {
    const { dials, problems } = parseDialRows(
      '1.01; Mic gain; 0 to 100; 50; %\n\n1.02\tSpeech\toff, on\n1.03; Broken; 9 to 1\n1.04; Far; 0 to 10; 11\nonly this',
      'gain',
      ['speech'],
    );
    expect(dials).toEqual([
      {
        id: 'mic-gain',
        label: 'Mic gain',
        menu: '1.01',
        stage: 'gain',
        unit: '%',
        scale: { kind: 'steps', min: 0, max: 100, step: 1 },
        rest: 50,
      },
      {
        id: 'speech-2',
        label: 'Speech',
        menu: '1.02',
        stage: 'gain',
        unit: '',
        scale: { kind: 'options', options: ['off', 'on'] },
        rest: 'off',
      },
    ]);
    expect(problems.map(({ place }) => place)).toEqual(['line 4', 'line 5', 'line 6']);
    expect(problems[0].text).toContain('upside down');
    expect(problems[1].text).toContain('not on the scale');
  });

  it('stop at 200', () => {
    const rows = Array.from({ length: 205 }, (_, i) => `${i}; Dial ${i}; 0 to 1`).join('\n');
    const { dials, problems } = parseDialRows(rows, 'equalizer', []);
    expect(dials).toHaveLength(200);
    expect(problems[0].text).toContain('200');
  });

  it('get ids that a profile takes, whatever the label', () => {
    fc.assert(
      fc.property(fc.string({ minLength: 1 }), (label) => {
        const id = dialIdFor(label, []);
        expect(id).toMatch(/^[a-z0-9][a-z0-9-]{0,39}$/);
        expect(dialIdFor(label, [id])).not.toBe(id);
      }),
    );
  });
});

describe('shapes to start from', () => {
  it.each(SHAPES)('%s is a profile that can be used at once', (shape) => {
    for (const hasTwoBanks of [false, true]) {
      const most = shape === 'graphic' ? MOST_BANDS.graphic : MOST_BANDS.parametric;
      for (const bands of [1, 3, most]) {
        const rig = startRig({ shape, name: 'Mine', bands, hasTwoBanks });
        expect(parseRig(JSON.parse(JSON.stringify(rig)))).toEqual(rig);
        for (const mode of rig.modes) expect(effective(rig, factoryCard(rig, mode)).dials).toHaveLength(rig.dials.length);
      }
    }
  });

  it('the two banks follow the processor', () => {
    const rig = startRig({ shape: 'parametric', name: 'Mine', bands: 2, hasTwoBanks: true });
    const live = (processor: string) =>
      effective(rig, { mode: 'usb', values: { 'mic-eq': 'on', processor } }).bands.map(({ bank }) => bank);
    expect(new Set(live('off'))).toEqual(new Set(['N']));
    expect(new Set(live('on'))).toEqual(new Set(['P']));
  });

  it("a radio described from its manual's table gets the right sheet", () => {
    const rig: RigProfile = startRig({ shape: 'tone', name: 'Mine', bands: 0, hasTwoBanks: false });
    const { dials } = parseDialRows('EX-3; Bass; -10 to 10; 0; dB\nEX-4; Treble; -10 to 10; 0; dB', 'equalizer', []);
    const mine = parseRig({
      ...rig,
      dials: [...rig.dials.filter(({ stage }) => stage !== 'equalizer'), ...dials],
    });
    const lines = sheet(mine, factoryCard(mine), { mode: 'usb', values: { treble: 4, bass: -2, 'mic-gain': 30 } });
    expect(lines.map(({ dial, from, to }) => [dial.menu, dial.label, from, to])).toEqual([
      ['', 'Mic gain', 50, 30],
      ['EX-3', 'Bass', 0, -2],
      ['EX-4', 'Treble', 0, 4],
    ]);
  });
});

describe('problems of a profile', () => {
  it('are told all at once, each with its place', () => {
    const rig = JSON.parse(JSON.stringify(twoBankRig()));
    rig.dials[0].menu = '4.10';
    rig.dials[1].rest = 'maybe';
    const places = problemsOfRig(rig).map(({ place }) => place);
    expect(places).toEqual(['dials.1.rest', 'dials.2.menu']);
  });

  it('of the schema name the field, not every branch that it could have been', () => {
    const rig = JSON.parse(JSON.stringify(twoBankRig()));
    rig.dials[0].scale = { kind: 'steps', min: 0, max: 10 };
    rig.equalizer.banks[0].bands = [];
    expect(problemsOfRig(rig)).toEqual([
      { place: 'dials.0.scale', text: expect.stringContaining("'step'") },
      { place: 'equalizer.banks.0.bands', text: expect.stringContaining('fewer than 1') },
    ]);
  });

  it('a switch that waits for a position it has not, and bands that share a dial, are found', () => {
    const rig = JSON.parse(JSON.stringify(twoBankRig()));
    rig.dials[3].needs[0].is = ['purple'];
    rig.equalizer.banks[1].bands[0].level = 'n-level';
    const words = problemsOfRig(rig).map(({ text }) => text);
    expect(words.some((text) => text.includes("to be purple, which it can't be"))).toBe(true);
    expect(words.some((text) => text.includes('2 times'))).toBe(true);
  });

  it('a huge profile is refused without counting every fault', () => {
    const start = process.cpuUsage().user;
    const dials = Array.from({ length: 60_000 }, () => ({ id: '!' }));
    const found = problemsOfRig({ ...twoBankRig(), dials, modes: new Array(100_000).fill('usb') });
    expect(found.length).toBeGreaterThan(0);
    expect(found.length).toBeLessThan(30);
    // Microseconds of this process; a full list would take minutes.
    expect(process.cpuUsage().user - start).toBeLessThan(20_000_000);
  });

  it('200 dials are taken, 201 are not', () => {
    const many = (count: number) =>
      rigOf({ dials: Array.from({ length: count }, (_, i) => steps(`d${i}`, 0, 1, 1, { menu: String(i) })), equalizer: { kind: 'none' } });
    expect(many(200).dials).toHaveLength(200);
    expect(() => many(201)).toThrow(InvalidInput);
  });
});

describe('dials by role and the nearest position', () => {
  it('a mode has its own gain', () => {
    const rig = rigOf({
      modes: ['usb', 'fm'],
      dials: [steps('a', 0, 9, 1, { role: 'mic-gain', modes: ['usb'] }), steps('b', 0, 9, 1, { role: 'mic-gain', modes: ['fm'] })],
      passbands: [{ kind: 'fixed', modes: ['usb', 'fm'], edges: [300, 2700] }],
      equalizer: { kind: 'none' },
    });
    expect(dialInRole(rig, 'mic-gain', 'usb')?.id).toBe('a');
    expect(dialInRole(rig, 'mic-gain', 'fm')?.id).toBe('b');
    expect(dialInRole(rig, 'power', 'fm')).toBeUndefined();
  });

  it('the nearest position is one, and none is nearer', () => {
    fc.assert(
      fc.property(fc.integer({ min: -300, max: 300 }), fc.integer({ min: 1, max: 9 }), (value, step) => {
        const dial = steps('x', -10 * step, 10 * step, step);
        const nearest = Number(nearestOn(dial, value));
        for (const each of positionsOf(dial.scale)) expect(Math.abs(nearest - value)).toBeLessThanOrEqual(Math.abs(Number(each) - value));
      }),
    );
    expect(nearestOn({ scale: { kind: 'options', options: ['off', 'on'] }, rest: 'off' }, 'maybe')).toBe('off');
  });
});

describe('microphones at the door', () => {
  const good = microphone({
    positions: [
      {
        name: 'flat',
        curve: [
          [100, 0],
          [1000, 0],
        ],
      },
    ],
  });
  it('round trip exact', () => {
    expect(parseMicrophone(JSON.parse(JSON.stringify(good)))).toEqual(good);
  });
  it.each([
    [
      'curves out of order',
      {
        positions: [
          {
            name: 'flat',
            curve: [
              [1000, 0],
              [100, 0],
            ],
          },
        ],
      },
      /out of order: 100 Hz does not come after 1000/,
    ],
    ['one point', { positions: [{ name: 'flat', curve: [[1000, 0]] }] }, /fewer than 2/],
    ['names twice', { positions: [good.positions[0], good.positions[0]] }, /called "flat"/],
    ['an unknown pattern', { pattern: 'square' }, /must be one of omni/],
    ['no distance', { distanceCm: 0 }, /0.5/],
    ['what it does not know', { colour: 'blue' }, /"colour" is not known/],
  ])('refuses %s', (_, change, words) => {
    expect(() => parseMicrophone({ ...good, ...change })).toThrow(words);
  });
});
