import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { readReport } from '../language/index.ts';
import { type Card, factoryCard, parseRig } from '../rig/index.ts';
import { amGain } from './advisors/amGain.ts';
import { driveKnee } from './advisors/driveKnee.ts';
import { type AlcReading, alcStanding } from './alcStanding.ts';
import { beforeTone, type LevelInput, SKIPS_COMPRESSION } from './beforeTone.ts';
import { type NextAnswer, nextAnswer, type SeenOver } from './next/index.ts';

const rig = parseRig(JSON.parse(readFileSync('demo/rigs/fulmar-8.json', 'utf8')));
const card = { ...factoryCard(rig, 'usb'), use: null };
const gain = rig.dials.find(({ role }) => role === 'mic-gain');
const at = (value: number) => ({ ...card, values: { ...card.values, [gain?.id ?? '']: value } });
const read = (alc: number, value = 50): AlcReading => ({ card: at(value), alc });
const [low, high] = rig.alc.zone;

const over = ({ alc, card: then }: AlcReading, change: Partial<SeenOver> = {}): SeenOver => ({
  card: then,
  alc,
  compressionDb: null,
  swr: null,
  voices: [],
  radios: [],
  ...change,
});
const engine = (overs: readonly SeenOver[], compression: 'none' | 'token' = 'none'): NextAnswer =>
  nextAnswer({ rig, mode: 'usb', purpose: 'balanced', school: { alcZone: [low, high], compression }, overs });
const level = (readings: readonly AlcReading[], change: Partial<LevelInput> = {}): LevelInput => ({
  rig,
  card: at(50),
  standing: alcStanding(rig, at(50), readings, []),
  swr: null,
  tooMuchDrive: null,
  knee: null,
  radioGain: null,
  hasOwnLevel: false,
  answer: readings.length > 0 ? engine(readings.map((reading) => over(reading))) : null,
  ...change,
});

