/** Evidence as one history, what was expected against what came, and what the engine may turn at a step. */
import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { readReport } from '../../language/index.ts';
import { dialInRole, factoryCard, parseRig } from '../../rig/index.ts';
import { calibrations, learnedLines } from '../calibration.ts';
import { NOTHING_LEARNED } from './answers.ts';
import { toneCameText } from './cameText.ts';
import { nextAnswer } from './engine.ts';
import { expectedGot } from './expectedGot.ts';
import type { Learned, NextInput, SeenOver } from './seen.ts';
import { type StoredOver, type StoredReading, seenHistory } from './seenHistory.ts';

const rig = parseRig(JSON.parse(readFileSync('demo/rigs/fulmar-8.json', 'utf8')));
const gain = dialInRole(rig, 'mic-gain', 'usb');
const factory = factoryCard(rig, 'usb');
const cardAt = (value: number) => ({ ...factory, values: { ...factory.values, [gain?.id ?? '']: value }, use: null });
const time = (minute: number) => `2026-06-08T12:${String(minute).padStart(2, '0')}:00.000Z`;
const stored = (id: number, revision: number, minute: number, change: Partial<StoredOver> = {}): StoredOver => ({
  id,
  revision,
  card: cardAt(30 + revision),
  madeAt: time(minute),
  alc: null,
  powerW: null,
  voices: [{} as StoredOver['voices'][number]],
  radios: [],
  ...change,
});
const reading = (revision: number, minute: number, alc: number | null, change: Partial<StoredReading> = {}): StoredReading => ({
  overId: null,
  revision,
  card: cardAt(30 + revision),
  takenAt: time(minute),
  alc,
  compressionDb: null,
  powerW: null,
  adjacentDb: null,
  swr: null,
  ...change,
});

describe('one history', () => {
  it('a reading goes to its over, and a single one to the over of its revision that nobody read', () => {
    const own = seenHistory([stored(1, 1, 5)], [reading(1, 6, 0.4, { overId: 1, swr: 1.3 })]);
    expect(own).toMatchObject([{ alc: 0.4, swr: 1.3 }]);
    const single = seenHistory([stored(1, 1, 5)], [reading(1, 2, 0.6)]);
    expect(single).toHaveLength(1);
    expect(single[0].alc).toBe(0.6);
  });

  it('what stands alone is evidence of its own; the newest takes along the voice of its card, and none counts twice', () => {
    const all = seenHistory([stored(7, 2, 3, { alc: 0.5 })], [reading(1, 1, 0.2), reading(2, 9, 0.45)]);
    expect(all.map(({ alc, voices }) => [alc, voices.length])).toEqual([
      [0.2, 0],
      [0.5, 0],
      [0.45, 1],
    ]);
    // Never the voice of another card.
    expect(seenHistory([stored(7, 1, 3)], [reading(2, 9, 0.45)]).map(({ voices }) => voices.length)).toEqual([1, 0]);
  });

  it('an I/Q recording made after the voice is what the drive is judged by', () => {
    const radio = {} as StoredOver['radios'][number];
    const all = seenHistory([stored(1, 1, 3, { alc: 0.47 }), stored(2, 1, 5, { voices: [], radios: [radio], alc: 0.95 })], []);
    expect(all.map(({ alc, voices, radios }) => [alc, voices.length, radios.length])).toEqual([
      [0.47, 0, 0],
      [0.95, 1, 1],
    ]);
  });

  it('nothing is used twice, whatever comes', () => {
    const readings = [reading(1, 1, 0.2), reading(1, 2, 0.3), reading(1, 3, null, { compressionDb: 12, overId: 4 })];
    const all = seenHistory([stored(4, 1, 4), stored(5, 1, 5)], readings);
    expect(all.flatMap(({ alc }) => (alc === null ? [] : [alc])).sort()).toEqual([0.2, 0.3]);
    expect(all.filter(({ compressionDb }) => compressionDb === 12)).toHaveLength(1);
  });
});

const seen = (value: number, alc: number): SeenOver => ({
  card: cardAt(value),
  alc,
  compressionDb: null,
  powerW: null,
  adjacentDb: null,
  swr: null,
  voices: [],
  radios: [],
});
const ask = (overs: readonly SeenOver[], scope?: NextInput['scope']): NextInput => ({
  rig,
  mode: 'usb',
  purpose: 'balanced',
  school: { alcZone: [0.3, 0.5], compression: 'none' },
  overs,
  scope,
});

