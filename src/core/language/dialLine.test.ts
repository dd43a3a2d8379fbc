import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type DialValues, factoryCard } from '../rig/card.ts';
import { isOnScale } from '../rig/dialScale.ts';
import type { Mode } from '../rig/rig.ts';
import { startRig } from '../rig/shapes.ts';
import { parseRig } from '../rig/validate.ts';
import { parseAmount, parseHertz, tidy } from './amounts.ts';
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
  return line.kind === 'moves' ? Object.fromEntries(line.moves.map(({ dial, to }) => [dial.id, to])) : line;
};

describe('advice as it is heard', () => {
  it.each<[string, string, DialValues]>([
    ['tern-100', '2500 +3', { 'n-high-centre': 2500, 'n-high-level': 3 }],
    ['tern-100', '2.4k +3', { 'n-high-level': 3 }],
    ['tern-100', 'four clicks up at 2.4k from where it is', { 'n-high-level': 4 }],
    ['tern-100', '3 dB down at 1200', { 'n-mid-level': -3 }],
    ['tern-100', 'eq2 +2', { 'n-mid-level': 2 }],
    ['tern-100', 'eq2 centre 900', { 'n-mid-centre': 900 }],
    ['tern-100', 'eq3 width 7', { 'n-high-width': 7 }],
    ['tern-100', 'mic 30', { 'mic-gain': 30 }],
    ['tern-100', 'mic up', { 'mic-gain': 46 }],
    ['tern-100', 'comp on', { processor: 'on' }],
    ['tern-100', 'bw 200-2800', { 'tx-filter': '200–2800' }],
    ['tern-100', '4.12 =−4', { 'n-low-level': -4 }],
    ['tern-100', 'high band n level to 5', { 'n-high-level': 5 }],
    ['tern-100', '2400 +3; mic 30 and comp on', { 'n-high-level': 3, 'mic-gain': 30, processor: 'on' }],
    ['fulmar-8', '2500 +3', { 'eq-2400': 3 }],
    ['fulmar-8', '1,6k −5', { 'eq-1600': -5 }],
    ['fulmar-8', 'bw 300-2700', { 'low-cut': 300, 'high-cut': 2700 }],
    ['fulmar-8', '31 +2', { 'eq-100': 2 }],
    ['fulmar-8', '1000 flat', {}],
    ['knot-5', 'treble +3', { treble: 3 }],
    ['knot-5', '300 -2', { bass: -2 }],
    ['knot-5', 'comp high', { speech: 'high' }],
    ['knot-5', 'carrier 100', { 'carrier-offset': 100 }],
    ['dunlin-fm', 'mic high', { 'mic-level': 'high' }],
    ['dunlin-fm', 'fm width narrow', { width: 'narrow' }],
  ])('%s: %s', (rig, text, wanted) => {
    if (Object.keys(wanted).length === 0) expect(read(rig, text, ON).kind).toBe('problem');
    else expect(moves(rig, text)).toEqual(wanted);
  });

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
      return line.kind === 'moves' ? Object.fromEntries(line.moves.map(({ dial, to }) => [dial.id, to])) : line;
    };
    expect(set('2500 +2')).toEqual({ 'band-3-level': 5 });
    // Farther off a free one is brought there; the nearest of those that are free.
    expect(set('1500 +2')).toEqual({ 'band-2-centre': 1500, 'band-2-level': 2 });
  });

  it('a number that is a menu address too is a frequency, and that is said', () => {
    const rig = startRig({ shape: 'graphic', name: 'Mine', bands: 3, hasTwoBanks: false });
    const named = { ...rig, dials: rig.dials.map((dial) => (dial.id === 'mic-gain' ? { ...dial, menu: '100' } : dial)) };
    const set = (text: string) => readDialLine(text, named, { mode: 'usb', values: { ...factoryCard(named).values, 'mic-eq': 'on' } });
    expect(set('100 +3')).toMatchObject({ explained: expect.arrayContaining(['100 is read as a frequency; for Mic gain type menu 100.']) });
    expect(set('menu 100 30')).toMatchObject({ moves: [{ to: 30 }] });
  });

  it('turns the band of the bank in use', () => {
    expect(moves('tern-100', 'eq1 -2', { ...ON, processor: 'on' })).toEqual({ 'p-low-level': -2 });
    expect(moves('tern-100', '300 -2', { ...ON, processor: 'on' })).toEqual({ 'p-low-centre': 300, 'p-low-level': -2 });
  });

  it('switches a sleeping equalizer on, and says so', () => {
    const line = read('fulmar-8', '2400 +3');
    expect(line).toMatchObject({ kind: 'moves' });
    expect(moves('fulmar-8', '2400 +3', {})).toEqual({ 'tx-eq': 'on', 'eq-2400': 3 });
    expect('warnings' in line && line.warnings.join()).toContain('switched on as well');
  });

  it('says what will happen, and what to mind', () => {
    const line = read('tern-100', 'comp 30', ON);
    expect(line).toMatchObject({ kind: 'moves', explained: ['Processor level (2.02): 20 → 30.'] });
    expect('warnings' in line && line.warnings[0]).toContain('Processor (2.01) is off');
    const end = read('fulmar-8', '2400 +20', ON);
    expect('warnings' in end && end.warnings[0]).toContain('stops at +8 dB');
  });

  it('one gain a mode', () => {
    expect(moves('tern-100', 'mic 60', ON, 'fm')).toEqual({ 'fm-mic-gain': 60 });
  });

  it('readings of the ALC in fractions, percent, or the marks of the meter', () => {
    expect(read('tern-100', 'alc .6')).toMatchObject({ kind: 'alc', reading: 0.6 });
    expect(read('tern-100', 'alc 45%')).toMatchObject({ kind: 'alc', reading: 0.45 });
    expect(read('knot-5', 'alc 6')).toMatchObject({ kind: 'alc', reading: 0.6 });
    expect(read('knot-5', 'alc 11').kind).toBe('problem');
    // On a meter to 10 it is a tenth, however it is written.
    expect(read('knot-5', 'alc 1.0')).toMatchObject({ kind: 'alc', reading: 0.1 });
    expect(read('knot-5', 'alc 1')).toMatchObject({ kind: 'alc', reading: 0.1 });
    expect(read('knot-5', 'alc .6')).toMatchObject({ kind: 'alc', reading: 0.6 });
    expect(read('knot-5', 'alc 6')).toMatchObject({ explained: [expect.stringContaining('reading of 6 of 10')] });
    expect(read('tern-100', 'undo').kind).toBe('undo');
    expect(read('tern-100', '  ').kind).toBe('empty');
  });

  it.each([
    ['tern-100', 'mic 300', 'it goes 0 to 100'],
    ['tern-100', 'bw 200-2900', '100–2900, 200–2800'],
    ['tern-100', 'bw 2900-200', 'the lower first'],
    ['tern-100', 'knob 3', 'no dial called "knob"'],
    ['tern-100', 'level +3', 'could be'],
    ['tern-100', 'eq9 +1', 'no band 9'],
    ['tern-100', '7000 +3', 'neither a frequency'],
    ['tern-100', 'mic', 'What should I do with mic? Give a value, or + or - steps.'],
    ['tern-100', 'comp maybe', 'no place'],
    ['fulmar-8', 'mic +2', '50 % is the nearest'],
    ['knot-5', 'bw 200-2800', 'fixed in this mode'],
    ['dunlin-fm', '2500 +3', 'no equalizer band'],
    ['tern-100', 'x'.repeat(300), '200 characters'],
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
        if (line.kind !== 'moves') return;
        for (const { dial, to } of line.moves) expect(isOnScale(dial.scale, to)).toBe(true);
      }),
      { numRuns: 400 },
    );
  });
});

describe('words', () => {
  it.each([
    ['2.4k', 2400],
    ['2k4', 2400],
    ['2400 Hz', 2400],
    ['2.4 kHz', 2400],
    ['mic', null],
    ['2k4k', null],
  ])('%s', (text, hz) => {
    expect(parseHertz(tidy(text))).toBe(hz);
  });
  it.each([
    ['+3', { kind: 'by', amount: 3 }],
    ['- 2 db', { kind: 'by', amount: -2 }],
    ['+2 clicks', { kind: 'clicks', count: 2 }],
    ['down', { kind: 'clicks', count: -1 }],
    ['up 3 notches', { kind: 'clicks', count: 3 }],
    ['to -4', { kind: 'to', value: -4 }],
    ['.6', { kind: 'to', value: 0.6 }],
    ['off', { kind: 'to', value: 'off' }],
    ['?', null],
  ])('%s', (text, amount) => {
    expect(parseAmount(text)).toEqual(amount);
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
