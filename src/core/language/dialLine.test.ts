import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type DialValues, factoryCard } from '../rig/card.ts';
import { isOnScale } from '../rig/dialScale.ts';
import type { Mode } from '../rig/rig.ts';
import { startRig } from '../rig/shapes.ts';
import { parseRig } from '../rig/validate.ts';
import { readDialLine } from './dialLine.ts';
import { suggestionsFor } from './suggestions.ts';

const rigs = Object.fromEntries(
  ['tern-100', 'fulmar-8', 'knot-5', 'dunlin-fm'].map((name) => [
    name,
    parseRig(JSON.parse(readFileSync(`demo/rigs/${name}.json`, 'utf8'))),
  ]),
);
const ON: DialValues = { 'mic-eq': 'on', 'tx-eq': 'on' };
const read = (rig: string, text: string, values: DialValues = {}, mode: Mode = rigs[rig].modes[0]) =>
  readDialLine(text, rigs[rig], { mode, values: { ...factoryCard(rigs[rig], mode).values, ...values } });
/** What the line would set. */
const moves = (rig: string, text: string, values: DialValues = ON, mode?: Mode) => {
  const line = read(rig, text, values, mode);
  return line.kind === 'do' ? Object.fromEntries(line.moves.map(({ dial, to }) => [dial.id, to])) : line;
};