describe('a step of a run', () => {
  it('turns nothing but the gain, and needs no recording for it', () => {
    const answer = nextAnswer(ask([seen(30, 0)], []));
    expect(answer.status).toBe('move');
    expect(answer.set.map(({ dial }) => dial.role)).toEqual(['mic-gain']);
    expect(nextAnswer(ask([seen(30, 0.4), seen(30, 0.4), seen(30, 0.4), seen(30, 0.4)], []))).toMatchObject({ status: 'done' });
  });

  it('sets the compression alone, and leaves the level to its own step', () => {
    const wish = { alcZone: [0.3, 0.5] as const, compression: 'token' as const };
    const answer = nextAnswer({ ...ask([seen(30, 0.4)], ['compression']), school: wish });
    expect(answer.set.some(({ dial }) => dial.stage === 'compressor')).toBe(true);
    expect(answer.set.some(({ dial }) => dial.stage === 'equalizer')).toBe(false);
    expect(nextAnswer(ask([seen(30, 0.4)], ['compression'])).status).toBe('done');
  });

  it('a level at the edge of the zone is moved into it once it was read twice', () => {
    const answer = nextAnswer(ask([seen(40, 0.3), seen(40, 0.3), seen(40, 0.3)], []));
    expect(answer.status).toBe('move');
    expect(Number(answer.set[0].to)).toBeGreaterThan(40);
  });
});

describe('words, where nobody recorded anything', () => {
  const said = (text: string, path: 'local' | 'weak' = 'local') => ({ station: 'Q1DEW', path, remarks: readReport(text).remarks });
  const heard = (value: number, ...reports: ReturnType<typeof said>[]): SeenOver => ({ ...seen(value, 0.4), reports });
  const on = { 'tx-eq': 'on' };
  const equalized = (over: SeenOver): SeenOver => ({ ...over, card: { ...over.card, values: { ...over.card.values, ...on } } });

  it('a muffled voice gets more top, a boomy one less bass, on bands that work', () => {
    const muffled = nextAnswer(ask([equalized(heard(40, said('a bit muffled')))], ['tone']));
    expect(muffled.status).toBe('move');
    const raised = muffled.set.filter(({ dial }) => dial.stage === 'equalizer');
    expect(raised.length).toBeGreaterThan(0);
    expect(raised.every(({ from, to }) => Number(to) > Number(from))).toBe(true);
    expect(muffled.why).toMatch(/muffled/);
    const boomy = nextAnswer(ask([equalized(heard(40, said('very boomy')))], ['tone']));
    expect(boomy.set.filter(({ dial }) => dial.stage === 'equalizer').every(({ from, to }) => Number(to) < Number(from))).toBe(true);
  });

  it('one weak path turns nothing, and a good word ends it', () => {
    expect(nextAnswer(ask([equalized(heard(40, said('a bit muffled', 'weak')))], ['tone'])).status).toBe('measure');
    const good = [0, 1, 2, 3, 4].map(() => equalized(heard(40, said('sounds great, very good audio'))));
    expect(nextAnswer(ask(good, ['tone'])).status).toBe('done');
  });

  it('words join the card that they were said of, in the order of its revisions', () => {
    const report = (revision: number) => ({ revision, card: cardAt(30 + revision), madeAt: time(50), report: said('a bit muffled') });
    const all = seenHistory([], [reading(1, 1, 0.2), reading(3, 3, 0.4)], [report(1), report(2), report(3)]);
    expect(all.map(({ alc, reports = [] }) => [alc, reports.length])).toEqual([
      [0.2, 1],
      [null, 1],
      [0.4, 1],
    ]);
    expect(seenHistory([], [], [report(1)])).toHaveLength(1);
  });
});

