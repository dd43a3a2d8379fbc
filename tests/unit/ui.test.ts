import { describe, expect, it } from 'vitest';
import { changeText, expectText, moveText } from '../../src/core/advice/moveText.ts';
import { type RibbonInput, ribbon } from '../../src/core/advice/stageStatus.ts';
import { parseAlc, parseReading } from '../../src/core/rig/alcReading.ts';
import { factoryCard } from '../../src/core/rig/card.ts';
import { bytes, decibels, duration, fixed, frequency, percent, signed } from '../../src/core/units/numberText.ts';
import { placeNames } from '../../src/features/reach/placeNames.ts';
import { type Points, placeLabels } from '../../src/ui/charts/placeLabel.ts';
import { utc, utcDay } from '../../src/ui/utc.ts';
import { parametricRig, rigOf, steps, twoBankRig } from '../support/rigs.ts';

describe('numbers as operators read them', () => {
  it('have a real minus sign and no signed zero', () => {
    expect(fixed(-2.34, 1)).toBe('−2.3');
    expect(fixed(-0.04, 1)).toBe('0.0');
    expect(signed(2, 1)).toBe('+2.0');
    expect(signed(0.01, 1)).toBe('0.0');
    expect(decibels(-20)).toBe('−20.0 dB');
    expect(decibels(null)).toBe('not measurable');
  });

  it('carry their unit', () => {
    expect(frequency(315.4)).toBe('315 Hz');
    expect(frequency(2510)).toBe('2.51 kHz');
    expect(percent(0.835)).toBe('84 %');
    expect(duration(65)).toBe('1 min 05 s');
    expect(duration(8.44)).toBe('8.4 s');
    expect(bytes(999)).toBe('999 bytes');
    expect(bytes(222_694)).toBe('223 kB');
    expect(bytes(1e8)).toBe('100.0 MB');
  });

  it('times are UTC', () => {
    expect(utc('2026-03-05T23:59:00.000Z')).toBe('5 Mar 23:59');
    expect(utcDay('2026-12-31T00:00:00.000Z')).toBe('31 Dec');
  });
});

describe('words', () => {
  const dial = steps('x', -20, 20, 1, { label: 'Low band, level', menu: '4.12' });

  it('name a move with its unit once', () => {
    expect(moveText(dial, 2, -8)).toBe('Low band, level, 4.12: +2 → −8 dB');
    expect(changeText({ ...dial, unit: '' }, 2, 3)).toBe('2 → 3');
  });

  it('tell what to expect', () => {
    const text = expectText({ hz: 2512, changeDb: 5.21, alcChangeDb: 0.1, errorBeforeDb: 4.2, errorAfterDb: 2.1 });
    expect(text).toBe('Expect +5.2 dB at 2.51 kHz against the rest; level into the ALC about the same; off target 4.2 → 2.1 dB.');
    expect(expectText({ hz: 200, changeDb: -3, alcChangeDb: -1.5, errorBeforeDb: 1, errorAfterDb: 1 })).toContain(
      'level into the ALC −1.5 dB',
    );
  });
});

describe('readings typed by hand', () => {
  it.each([
    ['', 1, null],
    ['  ', 1, null],
    ['0.5', 1, 0.5],
    ['.5', 1, 0.5],
    ['0,47', 1, 0.47],
    ['0', 1, 0],
    ['0', 5000, undefined],
    ['1.2', 1, undefined],
    ['-1', 1, undefined],
    ['1e3', 5000, undefined],
    ['abc', 5000, undefined],
    ['100', 5000, 100],
  ])('%j up to %i', (text, most, value) => {
    expect(parseReading(text, most, most === 1)).toBe(value);
  });

  it('an ALC reading as the meter is marked becomes a fraction', () => {
    expect(parseAlc('4.5', 10)).toBeCloseTo(0.45, 12);
    expect(parseAlc('0', 10)).toBe(0);
    expect(parseAlc('11', 10)).toBeUndefined();
    expect(parseAlc(' ', 10)).toBeNull();
  });
});

describe('names of curves', () => {
  const flat = (db: number): Points => Array.from({ length: 40 }, (_, i) => [100 * 1.1 ** i, db]);
  const RANGE = [-30, 12] as const;

  it('stand on the side where there is room', () => {
    expect(placeLabels([flat(0), flat(1)], RANGE)[0].side).toBe('bottom');
    expect(placeLabels([flat(0), flat(-1)], RANGE)[0].side).toBe('top');
  });

  it('stand where the other curve is far', () => {
    const near: Points = flat(0).map(([hz]) => [hz, hz < 1000 ? 0.5 : 9]);
    const [place] = placeLabels([flat(0), near, flat(-0.5)], RANGE);
    expect(flat(0)[place.at][0]).toBeGreaterThan(1000);
    expect(place.side).toBe('top');
  });

  it('do not stand on each other', () => {
    const [a, b, c] = placeLabels([flat(0), flat(0.2), flat(0.4)], RANGE);
    const octaves = (one: { at: number }, other: { at: number }) => Math.abs(Math.log2(1.1 ** (one.at - other.at)));
    expect(octaves(a, b) > 0.9 || a.side !== b.side).toBe(true);
    expect(octaves(b, c) > 0.9 || b.side !== c.side).toBe(true);
  });

  it('are placed even on an empty curve', () => {
    expect(placeLabels([[]], RANGE)).toEqual([{ at: 0, side: 'top' }]);
  });
});

