import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { factoryCard, parseRig } from '../rig/index.ts';
import { airCheck, type CheckLine, linesOf, orderDone, saidIn } from './airCheck.ts';
import { airCheckNext, type CheckedCard } from './airCheckNext.ts';

const rig = parseRig(JSON.parse(readFileSync('demo/rigs/fulmar-8.json', 'utf8')));
const base = { mode: 'usb' as const, values: { ...factoryCard(rig, 'usb').values, 'tx-eq': 'on', 'mic-gain': 50 }, use: null };
const lines = (...texts: string[]): CheckLine[] => texts.map((text, id) => ({ id, text, isUndone: false }));
const of = (...texts: string[]) => airCheck(rig, base, lines(...texts));
const checked: CheckedCard = {
  rig,
  purpose: 'balanced',
  school: { alcZone: rig.alc.zone, compression: 'none' },
  use: null,
  heardBy: { station: 'QA1A', path: 'local' },
};
const next = (...texts: string[]) => {
  const { todo, why } = airCheckNext(checked, of(...texts));
  return why === null ? todo : `${todo} | ${why}`;
};
const set = ({ changed }: ReturnType<typeof airCheck>) => Object.fromEntries(changed.map(({ dial, to }) => [dial.id, to]));

describe('an air check', () => {
  it('sorts what is said into dials, readings, remarks and notes', () => {
    const check = of(
      'compressor in at four',
      'meter peaks at two thirds on the long vowel',
      'give me four more at 2.4',
      'same again on the two hundred',
      'still honky in the middle, wants some body',
      'another four on that low one',
      "your P's thump, is there foam on that mic?",
      'both far receivers have you 5 and 9, full and clear',
      'it rains here tonight',
    );
    expect(check.steps.map(({ kind }) => kind)).toEqual([
      'dials',
      'reading',
      'dials',
      'dials',
      'remark',
      'dials',
      'remark',
      'remark',
      'note',
    ]);
    expect(set(check)).toEqual({ compressor: 'on', compression: 4, 'eq-2400': 4, 'eq-200': 4, 'eq-100': 4 });
    expect(check.steps[4].remarks.map(({ code }) => code)).toEqual(['mid-rangey', 'thin']);
    expect(check.steps[4].offers).toEqual(['lows up a bit']);
    expect(check.steps[6].remarks[0].code).toBe('plosives');
    expect(check.steps[7].signal).toMatchObject({ readability: 5, strength: 9 });
  });

  it('says when the ALC must be read again, then which gain, then to ask', () => {
    expect(next()).toContain('type what it shows');
    expect(next('alc .4', '2400 +3', '400 -2')).toBe('Read the ALC again: 2 dials have moved since.');
    expect(next('2400 +3', 'alc .9')).toMatch(/^Mic gain 50 → \d+ %\. \| The ALC was above the zone\. Expect the ALC about /);
    expect(next('2400 +3', 'alc .4')).toContain('Ask how it sounds');
  });

  it('what is heard of the dials as they stand is turned into dials; of dials that have moved since it is not', () => {
    expect(next('alc .4', 'very muffled')).toMatch(/Slider 2400 Hz .*→ \+\d/);
    expect(next('alc .4', 'very muffled')).toContain('muffled');
    expect(next('very muffled', '2400 +3', 'alc .4')).toContain('Ask how it sounds');
    const taken = lines('alc .4', 'very muffled').map((line) => ({ ...line, isUndone: line.id === 1 }));
    expect(airCheckNext(checked, airCheck(rig, base, taken)).todo).toContain('Ask how it sounds');
  });

  it('undo, typed or of a single line, takes back what it did', () => {
    expect(set(of('2400 +3', '400 -2', 'undo'))).toEqual({ 'eq-2400': 3 });
    const taken = lines('2400 +3', '400 -2').map((line) => ({ ...line, isUndone: line.id === 0 }));
    expect(set(airCheck(rig, base, taken))).toEqual({ 'eq-400': -2 });
    expect(set(of('undo'))).toEqual({});
  });

  it('what is not understood changes nothing, and says why', () => {
    const check = of('flurb the gizmo by seven', '2400 +3 and then flurb');
    expect(set(check)).toEqual({});
    expect(check.steps.every(({ kind, explained }) => kind === 'note' && explained.length === 1)).toBe(true);
  });

  it('a number in a remark is an instruction', () => {
    const check = of('a bit muffled, try 3 more at 2400');
    expect(check.steps[0]).toMatchObject({ kind: 'remark', remarks: [{ code: 'muffled' }] });
    expect(set(check)).toEqual({ 'eq-2400': 3 });
  });

  it('remarks and readings belong to the card that was heard', () => {
    const { before, after } = linesOf(of('a bit muffled', 'alc .4', '2400 +3', 'better', '2400 +1', 'alc .45', 'sounds great now'));
    expect(before.map(({ line }) => line.text)).toEqual(['a bit muffled', 'alc .4']);
    expect(after.map(({ line }) => line.text)).toEqual(['alc .45', 'sounds great now']);
    expect(linesOf(of('sounds great')).before).toHaveLength(1);
  });

  it('thirty lines at the speed of talk: well under a millisecond each in the end', () => {
    const many = lines(
      ...Array.from({ length: 300 }, (_, k) => (k % 3 === 0 ? '2400 +1' : k % 3 === 1 ? '2400 -1' : 'still a bit muffled here')),
    );
    expect(set(airCheck(rig, base, many))).toEqual({});
  });
});

describe('what was said while the meter was read', () => {
  it.each([
    ['meter peaks at two thirds on the long vowel', 'sustained'],
    ['alc .6 on a stretched word', 'sustained'],
    ['alc at a half while counting', 'counting'],
    ['alc .4', 'talk'],
    ['alc .4, along the line', 'talk'],
  ])('%s: %s', (text, said) => expect(saidIn(text)).toBe(said));
});

describe('the order of a check', () => {
  it('is ticked off by what moved and is read; a move after the reading makes the ALC open again', () => {
    expect([...orderDone(of('mic gain 40', 'alc .4'))]).toEqual(['gain', 'alc']);
    expect([...orderDone(of('mic gain 40', 'alc .4', 'mic gain 30'))]).toEqual(['gain']);
    expect([...orderDone(of())]).toEqual([]);
  });
});

describe('a value that a dial does not have', () => {
  it('is told, and is neither a move nor a remark', () => {
    const [step] = of('mic gain down to 300').steps;
    expect(step).toMatchObject({ kind: 'note', moves: [], remarks: [] });
    expect(step.explained[0]).toContain("can't be 300");
  });
});