describe('whether it came true', () => {
  const first = ask([seen(30, 0.05)], []);
  const { set } = nextAnswer(first);
  const to = Number(set[0].to);
  it('is told of the move that was proposed', () => {
    const came = expectedGot(ask([seen(30, 0.05), seen(to, 0.4)], []), { toneErrorDb: null });
    expect(came?.set).toEqual(set);
    expect(came?.alc).toMatchObject({ got: 0.4, isInside: true });
    expect(expectedGot(ask([seen(30, 0.05), seen(to, 1)], []), { toneErrorDb: null })?.alc?.isInside).toBe(false);
  });
  it('is not told of any other change', () => {
    expect(expectedGot(ask([seen(30, 0.05), seen(to + 1, 0.4)], []), { toneErrorDb: null })).toBeNull();
    expect(expectedGot(first, { toneErrorDb: null })).toBeNull();
  });
  it('in a sentence', () => {
    expect(toneCameText({ expected: [1, 1.4, 2], got: 2.6, isInside: false })).toBe(
      'Tone: expected 1.4 dB off target (1.0 to 2.0), got 2.6 dB, which was not expected.',
    );
  });
});

describe('calibration', () => {
  const tern = parseRig(JSON.parse(readFileSync('demo/rigs/tern-100.json', 'utf8')));
  const learned = (octaves: number | null, clickDb: readonly [number, number, number], resonance: number | null = 0.5): Learned => ({
    ...NOTHING_LEARNED,
    equalizer: { octaves, resonance, clickDb },
  });
  it('is offered only where something settled contradicts the profile', () => {
    expect(calibrations(tern, learned(0.5, [0.8, 1, 1.2]))).toEqual([]);
    const isOctaves = tern.equalizer.kind === 'parametric' && tern.equalizer.width.meaning === 'octaves';
    const [offer] = calibrations(tern, learned(isOctaves ? 0.04 : 0.96, [0.9, 1, 1.1]));
    expect(offer.key).toBe('width');
    expect(parseRig(JSON.parse(JSON.stringify(offer.profile))).equalizer).toMatchObject({
      width: { meaning: isOctaves ? 'q' : 'octaves' },
    });
  });
  it('bands whose cuts are narrower than their lifts are offered once that is settled, and taken back again', () => {
    const offers = calibrations(tern, learned(0.5, [0.9, 1, 1.1], 0.95));
    expect(offers.map(({ key }) => key)).toEqual(['bells']);
    expect(offers[0].text).toBe('Lifts are wider and cuts narrower than the width number says (95 % sure).');
    expect(offers[0].profile.equalizer).toMatchObject({ bells: 'resonance' });
    expect(parseRig(JSON.parse(JSON.stringify(offers[0].profile))).equalizer).toEqual(offers[0].profile.equalizer);
    // A profile that says nothing has mirrored bands.
    expect(calibrations(tern, learned(0.5, [0.9, 1, 1.1], 0.03))).toEqual([]);
    const [back] = calibrations(offers[0].profile, learned(0.5, [0.9, 1, 1.1], 0.03));
    expect(back).toMatchObject({ key: 'bells', profile: { equalizer: { bells: 'mirrored' } } });
  });
  it('what no profile holds is told once it is known', () => {
    const perStep = (low: number, high: number): Learned['compression'] => ({
      readings: 3,
      expectedDb: [8, 9, 10],
      perStepDb: [low, Math.sqrt(low * high), high],
    });
    expect(learnedLines(rig, 'usb', NOTHING_LEARNED)).toEqual([]);
    expect(learnedLines(rig, 'usb', { ...NOTHING_LEARNED, compression: perStep(1, 3) })).toEqual([]);
    expect(
      learnedLines(rig, 'usb', {
        ...NOTHING_LEARNED,
        compression: perStep(1.6, 2.5),
        drive: { mostGain: 45, tiltDb: 2, nextChannelDb: null },
      }),
    ).toEqual([
      'One step of Compression moves the compression meter by about 2.0 dB (1.6 to 2.5).',
      'Up to Mic gain 45 % the next channel stays clean.',
      'The next channel is clean with 2 dB an octave less above 1 kHz than the target has.',
    ]);
  });
  it('a decibel that is none is corrected to a twentieth', () => {
    const [offer] = calibrations(rig, learned(null, [0.71, 0.77, 0.83]));
    expect(offer).toMatchObject({ key: 'click', profile: { equalizer: { clickDb: 0.75 } } });
    expect(parseRig(JSON.parse(JSON.stringify(offer.profile)))).toBeTruthy();
  });
});