describe('the ribbon', () => {
  const rig = parametricRig(1);
  const input: RibbonInput = {
    rig,
    card: factoryCard(rig),
    microphone: { name: 'Reed boom', use: { position: 'flat', accessories: [], distanceCm: 6 } },
    voice: null,
    radio: null,
    movesLeft: null,
    alcReading: null,
    isChangedSince: false,
    model: null,
    isModelling: false,
  };
  const radio = {
    told: '2457 Hz wide',
    findings: [{ code: 'overdrive', severity: 'fault', text: '', evidence: '' }],
    isOld: false,
  } as const;

  it('on air: the newest I/Q measurement, its worst finding, and whether the card has changed since', () => {
    expect(stage('on-air')).toMatchObject({ state: 'unknown' });
    expect(stage('on-air', { radio })).toMatchObject({ value: '2457 Hz wide', note: 'overdrive', state: 'fault' });
    expect(stage('on-air', { radio: { ...radio, isOld: true } })).toMatchObject({ state: 'stale' });
    expect(stage('on-air', { radio: { ...radio, findings: [] } })).toMatchObject({ note: 'clean', state: 'ok' });
  });

  const stage = (key: string, change: Partial<RibbonInput> = {}) => ribbon({ ...input, ...change }).find((each) => each.key === key);

  it('has nine stages and is honest about what is not measured', () => {
    const stages = ribbon(input);
    expect(stages.map(({ key }) => key)).toEqual(['voice', 'mic', 'gain', 'equalizer', 'compressor', 'passband', 'alc', 'on-air', 'heard']);
    for (const { state } of stages) expect(state).toBe('unknown');
    const notes = Object.fromEntries(stages.map(({ key, note }) => [key, note]));
    expect(notes.mic).toBe('flat, 6 cm');
    for (const key of ['gain', 'compressor']) expect(notes[key]).toContain('not on this radio');
    for (const key of ['voice', 'equalizer', 'alc', 'on-air', 'heard']) expect(notes[key]).toContain('not measured yet');
    expect(notes.passband).toBe('as the dials say, not measured');
  });

  it('tells what the model expects: ALC by its zone, crest, reach and naturalness', () => {
    const model = {
      reach: { reachDb: 3.21, uncertaintyDb: 0.4, atOtherCriteria: [], neededSnrDb: 15, distortionDb: -20, noiseDb: -60 },
      naturalness: { score: 61.4, spectrumDb: 3, dynamicsDb: 1, distortionDb: -20 },
      alc: { usual: 0.41, highest: 0.6 },
      peakToAverageDb: 8.2,
    };
    const withGain = rigOf({ ...rig, dials: [...rig.dials, steps('gain', 0, 100, 1, { stage: 'gain', role: 'mic-gain', rest: 50 })] });
    expect(stage('gain', { rig: withGain, model })).toMatchObject({ note: 'ALC about 0.41 expected', state: 'ok' });
    expect(stage('gain', { rig: withGain, model: { ...model, alc: { usual: 0.9, highest: 1 } } })).toMatchObject({ state: 'watch' });
    expect(stage('heard', { model })).toMatchObject({ value: 'reach +3.2 dB', note: 'naturalness 61, expected', state: 'ok' });
    expect(stage('heard', { isModelling: true })).toMatchObject({ note: 'calculating', state: 'unknown' });
    const unreadable = { ...model, reach: { ...model.reach, reachDb: null } };
    expect(stage('heard', { model: unreadable })).toMatchObject({ value: 'not readable', state: 'fault' });
  });

  it('judges the ALC by its zone, and calls the reading stale after any change', () => {
    expect(stage('alc', { alcReading: 0.4 })?.state).toBe('ok');
    expect(stage('alc', { alcReading: 0.6 })).toMatchObject({ state: 'watch', note: 'above the zone' });
    expect(stage('alc', { alcReading: 0.1 })).toMatchObject({ state: 'watch', note: 'below the zone' });
    expect(stage('alc', { alcReading: 0.4, isChangedSince: true })).toMatchObject({ state: 'stale', note: 'look again' });
  });

  it('tells how many dials are off target', () => {
    expect(stage('equalizer', { movesLeft: 4 })).toMatchObject({ state: 'watch', note: '4 dials off target' });
    expect(stage('equalizer', { movesLeft: 0 })).toMatchObject({ state: 'ok', value: 'on' });
    const banks = twoBankRig();
    expect(stage('equalizer', { rig: banks, card: factoryCard(banks) })?.value).toBe('off');
    const awake = { ...factoryCard(banks), values: { ...factoryCard(banks).values, eq: 'on' } };
    expect(stage('equalizer', { rig: banks, card: awake })?.value).toBe('bank N on');
  });

  it('takes the worst finding as the state of the voice', () => {
    const findings = [{ code: 'muffled', severity: 'fault', text: '', evidence: '' }] as const;
    expect(stage('voice', { voice: { pitchHz: 112, findings } })).toMatchObject({ value: 'low, 112 Hz', state: 'fault', note: 'muffled' });
    expect(stage('voice', { voice: { pitchHz: null, findings: [] } })).toMatchObject({ value: 'pitch unclear', state: 'ok' });
  });
});

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
