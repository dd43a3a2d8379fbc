import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { factoryCard, type Purpose, parseRig } from '../../rig/index.ts';
import type { CarrierBracket, OffsetLine } from '../advisors/carrierBracket.ts';
import type { Look } from './look.ts';
import { offsetMove } from './offset.ts';
import type { NextInput, SeenOver } from './seen.ts';

const rig = parseRig(JSON.parse(readFileSync('demo/rigs/knot-5.json', 'utf8')));
const [dial] = rig.dials.filter(({ role }) => role === 'carrier-offset');
const line = (offset: number, leanDb: number | null, side: OffsetLine['side']): OffsetLine => ({
  offset,
  passbandHz: [300 + offset, 2600 + offset],
  leanDb,
  words: 0,
  side,
});

interface Heard {
  readonly lines: readonly OffsetLine[];
  readonly next?: number;
  readonly bestDb?: number;
  readonly alc?: string;
  readonly purpose?: Purpose;
}

/** The newest over is the first line's. */
function asked({ lines, next, bestDb = 1, alc = 'ok', purpose = 'balanced' }: Heard): number | null {
  const { values } = factoryCard(rig, 'usb');
  const bracket: CarrierBracket = {
    dial,
    lines,
    next: next === undefined ? null : { offset: next, why: '' },
    sharp: lines.find(({ side }) => side === 'sharp') ?? null,
    mellow: lines.find(({ side }) => side === 'mellow') ?? null,
  };
  const look = { bracket, tone: { bestDb }, goal: { alc } } as unknown as Look;
  const last = { card: { mode: 'usb', values: { ...values, [dial.id]: lines[0].offset }, use: null } } as unknown as SeenOver;
  const move = offsetMove(look, { purpose } as NextInput, last);
  return move && Number(move.to);
}

describe('the carrier offset in the order of business', () => {
  it.each<[string, Heard, number | null]>([
    ['half of the voice is cut off, however well the rest of it fits', { lines: [line(500, 42, 'sharp')], next: 0 }, 0],
    ['it leans, and the tone dials would leave much', { lines: [line(-500, -9, 'mellow')], next: 0, bestDb: 5.4 }, 0],
    ['it leans, and the tone dials mend that', { lines: [line(0, -7, 'mellow')], next: 500 }, null],
    ['it leans where the factory put it: the microphone may do that', { lines: [line(0, -9, 'mellow')], next: 500, bestDb: 6 }, null],
    ['it is balanced', { lines: [line(0, 1, 'balanced')], next: 500, bestDb: 6 }, null],
    ['the ALC is above its zone', { lines: [line(500, 42, 'sharp')], next: 0, alc: 'high' }, null],
    ['a dull microphone and a dull voice', { lines: [line(0, -17, 'mellow')], next: 500, bestDb: 6 }, null],
    ['nobody hears the dial', { lines: [line(500, 36, 'sharp'), line(-500, 36.5, 'sharp')], next: 300 }, null],
    ['by words alone', { lines: [line(-500, null, 'mellow')], next: 0, bestDb: 6 }, 0],
  ])('%s', (_, heard, to) => expect(asked(heard)).toBe(to));

  it.each<[Purpose, OffsetLine, number]>([
    ['pile-up', line(-500, -16, 'mellow'), 150],
    ['natural', line(500, 40, 'sharp'), 50],
  ])('where both sides were heard, %s has the candidate that suits it', (purpose, now, to) => {
    const candidates = [line(150, 4, 'sharp'), line(50, -4, 'mellow')];
    expect(asked({ lines: [now, ...candidates].filter(({ side }, k, all) => k === 0 || side !== all[0].side), purpose, bestDb: 6 })).toBe(
      to,
    );
  });
});