describe('advice as it is heard', () => {
  it('is relative to where the dial is', () => {
    expect(moves('fulmar-8', '2400 +3', { ...ON, 'eq-2400': 2 })).toEqual({ 'eq-2400': 5 });
    expect(moves('fulmar-8', '2400 3', { ...ON, 'eq-2400': 2 })).toEqual({ 'eq-2400': 3 });
    expect(moves('tern-100', '2500 +2', { ...ON, 'n-high-level': 3, 'n-high-centre': 2600 })).toEqual({ 'n-high-level': 5 });
  });

  it('a band in use nearby is meant before one that is free', () => {
    const rig = startRig({ shape: 'parametric', name: 'Mine', bands: 3, hasTwoBanks: false });
    const values = { ...factoryCard(rig).values, 'mic-eq': 'on', 'band-3-centre': 2400, 'band-3-level': 3 };
    const set = (text: string) => {
      const line = readDialLine(text, rig, { mode: 'usb', values });
      return line.kind === 'do' ? Object.fromEntries(line.moves.map(({ dial, to }) => [dial.id, to])) : line;
    };
    expect(set('2500 +2')).toEqual({ 'band-3-level': 5 });
    // Farther off a free one is brought there; the nearest of those that are free.
    expect(set('1500 +2')).toEqual({ 'band-2-centre': 1500, 'band-2-level': 2 });
  });

  it('a menu address beats a frequency, and what follows it is where the dial goes', () => {
    const rig = startRig({ shape: 'graphic', name: 'Mine', bands: 3, hasTwoBanks: false });
    const named = { ...rig, dials: rig.dials.map((dial) => (dial.id === 'mic-gain' ? { ...dial, menu: '100' } : dial)) };
    const card = { mode: 'usb' as const, values: { ...factoryCard(named).values, 'mic-eq': 'on' } };
    expect(readDialLine('100 30', named, card)).toMatchObject({ moves: [{ dial: { id: 'mic-gain' }, to: 30 }] });
    expect(readDialLine('menu 100 30', named, card)).toMatchObject({ moves: [{ to: 30 }] });
    expect(moves('fulmar-8', '31 +2', { ...ON, 'eq-100': 5 })).toEqual({ 'eq-100': 2 });
    expect(moves('fulmar-8', '31 up 2', { ...ON, 'eq-100': 5 })).toEqual({ 'eq-100': 7 });
    expect(moves('fulmar-8', '100 +2', { ...ON, 'eq-100': 5 })).toEqual({ 'eq-100': 7 });
  });

  it('turns the band of the bank in use', () => {
    expect(moves('tern-100', 'eq1 -2', { ...ON, processor: 'on' })).toEqual({ 'p-low-level': -2 });
    expect(moves('tern-100', '300 -2', { ...ON, processor: 'on' })).toEqual({ 'p-low-centre': 300, 'p-low-level': -2 });
  });

  it('switches a sleeping equalizer on, and says so', () => {
    const line = read('fulmar-8', '2400 +3');
    expect(line).toMatchObject({ kind: 'do' });
    expect(moves('fulmar-8', '2400 +3', {})).toEqual({ 'tx-eq': 'on', 'eq-2400': 3 });
    expect('warnings' in line && line.warnings.join()).toContain('switched on as well');
  });

  it('says what will happen, and what to mind', () => {
    const line = read('tern-100', 'comp 30', ON);
    expect(line).toMatchObject({ kind: 'do', explained: ['Processor level (2.02): 20 → 30.'] });
    expect('warnings' in line && line.warnings[0]).toContain('Processor (2.01) is off');
    const end = read('fulmar-8', '2400 +20', ON);
    expect('warnings' in end && end.warnings[0]).toContain('stops at +8 dB');
  });

  it('one gain a mode', () => {
    expect(moves('tern-100', 'mic 60', ON, 'fm')).toEqual({ 'fm-mic-gain': 60 });
  });

  it('readings of the ALC in fractions, percent, or the marks of the meter', () => {
    const alc = (rig: string, text: string) => {
      const line = read(rig, text);
      return line.kind === 'do' ? line.reading?.alc : line.kind;
    };
    expect(alc('tern-100', 'alc .6')).toBe(0.6);
    expect(alc('tern-100', 'alc 45%')).toBe(0.45);
    expect(alc('knot-5', 'alc 6')).toBe(0.6);
    expect(alc('knot-5', 'alc 11')).toBe('problem');
    // On a meter to 10 it is a tenth, however it is written.
    expect(alc('knot-5', 'alc 1.0')).toBe(0.1);
    expect(alc('knot-5', 'alc 1')).toBe(0.1);
    expect(alc('knot-5', 'alc .6')).toBe(0.6);
    expect(read('knot-5', 'alc 6')).toMatchObject({ explained: [expect.stringContaining('ALC 6 of 10')] });
    expect(alc('knot-5', 'alc down 2')).toBe('problem');
    expect(read('tern-100', 'undo').kind).toBe('undo');
    expect(read('tern-100', '  ').kind).toBe('empty');
  });

  it('moves and readings in one line', () => {
    expect(read('tern-100', 'mic 32, alc is at point four now, swr 1.2')).toMatchObject({
      moves: [{ dial: { id: 'mic-gain' }, from: 45, to: 32 }],
      reading: { alc: 0.4, swr: 1.2 },
    });
  });

  it('"same again" and "back to what it was" know the line before', () => {
    const rig = rigs['fulmar-8'];
    const before = { mode: 'usb' as const, values: { ...factoryCard(rig).values, ...ON, 'eq-2400': 1 } };
    const card = { ...before, values: { ...before.values, 'eq-2400': 3 } };
    const [dial] = rig.dials.filter(({ id }) => id === 'eq-2400');
    const context = { before, lastMoves: [{ dial, from: 1, to: 3 }] };
    const set = (text: string) => {
      const line = readDialLine(text, rig, card, context);
      return line.kind === 'do' ? Object.fromEntries(line.moves.map(({ dial: { id }, to }) => [id, to])) : line.kind;
    };
    expect(set('same again')).toEqual({ 'eq-2400': 5 });
    expect(set('one more')).toEqual({ 'eq-2400': 4 });
    expect(set('a bit less')).toEqual({ 'eq-2400': 1 });
    expect(set('2400 back to what it was')).toEqual({ 'eq-2400': 1 });
    expect(set('back to what it was')).toBe('undo');
    expect(readDialLine('same again', rig, card)).toMatchObject({ kind: 'problem', text: expect.stringContaining('no move before') });
  });

  it('what is half understood changes nothing, and is asked about', () => {
    expect(read('fulmar-8', '2400 +3 and flurb the gizmo', ON)).toMatchObject({
      kind: 'problem',
      explained: ['Slider 2400 Hz (37): 0 dB → +3 dB.'],
      unread: ['flurb', 'gizmo'],
      text: expect.stringMatching(/Understood.*do "flurb", "gizmo" mean.*Nothing is changed/),
    });
    expect(read('fulmar-8', 'mach die Höhen lauter', ON)).toMatchObject({ kind: 'problem', explained: [] });
    // A word that denies is never passed over.
    for (const words of ['do not touch the mic, 2400 never +3', "I wouldn't go 2400 +3", 'not 2400 +3']) {
      expect(read('fulmar-8', words, ON).kind, words).toBe('problem');
    }
  });

  it('numbers in menu order: one too few is refused, a skipped one is noticed', () => {
    expect(read('tern-100', '4.11-4.19: 150 -6 4 1000 0 5 2400 5', ON)).toMatchObject({
      text: expect.stringContaining('8 numbers for 9 dials'),
    });
    const line = read('tern-100', '4.11 200\n4.12 -6\n4.14 1200\n4.15 2', ON);
    expect('warnings' in line && line.warnings).toContain('The list goes from 4.12 to 4.14: Low band N, width (4.13) left out?');
  });

  it('the compressor that brings another bank is told', () => {
    const line = read('tern-100', 'comp on', ON);
    expect('warnings' in line && line.warnings).toContain('Bank P of the equalizer is live now, no longer bank N: its own numbers apply.');
    expect(moves('tern-100', 'comp on and then 2400 +3')).toEqual({ processor: 'on', 'p-high-level': 3 });
  });

  it('flat, off, zero and the ends of the scale', () => {
    const bent = { ...ON, 'eq-100': 4, 'eq-600': -3, 'eq-2400': 5 };
    expect(moves('fulmar-8', 'everything flat', bent)).toEqual({ 'eq-100': 0, 'eq-600': 0, 'eq-2400': 0 });
    expect(moves('fulmar-8', 'eq flat', bent)).toEqual({ 'eq-100': 0, 'eq-600': 0, 'eq-2400': 0 });
    expect(moves('fulmar-8', '400 to 1.5k flat', bent)).toEqual({ 'eq-600': 0 });
    expect(moves('fulmar-8', 'everything below 300 off', bent)).toEqual({ 'eq-100': 0 });
    expect(moves('fulmar-8', '2400 max, 100 min', bent)).toEqual({ 'eq-2400': 8, 'eq-100': -16 });
    expect(moves('fulmar-8', '2400 +1, everything else flat', bent)).toEqual({ 'eq-2400': 6, 'eq-100': 0, 'eq-600': 0 });
  });

  it.each([
    ['tern-100', 'mic 300', 'it goes 0 to 100'],
    ['tern-100', 'bw 200-2900', '100–2900, 200–2800'],
    ['tern-100', 'bw 2900-200', 'the lower first'],
    ['tern-100', 'knob 3', 'Which dial is meant?'],
    ['tern-100', 'level +3', 'Which dial is meant?'],
    ['tern-100', 'blorp 3', '"blorp" is not understood'],
    ['tern-100', 'eq9 +1', 'no band 9'],
    ['tern-100', '7000 +3', 'neither a frequency'],
    ['tern-100', 'mic', 'What should I do with mic? Give a value, or + or - steps.'],
    ['tern-100', 'comp maybe', 'What should I do with compressor?'],
    ['fulmar-8', 'mic +2', '50 % is the nearest'],
    ['knot-5', 'bw 200-2800', 'fixed in this mode'],
    ['dunlin-fm', '2500 +3', 'no equalizer band'],
    ['tern-100', 'mic 30 '.repeat(300), 'Too long'],
  ])('%s: "%s" is refused in words', (rig, text, words) => {
    expect(read(rig, text, ON)).toMatchObject({ kind: 'problem', text: expect.stringContaining(words) });
  });

  it('never breaks, and never leaves a scale', () => {
    const token = fc.constantFrom(
      '2500',
      '+3',
      '-2',
      'mic',
      'eq2',
      'comp',
      'up',
      'clicks',
      'at',
      'bw',
      '200-2900',
      'on',
      '=',
      'to',
      ',',
      'and',
      '1e9',
      '__proto__',
    );
    const text = fc.oneof(
      fc.string(),
      fc.array(token, { maxLength: 6 }).map((words) => words.join(' ')),
    );
    fc.assert(
      fc.property(fc.constantFrom(...Object.keys(rigs)), text, (rig, words) => {
        const line = read(rig, words, ON);
        if (line.kind !== 'do') return;
        for (const { dial, to } of line.moves) expect(isOnScale(dial.scale, to)).toBe(true);
      }),
      { numRuns: 400 },
    );
  });
});

