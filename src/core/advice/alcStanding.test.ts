import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { VOICE_TWELFTH_OCTAVES } from '../dsp/index.ts';
import { factoryCard, type MicrophoneUse, parseRig, responseOf } from '../rig/index.ts';
import { dbToPower } from '../units/index.ts';
import { alcStanding, changedSince, gainSentence, type HeardWay, type StandingCard, shiftSince, stepSentence } from './alcStanding.ts';
import { variantOf } from './next/equalizerBelief.ts';

const rig = parseRig(JSON.parse(readFileSync('demo/rigs/tern-100.json', 'utf8')));
const USE: MicrophoneUse = { position: null, accessories: [], distanceCm: 6 };
const card = (values: Record<string, number | string> = {}, use: MicrophoneUse | null = USE): StandingCard => ({
  mode: 'usb',
  values: { ...factoryCard(rig, 'usb').values, ...values },
  use,
});
const gainDial = rig.dials.find(({ role }) => role === 'mic-gain');
if (!gainDial) throw new Error('the rig has no gain');

describe('what an ALC reading is worth', () => {
  it('holds while nothing before the ALC has changed', () => {
    const { newest } = alcStanding(rig, card(), [{ card: card(), alc: 0.4 }], []);
    expect(newest).toMatchObject({ alc: 0.4, changed: [] });
  });

  it('is stale after the gain, the compressor, the microphone or the mode changed, and says so', () => {
    expect(changedSince(rig, card({ [gainDial.id]: 40 }), card({ [gainDial.id]: 30 }))).toEqual([expect.stringContaining(gainDial.label)]);
    expect(changedSince(rig, card(), card({}, { ...USE, distanceCm: 3 }))).toEqual(['the microphone']);
    expect(changedSince(rig, card(), { ...card(), mode: 'lsb' })).toEqual(['the mode']);
    expect(changedSince(rig, card(), card({ processor: 'on' })).join()).toContain('Processor');
    expect(changedSince(rig, card({ 'mic-eq': 'on' }), card({ 'mic-eq': 'on', 'n-high-level': 6 }))).toEqual(['the equalizer']);
  });

  it('expects more after the microphone came nearer: half the distance is 6 dB', () => {
    const { newest } = alcStanding(rig, card({}, { ...USE, distanceCm: 3 }), [{ card: card(), alc: 0.3 }], []);
    expect(newest?.expected[1]).toBeGreaterThan(0.55);
  });

  it('says what a step of the gain does once readings have told, on the meter’s own scale', () => {
    const off = { processor: 'off' };
    const sentence = (on: typeof rig, gains: readonly number[]) => {
      const readings = gains.map((value) => ({ card: card({ ...off, [gainDial.id]: value }), alc: 0.4 + 0.04 * (value - 45) }));
      const { gain } = alcStanding(on, card({ ...off, [gainDial.id]: 45 }), readings, []);
      return gain && stepSentence(on, gain);
    };
    expect(sentence(rig, [45])).toBeNull();
    const told = /^One step of Mic gain moves the ALC by about (0\.\d+) here \(0\.\d+ to 0\.\d+\)\.$/.exec(
      sentence(rig, [38, 42, 45, 49, 53]) ?? '',
    );
    expect(Math.abs(Number(told?.[1]) - 0.04)).toBeLessThan(0.008);
    expect(sentence({ ...rig, alc: { ...rig.alc, full: 10 } }, [38, 42, 45, 49, 53])).toMatch(/by about 0\.[34]\d here/);
  });

  it('without a reading there is no verdict, but a first gain to try', () => {
    const { newest, gain } = alcStanding(rig, card(), [], []);
    expect(newest).toBeNull();
    expect(gain?.dial.id).toBe(gainDial.id);
  });

  it('a cut moves the level as wide as it really is: what the width number means counts, and doubt of it is doubt of the level', () => {
    const flat = VOICE_TWELFTH_OCTAVES.map(() => dbToPower(-30));
    const cut = { 'mic-eq': 'on', 'n-mid-centre': 900, 'n-mid-level': -10, 'n-mid-width': 4 };
    const way = (meaning: 'octaves' | 'q', weight: number): HeardWay => {
      const real = variantOf(rig, meaning, 1);
      const responseDb = responseOf(real, card({ 'mic-eq': 'on' }));
      return { rig: real, voice: { voice: { speechPowers: flat, pausePowers: null }, responseDb }, weight };
    };
    const shift = (...ways: HeardWay[]) => shiftSince(rig, card({ 'mic-eq': 'on' }), card(cut), ways);
    const [octaves, q, either] = [shift(way('octaves', 1)), shift(way('q', 1)), shift(way('octaves', 0.5), way('q', 0.5))];
    expect(octaves.shiftDb).toBeLessThan(-5);
    expect(q.shiftDb).toBeGreaterThan(-1.5);
    expect(either.shiftDb).toBeCloseTo((octaves.shiftDb + q.shiftDb) / 2, 6);
    expect(either.shiftDoubtDb).toBeGreaterThan(Math.max(octaves.shiftDoubtDb, q.shiftDoubtDb));
  });

  it('more compression lifts the level, less lowers it, and that is a guess', () => {
    const [off, on, more] = [card(), card({ processor: 'on', 'processor-level': 20 }), card({ processor: 'on', 'processor-level': 40 })];
    const shift = (from: StandingCard, to: StandingCard) => shiftSince(rig, from, to, []);
    expect(shift(off, on)).toMatchObject({ shiftDb: 1.5, shiftDoubtDb: 4 });
    expect(shift(on, more).shiftDb).toBe(1.5);
    expect(shift(on, off).shiftDb).toBe(-1.5);
  });

  it('the next value in a sentence', () => {
    const { gain } = alcStanding(rig, card({ [gainDial.id]: 60 }), [{ card: card({ [gainDial.id]: 60 }), alc: 0.9 }], []);
    expect(gain && gainSentence(rig, gain)).toMatch(
      new RegExp(`^${gainDial.label} .*60.* → .*, expect about 0\\.\\d\\d \\([01]\\.\\d\\d to [01]\\.\\d\\d\\)\\.$`),
    );
  });
});