describe('before any tone', () => {
  it('nothing where the level is right, and nothing where nobody has read it', () => {
    expect(beforeTone(level(Array.from({ length: 6 }, () => read((low + high) / 2))), [], 3)).toBeNull();
    expect(beforeTone(level([]), [], 3)).toBeNull();
  });

  it('the mic gain goes where the engine puts it: down from above the zone and up from below it', () => {
    const down = beforeTone(level([read(high + 0.3)]), [], 3);
    expect(down).toMatchObject({ kind: 'move', skips: 'alc-3' });
    expect(Number(down?.moves?.[0].to)).toBeLessThan(50);
    expect(down?.moves?.[0].to).toBe(engine([over(read(high + 0.3))]).set[0].to);
    expect(down?.text).toContain('speech peaks belong');
    expect(down?.expect).toMatch(/Expect the ALC about/);
    expect(Number(beforeTone(level([read(0)]), [], 3)?.moves?.[0].to)).toBeGreaterThan(50);
  });

  it('what was measured of the depth or the deviation; right is right', () => {
    const am = { mode: 'am' as const, values: card.values };
    const shallow = amGain(rig, am, { up: 0.3, down: 0.3, isCutOff: false });
    const move = beforeTone(level([], { radioGain: shallow }), [], 3);
    expect(move).toMatchObject({ kind: 'move', skips: 'depth-3', moves: [{ to: shallow?.to }] });
    expect(beforeTone(level([], { radioGain: shallow }), ['depth-3'], 3)).toBeNull();
    const look = { ...shallow, title: 'Look at the channel width' } as NonNullable<typeof shallow>;
    expect(beforeTone(level([], { radioGain: look }), [], 3)).toMatchObject({ kind: 'none', title: look.title, skips: 'depth-3' });
    const atEnd = { ...am, values: { ...am.values, [gain?.id ?? '']: 100 } };
    const farther = beforeTone(level([], { radioGain: amGain(rig, atEnd, { up: 0.2, down: 0.2, isCutOff: false }) }), [], 3);
    expect(farther).toMatchObject({ kind: 'distance', title: 'Speak from another distance' });
    expect(farther?.text).toMatch(/half the distance/);
    const deep = amGain(rig, am, { up: 0.85, down: 0.85, isCutOff: false });
    expect(beforeTone(level([], { radioGain: deep }), [], 3)).toBeNull();
    // Once it is right, readings of the ALC turn nothing.
    expect(beforeTone(level([read(0)], { answer: null }), [], 3)).not.toBeNull();
    expect(beforeTone(level([read(0)], { answer: null, radioGain: deep, hasOwnLevel: true }), [], 3)).toBeNull();
    // Nor while the depth of the card as it stands is still to be heard.
    expect(beforeTone(level([read(0)], { answer: null, hasOwnLevel: true }), [], 3)).toBeNull();
  });

  it('what is on the card already is not asked for again', () => {
    const input = level([read(high + 0.3)]);
    const to = Number(input.answer?.set[0].to);
    const set = { ...input, card: at(to), standing: alcStanding(rig, at(to), [read(high + 0.3)], []) };
    expect(beforeTone(set, [], 4)).toBeNull();
  });

  it('a stale reading counts by what is to be expected now', () => {
    // Read in the middle of the zone with far less gain than now.
    const stale = beforeTone(level([read((low + high) / 2, 25)]), [], 3);
    expect(stale?.text).toContain('likely outside now');
    expect(Number(stale?.moves?.[0].to)).toBeLessThan(50);
  });

  it('a reading that the engine knows nothing of counts by itself', () => {
    const answer = engine([over({ ...read(0.4), alc: null as never })]);
    const step = beforeTone(level([read(high + 0.3)], { answer }), [], 3);
    expect(step).toMatchObject({ kind: 'move', skips: 'alc-3' });
    expect(Number(step?.moves?.[0].to)).toBeLessThan(50);
    expect(beforeTone(level([read((low + high) / 2)], { answer }), [], 3)).toBeNull();
  });

  it('compression and the gain that goes with it are set together, and "Not this" to it outlasts the revision', () => {
    const readings = [read((low + high) / 2)];
    const answer = engine(
      readings.map((reading) => over(reading)),
      'token',
    );
    const step = beforeTone(level(readings, { answer }), [], 3);
    expect(step?.moves?.some(({ dial }) => dial.stage === 'compressor')).toBe(true);
    expect(step?.text).toContain('as your school has it');
    expect(step?.skips).toBe(SKIPS_COMPRESSION);
    expect(beforeTone(level(readings, { answer }), [SKIPS_COMPRESSION], 9)).toBeNull();
  });

  it('words of other stations turn the equalizer where nobody recorded anything', () => {
    const { remarks } = readReport('muffled');
    const report = { station: 'QA1A', path: 'local' as const, remarks };
    const steady = Array.from({ length: 6 }, () => over(read((low + high) / 2)));
    const answer = engine([...steady.slice(1), { ...steady[0], reports: [report, { ...report, station: 'QB2B' }] }]);
    const step = beforeTone(level([read((low + high) / 2)], { answer }), [], 3);
    expect(step?.moves?.every(({ dial }) => dial.stage === 'equalizer')).toBe(true);
    expect(step?.text).toMatch(/muffled/i);
  });

  it('a carrier offset that cuts the voice off comes before any tone, and is asked for once', () => {
    const knot = parseRig(JSON.parse(readFileSync('demo/rigs/knot-5.json', 'utf8')));
    const [offset] = knot.dials.filter(({ role }) => role === 'carrier-offset');
    const off: Card = { mode: 'usb', values: { ...factoryCard(knot, 'usb').values, [offset.id]: 500 } };
    const answer = { ...engine([over(read(low))]), status: 'move' as const, reasons: { passband: 'Carrier offset comes first' } };
    const input = { rig: knot, card: off, answer: { ...answer, set: [{ dial: offset, from: 500, to: 0 }] } };
    expect(beforeTone(level([], input), [], 3)).toMatchObject({
      title: expect.stringContaining('Carrier offset'),
      skips: 'offset-3',
      moves: [{ to: 0 }],
    });
    expect(beforeTone(level([], input), ['offset-3'], 3)).toBeNull();
  });

  it('overdrive comes before the level, and a bad SWR before both', () => {
    const driven = { tooMuchDrive: 'overdrive.' };
    expect(beforeTone(level([read(0)], driven), [], 3)).toMatchObject({ kind: 'move', text: 'overdrive.', skips: 'overdrive-3' });
    expect(Number(beforeTone(level([read(0)], driven), [], 3)?.moves?.[0].to)).toBeLessThan(50);
    // Above the zone as well, both ask for the same.
    const both = beforeTone(level([read(high + 0.3)], driven), [], 3);
    expect(both?.skips).toBe('overdrive-3');
    expect(both?.moves?.[0].to).toBe(beforeTone(level([read(high + 0.3)]), [], 3)?.moves?.[0].to);
    // What overs at several drives tell is asked first, and the Bench names the same number as their table.
    const asked = alcStanding(rig, at(50), [read(high + 0.3)], []).gain?.to ?? null;
    const loud = { ...over(read(high + 0.3)), adjacentDb: -30 };
    for (const overs of [[loud], [{ ...over(read(low, 20)), adjacentDb: -50 }, loud]]) {
      const knee = driveKnee(rig, overs, asked);
      expect(knee?.next).not.toBeNull();
      expect(beforeTone(level([read(high + 0.3)], { ...driven, knee }), [], 3)?.moves?.[0].to).toBe(knee?.next);
    }
    expect(beforeTone(level([read(0)], { ...driven, swr: 5 }), [], 3)?.title).toContain('antenna');
  });

  it('what the engine stops for is told once, whatever it is', () => {
    const answer = { ...engine([over(read(high))]), status: 'stop' as const, why: 'Look at the switch.', set: [] };
    expect(beforeTone(level([read(high)], { answer }), [], 3)).toMatchObject({
      kind: 'none',
      text: 'Look at the switch.',
      skips: 'stop-3',
    });
    expect(beforeTone(level([read(high)], { answer }), ['stop-3'], 3)).toBeNull();
  });

  it('"Not this" leaves it aside', () => {
    expect(beforeTone(level([read(high + 0.3)]), ['alc-3'], 3)).toBeNull();
    expect(beforeTone(level([read(high + 0.3)], { tooMuchDrive: 'splatter.' }), ['overdrive-3'], 3)?.skips).toBe('alc-3');
  });
});
