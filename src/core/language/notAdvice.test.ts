import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { factoryCard, parseRig } from '../rig/index.ts';
import { readDialLine } from './dialLine.ts';

/** Lines as they are typed on a net, between those that are advice. */
const rig = parseRig(JSON.parse(readFileSync('demo/rigs/fulmar-8.json', 'utf8')));
const factory = factoryCard(rig, 'usb');
const at = (level: number) => ({ ...factory, values: { ...factory.values, 'tx-eq': 'on', 'eq-2400': level } });
const [dial] = rig.dials.filter(({ id }) => id === 'eq-2400');
const [before, card] = [at(0), at(4)];
/** "2400 +4" was the line before. */
const read = (text: string) => readDialLine(text, rig, card, { before, lastMoves: [{ dial, from: 0, to: 4 }] });
const moves = (text: string) => {
  const line = read(text);
  return line.kind === 'do' ? Object.fromEntries(line.moves.map(({ dial: { id }, to }) => [id, to])) : line.kind;
};

describe('what is no advice', () => {
  it.each([
    ['is your compressor on', 'Compressor (12) stands at off.'],
    ['what is your mic gain at?', 'Mic gain stands at 50 %.'],
    ['where is your 2400 slider now', 'Slider 2400 Hz (37) stands at +4 dB.'],
    ['so how much compression do you run', 'Compression (13) stands at 3.'],
    ['do you have an eq', 'Transmit equalizer (30) stands at on.'],
    ['which filter are you using', 'Transmit high cut (22) stands at 2800 Hz.'],
  ])('a question turns nothing and is answered: %s', (text, told) => {
    expect(read(text)).toMatchObject({ kind: 'problem', text: expect.stringContaining(told) });
  });

  it.each([
    'I like that one more',
    'your signal is up and down',
    'I hear you 4 khz up',
    'I see you from 100 to 2900',
    'looks flat from 300 to 2.5',
    'you are off by 100 hertz',
    'I will be back in two',
    'two of us hear it',
    'try counting to ten',
    'count to five please',
    'say four for me',
    'no change',
    'I hear no difference',
    'move back from the microphone',
    'I have 100 watts here',
    'I have got 5 watts at this end',
    "I'm running 100 watts into a dipole",
    'he runs 400 watts and a beam',
    'thanks and 73',
    'best 73',
  ])('what tells, or says what to say, turns nothing, not even what was turned last: %s', (text) => {
    expect(moves(text)).toBe('problem');
  });
});

describe('what is advice all the same', () => {
  it.each([
    ['can I have 2 more at 2.4', { 'eq-2400': 6 }],
    ['what about 3 dB more at 1k', { 'eq-1000': 3 }],
    ['let me have 2 more at 2.4', { 'eq-2400': 6 }],
    ['how about 200 down 3', { 'eq-200': -3 }],
    ['how about your 200 down 3', { 'eq-200': -3 }],
    ['what I would do is take 3 off the 200', { 'eq-200': -3 }],
    ['do you want to try 2 less at 1k', { 'eq-1000': -2 }],
    ['I was thinking 2 less at 1k', { 'eq-1000': -2 }],
    ['menu 37 to 5', { 'eq-2400': 5 }],
    ['can you drop your 200 by another 3', { 'eq-200': -3 }],
    ['could you try 3.2 at max', { 'eq-3200': 8 }],
    ['1000 ok, 600 minus 2', { 'eq-600': -2 }],
    ['turn the gain up', { 'mic-gain': 55 }],
    ['get rid of the 100 hertz slider', { 'eq-100': -16 }],
  ])('a request in whatever form: %s', (text, to) => {
    expect(moves(text)).toEqual(to);
  });

  it.each([
    ['half of that back', 2],
    ['take half of it back', 2],
    ['too far, come back halfway', 2],
    ['the other way', -4],
    ['wrong way', -4],
    ['same again', 8],
  ])('what is said of the move before: %s', (text, to) => {
    expect(moves(text)).toEqual({ 'eq-2400': to });
  });

  it('a reading stays one, however it is told', () => {
    expect(read('when I count the alc peaks at .6')).toMatchObject({ kind: 'do', reading: { alc: 0.6 } });
    expect(read('it goes up to .4 on the alc')).toMatchObject({ kind: 'do', reading: { alc: 0.4 } });
  });

  it('"go back one" takes the last change back', () => {
    expect(read('go back one').kind).toBe('undo');
  });
});