describe('suggestions', () => {
  it('lead from what is typed to lines that can be read', () => {
    const rig = rigs['tern-100'];
    const card = { mode: 'usb' as const, values: { ...factoryCard(rig).values, ...ON } };
    expect(suggestionsFor('m', rig, card)).toEqual([{ text: 'mic ', note: 'Mic gain, now 45' }]);
    for (const { text } of suggestionsFor('', rig, card, 50)) {
      const finished = text.endsWith(' ')
        ? `${text}${text === 'bw ' ? '200-2800' : text === 'eq ' ? 'off' : text === 'alc ' ? '.4' : '+1'}`
        : text;
      expect(readDialLine(finished, rig, card).kind === 'problem' ? finished : '').toMatch(/^(comp off)?$/);
    }
    expect(suggestionsFor('zzz', rig, card)).toEqual([]);
  });
});

describe('widths and meters as they are said', () => {
  it.each([
    ['widen the high band a little', { 'p-high-width': 4 }],
    ['narrow the mid band', { 'p-mid-width': 6 }],
    ['tighten up the 1200 a bit', { 'p-mid-width': 6 }],
  ])('%s: the number of this radio is like Q', (text, expected) => {
    expect(moves('tern-100', text, { ...ON, processor: 'on' })).toEqual(expected);
  });
  it.each([
    ['alc at 40 percent on peaks', { alc: 0.4 }],
    ["meter's sitting about forty percent", { alc: 0.4 }],
    ['alc just flickering at a quarter', { alc: 0.25 }],
    ['swr is flat', { swr: 1 }],
  ])('%s', (text, expected) => {
    const line = read('fulmar-8', text);
    expect(line.kind === 'do' && line.reading).toEqual(expected);
  });
});
