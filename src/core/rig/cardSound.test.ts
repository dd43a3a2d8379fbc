import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { graphicRig, parametricRig, twoBankRig } from '../../../tests/support/rigs.ts';
import { octavesToQ } from '../units/conversions.ts';
import { fullScale, readingText, zoneText } from './alc.ts';
import { type DialValues, factoryCard } from './card.ts';
import { equalizerBands } from './equalizer.ts';
import { fittingUse, isSameUse, microphoneUseText, usualUse } from './microphone.ts';
import { mistakesOn } from './mistakes.ts';
import type { Mode, RigProfile } from './rig.ts';
import { everyDial, sheet } from './sheet.ts';
import { soundChange } from './sound.ts';
import { parseRig } from './validate.ts';
import { hasUnknownWidth, widthReadings, widthSentence } from './widthReadings.ts';

const card = (rig: RigProfile, values: DialValues = {}, mode: Mode = rig.modes[0]) => ({
  mode,
  values: { ...factoryCard(rig, mode).values, ...values },
});
const demoRig = (name: string) => parseRig(JSON.parse(readFileSync(`demo/rigs/${name}.json`, 'utf8')));

describe('whether two cards sound the same', () => {
  const rig = twoBankRig();
  const on = { eq: 'on', 'n-level': 4 };
  it('dead dials, bands at 0 dB and a switch that enables nothing do not count', () => {
    expect(soundChange(rig, card(rig, on), card(rig, { ...on, 'p-level': 6, 'p-centre': 1000 }))).toBeNull();
    expect(soundChange(rig, card(rig, { eq: 'on' }), card(rig, { eq: 'on', 'n-centre': 1000 }))).toBeNull();
    expect(soundChange(rig, card(rig), card(rig, { eq: 'on' }))).toBeNull();
  });
  it('what acts does: curve, gain, processor, microphone', () => {
    const change = soundChange(rig, card(rig, on), card(rig, { ...on, 'n-level': 6 }));
    expect(change?.equalizerDb).toBeCloseTo(2, 1);
    expect(change?.dials.map(({ dial }) => dial.id)).toEqual(['n-level']);
    expect(soundChange(rig, card(rig), card(rig, { mic: 41 }))?.dials).toMatchObject([{ from: 40, to: 41 }]);
    expect(soundChange(rig, card(rig), card(rig, { processor: 'on' }))?.dials.map(({ dial }) => dial.id)).toContain('processor');
    const use = { position: null, accessories: [], distanceCm: 6 };
    const moved = soundChange(rig, { ...card(rig), use }, { ...card(rig), use: { ...use, distanceCm: 12 } });
    expect(moved).toMatchObject({ isMicrophoneMoved: true, dials: [] });
  });
  it('a mode decides what acts', () => {
    expect(soundChange(rig, card(rig, {}, 'am'), card(rig, { processor: 'on' }, 'am'))).toBeNull();
  });
});

describe('the use of a microphone', () => {
  it('is told shortly, and compared whatever the order', () => {
    const a = { position: 'low cut', accessories: ['cap', 'screen'], distanceCm: 6 };
    expect(microphoneUseText(a)).toBe('low cut, cap, screen, 6 cm');
    expect(isSameUse(a, { ...a, accessories: ['screen', 'cap'] })).toBe(true);
    expect(isSameUse(a, { ...a, position: null })).toBe(false);
    const mic = { positions: [], accessories: [], distanceCm: 4 } as unknown as Parameters<typeof usualUse>[0];
    expect(usualUse(mic)).toEqual({ position: null, accessories: [], distanceCm: 4 });
    // A microphone that was described anew: what is gone counts as never fitted.
    expect(fittingUse(mic, a)).toEqual({ position: null, accessories: [], distanceCm: 6 });
  });
});

describe('ALC readings', () => {
  it('are told as the meter is marked', () => {
    expect([fullScale({ zone: [0.3, 0.5] }), fullScale({ zone: [0.3, 0.5], full: 10 })]).toEqual([1, 10]);
    expect(readingText({ zone: [0.3, 0.5] }, 0.456)).toBe('0.46');
    expect(readingText({ zone: [0.3, 0.5], full: 15 }, 0.6)).toBe('9');
    expect(zoneText({ zone: [0.5, 0.67], full: 10 })).toBe('5–6.7');
  });
});

