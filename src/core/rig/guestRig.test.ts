import { describe, expect, it } from 'vitest';
import { readDialLine } from '../language/index.ts';
import { factoryCard } from './card.ts';
import { GUEST_SHAPES, type GuestRadio, guestRig, parseFrequencies } from './guestRig.ts';
import { parseRig } from './validate.ts';

const TEN = '63 125 250 500 1k 2k 4k 8k 12k 16k';
const radio = (changes: Partial<GuestRadio> = {}): GuestRadio => ({
  name: 'Q4HLM’s radio',
  shape: 'graphic',
  frequencies: TEN,
  bands: 3,
  reach: 12,
  ...changes,
});

describe('a guest radio', () => {
  it.each(GUEST_SHAPES)('%s is a whole profile', (shape) => {
    const rig = guestRig(radio({ shape }));
    expect(parseRig(JSON.parse(JSON.stringify(rig)))).toEqual(rig);
  });

  it('takes answers and advice at once: no switch, no menu addresses', () => {
    const rig = guestRig(radio());
    const card = factoryCard(rig);
    const line = readDialLine('500 is at plus 9', rig, card);
    expect(line.kind === 'do' && line.moves.map(({ dial, to }) => [dial.id, to])).toEqual([['eq-500', 9]]);
    expect(rig.dials.filter(({ unit }) => unit === 'dB')).toHaveLength(10);
    expect(rig.dials.find(({ id }) => id === 'eq-2000')?.label).toBe('Slider 2 kHz');
  });

  it.each([
    ['filter is 150 to 2800', { 'low-cut': 150, 'high-cut': 2800 }],
    ['bandwidth 100 to 3 k', { 'low-cut': 100, 'high-cut': 3000 }],
    ['low cut at 250', { 'low-cut': 250 }],
  ])('may have any passband: %s', (text, set) => {
    const rig = guestRig(radio());
    const line = readDialLine(text, rig, factoryCard(rig));
    expect(line.kind === 'do' && Object.fromEntries(line.moves.map(({ dial, to }) => [dial.id, to]))).toEqual(set);
  });

  it('sliders reach as far as they are said to', () => {
    const rig = guestRig(radio({ reach: 6, shape: 'tone' }));
    expect(rig.dials.find(({ id }) => id === 'treble')?.scale).toEqual({ kind: 'steps', min: -6, max: 6, step: 1 });
  });

  it.each([
    ['63 125 250 500 1k 2k', [63, 125, 250, 500, 1000, 2000]],
    ['2.4, 1.6, 800, 200', [200, 800, 1600, 2400]],
    ['100 Hz and 3 kHz', null],
    ['100hz 3khz', [100, 3000]],
    ['500 500', null],
    ['low mid high', null],
    ['', null],
    ['5 50000', null],
    [Array.from({ length: 40 }, (_, i) => 100 + i).join(' '), null],
  ])('%s', (text, expected) => expect(parseFrequencies(text)).toEqual(expected));

  it('refuses sliders that nobody could read out', () => {
    expect(() => guestRig(radio({ frequencies: 'the usual ten' }))).toThrow('frequencies are needed');
  });
});