describe('mistakes', () => {
  const rig = twoBankRig();
  const codes = (values: DialValues, mode?: Mode) => mistakesOn(rig, card(rig, values, mode)).map(({ code }) => code);
  it('none on a card that does what it says', () => {
    expect(codes({})).toEqual([]);
    expect(codes({ eq: 'on', 'n-level': 3 })).toEqual([]);
  });
  it('the switch is off while bands are set', () => {
    expect(codes({ 'n-level': 3 })).toEqual(['switch-off']);
    expect(mistakesOn(rig, card(rig, { 'n-level': 3 }))[0].remedy).toBe('Works while eq (4.10) is on.');
  });
  it('the bank that is not in use was edited, and the one in use is flat', () => {
    const [found] = mistakesOn(rig, card(rig, { eq: 'on', 'p-level': 5 }));
    expect(found).toMatchObject({ code: 'dead-bank', dials: ['p-level'] });
    expect(found.text).toContain('bank N is the one in use, and it is flat');
  });
  it('a bank kept for the other state of the processor is no mistake', () => {
    expect(codes({ eq: 'on', 'p-level': 5, 'n-level': 2 })).toEqual([]);
  });
  it('in AM there is no processor: bank P can never work', () => {
    expect(codes({ eq: 'on', processor: 'on', 'p-level': 5 }, 'am')).toEqual(['dead-bank']);
  });
  it('a slider turned up far beyond the passband', () => {
    const sliders = graphicRig([400, 1000, 3500]);
    expect(mistakesOn(sliders, card(sliders, { g3500: 12 }))[0]).toMatchObject({ code: 'outside-passband', dials: ['g3500'] });
    expect(mistakesOn(sliders, card(sliders, { g3500: 3 }))).toEqual([]);
  });
  it('a narrow FM handheld', () => {
    const handheld = demoRig('dunlin-fm');
    expect(mistakesOn(handheld, card(handheld, { width: 'narrow' })).map(({ code }) => code)).toEqual(['narrow-fm']);
    expect(mistakesOn(handheld, card(handheld))).toEqual([]);
  });
  it('the demo has one of each, where the scenario put it', () => {
    const { cards } = JSON.parse(readFileSync('demo/scenario.json', 'utf8'));
    const files: Record<string, string> = { 'Tern 100': 'tern-100', 'Fulmar 8': 'fulmar-8', 'Knot 5': 'knot-5', 'Dunlin FM': 'dunlin-fm' };
    const found = Object.fromEntries(
      cards.map((each: { key: string; rig: string; mode: Mode; start: DialValues }) => {
        const own = demoRig(files[each.rig]);
        return [each.key, mistakesOn(own, card(own, each.start, each.mode)).map(({ code }) => code)];
      }),
    );
    expect(Object.entries(found).filter(([, list]) => (list as string[]).length > 0)).toEqual([
      ['tilo-tern', ['dead-bank']],
      ['tilo-pileup', ['switch-off']],
      ['bram-contest-8', ['outside-passband']],
      ['bram-fm', ['narrow-fm']],
    ]);
  });
});

describe('sheet', () => {
  it('spells out the bank and when it works', () => {
    const rig = demoRig('tern-100');
    const lines = sheet(rig, card(rig), card(rig, { 'n-low-level': 2, 'p-low-level': 3, 'mic-gain': 30 }));
    expect(lines.map(({ dial, bank }) => [dial.id, bank])).toEqual([
      ['mic-gain', null],
      ['n-low-level', 'Bank N (in use while Processor (2.01) is off)'],
      ['p-low-level', 'Bank P (in use while Processor (2.01) is on)'],
    ]);
  });
  it('for a radio nobody knows holds every dial, from nowhere', () => {
    const rig = twoBankRig();
    const lines = everyDial(rig, card(rig));
    expect(lines).toHaveLength(rig.dials.length);
    expect(lines.every(({ from }) => from === null)).toBe(true);
  });
});

describe('width numbers', () => {
  const rig = parametricRig(1, { centres: [1000], widths: [0.5, 1, octavesToQ(1), 4] });
  const unknown = { ...rig, equalizer: { ...rig.equalizer, width: { meaning: 'unknown' } } } as RigProfile;
  const [band] = equalizerBands(unknown);
  const read = (width: number) => {
    const values = { 'p1-centre': 1000, 'p1-level': 6, 'p1-width': width };
    const readings = widthReadings(unknown, band, values, [250, 500, 1000, 2000, 4000]);
    if (!readings) throw new Error('no readings');
    return { readings, sentence: widthSentence(band, values, readings) };
  };
  it('both readings meet the level at the centre and differ beside it', () => {
    const { readings, sentence } = read(4);
    expect(readings.octaves.responseDb[2]).toBeCloseTo(6, 6);
    expect(readings.q.responseDb[2]).toBeCloseTo(6, 6);
    expect(readings.octaves.widthOctaves).toBe(4);
    // Q 4 is 0.36 octaves: N = 2 asinh(1 / 2Q) / ln 2.
    expect(readings.q.widthOctaves).toBeCloseTo((2 * Math.asinh(1 / 8)) / Math.LN2, 9);
    expect(readings.apart.db).toBeGreaterThan(3);
    expect(sentence).toMatch(/^Width 4 at 1000 Hz: 4\.0 octaves wide .* 0\.36 octaves if it is Q\. They differ by up to/);
  });
  it('where octaves and Q are the same number, the readings are', () => {
    // N = Q at about 1.26: below the readings differ one way, above the other.
    const wide = read(4).readings.apart.db;
    const narrow = read(0.5).readings.apart.db;
    expect(Math.sign(wide)).toBe(1);
    expect(Math.sign(narrow)).toBe(-1);
  });
  it('only an unknown width of a parametric equalizer asks for it', () => {
    expect(hasUnknownWidth(unknown)).toBe(true);
    expect(hasUnknownWidth(rig)).toBe(false);
    expect(hasUnknownWidth(graphicRig([1000]))).toBe(false);
    const sliders = graphicRig([1000]);
    expect(widthReadings(sliders, equalizerBands(sliders)[0], {}, [1000])).toBeNull();
  });
});
