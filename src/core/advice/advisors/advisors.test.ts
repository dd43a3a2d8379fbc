/** Each advisor alone, on radios that are simulated by other equations than its own. */
import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { TWELFTH_CENTRES } from '../../dsp/index.ts';
import type { JudgedCard } from '../../intelligibility/index.ts';
import type { Remark } from '../../language/index.ts';
import type { SsbMeasurement } from '../../measure/index.ts';
import { type Card, dialInRole, factoryCard, parseRig, positionsOf, valueOn } from '../../rig/index.ts';
import { dbToPower } from '../../units/index.ts';
import { compressionDials } from '../nearestDials.ts';
import type { SeenOver } from '../next/seen.ts';
import { defaultTarget } from '../targets.ts';
import { targetCurve } from '../toneCurves.ts';
import {
  amGain,
  carrierBracket,
  compressionChoices,
  compressionWords,
  deviationsBeside,
  driveKnee,
  fmGain,
  type Modulation,
  type OffsetHeard,
} from './index.ts';

const rigOf = (name: string) => parseRig(JSON.parse(readFileSync(`demo/rigs/${name}.json`, 'utf8')));
const [tern, fulmar, knot, dunlin] = ['tern-100', 'fulmar-8', 'knot-5', 'dunlin-fm'].map(rigOf);

describe('carrier offset', () => {
  const dial = dialInRole(knot, 'carrier-offset', 'usb');
  if (!dial) throw new Error('no carrier offset');
  const target = defaultTarget('balanced');
  const at = (offset: number): Card => ({ mode: 'usb', values: { ...factoryCard(knot, 'usb').values, [dial.id]: offset } });
  /** A voice that is on target through a crystal filter of round shoulders which stands right at an offset that nobody knows. */
  const heardAt = (offset: number, right: number, up = 1): OffsetHeard => {
    const away = up * (offset - right);
    const shoulder = (hz: number) => 1 / (1 + ((380 + away) / hz) ** 8) / (1 + (hz / (2300 + away)) ** 8);
    const onTarget = targetCurve(target).map(([, db]) => dbToPower(db ?? 0));
    const even = TWELFTH_CENTRES.map((hz) => 1 / (1 + (380 / hz) ** 8) / (1 + (hz / 2300) ** 8));
    const speechPowers = TWELFTH_CENTRES.map((hz, i) => (onTarget[i] * Math.max(1e-6, shoulder(hz))) / Math.max(0.05, even[i]));
    return { card: at(offset), voice: { speechPowers, pausePowers: null }, remarks: [] };
  };
  const bracketed = (right: number, up = 1) => {
    const heard: OffsetHeard[] = [];
    for (let k = 0; k < 15; k++) {
      const bracket = carrierBracket(knot, at(0), heard, target);
      if (!bracket?.next) return { bracket, tries: k };
      heard.push(heardAt(bracket.next.offset, right, up));
    }
    return { bracket: carrierBracket(knot, at(0), heard, target), tries: 15 };
  };

  it.each([
    [0, 1],
    [150, 1],
    [-200, 1],
    [100, -1],
  ])('closes in on %i Hz, a higher number sharper or duller (%i), within a dozen tries', (right, up) => {
    const { bracket, tries } = bracketed(right, up);
    expect(tries).toBeLessThan(13);
    expect(bracket?.next).toBeNull();
    const [sharp, mellow] = [bracket?.sharp?.offset ?? Number.NaN, bracket?.mellow?.offset ?? Number.NaN];
    expect(Math.abs(sharp - mellow)).toBeLessThanOrEqual(300);
    expect(Math.abs((sharp + mellow) / 2 - right)).toBeLessThanOrEqual(150);
  });

  it('lists what was tried from sharp to mellow', () => {
    const lines =
      carrierBracket(
        knot,
        at(0),
        [-500, 0, 500, 250].map((offset) => heardAt(offset, 0)),
        target,
      )?.lines ?? [];
    expect(lines.map(({ offset }) => offset)).toEqual([500, 250, 0, -500]);
    expect(lines[0].side).toBe('sharp');
    expect(lines[3].side).toBe('mellow');
    expect(lines[0].passbandHz[0] - lines[3].passbandHz[0]).toBeGreaterThan(300);
  });

  it('words of other stations do as well as recordings', () => {
    const said = (offset: number, code: Remark['code']): OffsetHeard => ({
      card: at(offset),
      voice: null,
      remarks: [{ code, sense: 'is', degree: 'plain', about: 'signal', text: code }],
    });
    const bracket = carrierBracket(knot, at(0), [said(0, 'muffled'), said(500, 'thin')], target);
    expect(bracket?.sharp?.offset).toBe(500);
    expect(bracket?.mellow?.offset).toBe(0);
    expect(bracket?.next?.offset).toBeGreaterThan(0);
    expect(bracket?.next?.offset).toBeLessThan(500);
    // What the path does is nobody's offset.
    const faded = { ...said(0, 'thin'), remarks: [{ ...said(0, 'thin').remarks[0], about: 'path' as const }] };
    expect(carrierBracket(knot, at(0), [faded], target)?.lines[0].side).toBe('balanced');
  });

  it('begins at the factory place; there is none where the radio has no such dial', () => {
    expect(carrierBracket(knot, at(0), [], target)?.next?.offset).toBe(dial.rest);
    expect(carrierBracket(tern, factoryCard(tern, 'usb'), [], target)).toBeNull();
  });
});

describe('drive against splatter', () => {
  const gainDial = dialInRole(tern, 'mic-gain', 'usb');
  if (!gainDial) throw new Error('no mic gain');
  /** A transmitter whose next channel is noise up to a knee and grows by 2.6 dB for each position above it. */
  const over = (gain: number, knee: number, change: Card['values'] = {}): SeenOver => {
    const level = gain <= knee ? -58 : -44 + 2.6 * (gain - knee);
    const radio = {
      kind: 'ssb',
      adjacentDb: { wantedSide: level, otherSide: level - 4 },
      notes: {},
      findings: [],
    } as unknown as SsbMeasurement;
    const card = { ...factoryCard(tern, 'usb'), use: null };
    return {
      card: { ...card, values: { ...card.values, [gainDial.id]: gain, ...change } },
      alc: 0.4,
      compressionDb: null,
      swr: null,
      voices: [],
      radios: [radio],
    };
  };

  it.each([22, 41, 60, 77])('finds the highest clean setting of a knee at %i', (knee) => {
    const overs = [over(30, knee)];
    for (let k = 0; k < 25; k++) {
      const next = driveKnee(tern, overs)?.next;
      if (next === null || next === undefined) break;
      overs.push(over(Number(next), knee));
    }
    const found = driveKnee(tern, overs);
    expect(found?.next).toBeNull();
    // Clean ends where the next channel passes -36 dB: three positions above the knee.
    expect(Math.abs(Number(found?.highestClean) - (knee + 3))).toBeLessThanOrEqual(3);
    expect(found?.lines.every(({ gain, isClean }) => isClean === Number(gain) <= knee + 3)).toBe(true);
    expect(found?.text).toMatch(/highest clean setting/);
  });

  it('what a finding accuses is not clean, and an ALC above its zone is reason enough to stop', () => {
    const accused = over(40, 60);
    const findings = [{ code: 'overdrive' as const, severity: 'fault' as const, text: '', evidence: '' }];
    const radios = accused.radios.map((radio) => ({ ...radio, findings }));
    expect(driveKnee(tern, [{ ...accused, radios }])).toMatchObject({
      lowestDirty: 40,
      highestClean: null,
      lines: [{ verdict: 'overdrive found' }],
    });
    // Back by 3 dB, or to where the ALC asks for less.
    expect(Number(driveKnee(tern, [{ ...accused, radios }])?.next)).toBeLessThan(36);
    expect(driveKnee(tern, [{ ...accused, radios }], 38)?.next).toBe(38);
    expect(driveKnee(tern, [{ ...over(40, 60), alc: 0.9 }])).toMatchObject({ next: null, highestClean: 40 });
    expect(driveKnee(tern, [over(40, 60)], 34)).toMatchObject({ next: null, highestClean: 40 });
    expect(Number(driveKnee(tern, [over(40, 60)], 44)?.next)).toBeGreaterThan(40);
  });

  it('two tones and the power of each setting stand beside it, and tell the power at the knee', () => {
    const twoTone = (imd3PepDb: number, severity?: 'fault') => ({
      kind: 'two-tone',
      imd3PepDb,
      findings: severity ? [{ code: 'overdrive', severity, text: 'It bends.', evidence: '' }] : [],
    });
    const trace = { kind: 'power', pepW: 4.6, findings: [] };
    const tests = (...all: object[]) => all as unknown as NonNullable<SeenOver['tests']>;
    const clean = { ...over(40, 60), tests: tests(twoTone(-34), trace) };
    const bent = { ...over(41, 60), radios: [], tests: tests(twoTone(-20, 'fault')), powerW: 5 };
    const knee = driveKnee(tern, [clean, bent]);
    expect(knee?.lines.map(({ isClean, imd3Db, pepW }) => ({ isClean, imd3Db, pepW }))).toEqual([
      { isClean: true, imd3Db: -34, pepW: 4.6 },
      { isClean: false, imd3Db: -20, pepW: 5 },
    ]);
    expect(knee?.text).toMatch(/highest clean setting, with 4\.6 W PEP\.$/);
  });

  it('the next channel as an analyser shows it finds the knee as well', () => {
    const read = (gain: number, adjacentDb: number): SeenOver => ({ ...over(gain, 60), radios: [], adjacentDb });
    const knee = driveKnee(tern, [read(40, -48), read(41, -33)]);
    expect(knee?.lines.map(({ adjacentDb, isClean }) => ({ adjacentDb, isClean }))).toEqual([
      { adjacentDb: -48, isClean: true },
      { adjacentDb: -33, isClean: false },
    ]);
    expect(knee?.text).toMatch(/^The knee lies between 40 and 41/);
  });

  it('overs with another equalizer do not count, and without I/Q it says so', () => {
    const other = tern.dials.find(({ stage, scale }) => stage === 'compressor' && scale.kind === 'options');
    const changed = over(50, 30, {
      [other?.id ?? '']: positionsOf(other?.scale ?? gainDial.scale).find((each) => each !== other?.rest) ?? 0,
    });
    expect(driveKnee(tern, [changed, over(30, 40)])?.lines).toHaveLength(1);
    expect(driveKnee(tern, [{ ...over(30, 40), radios: [] }])?.text).toMatch(/No I\/Q/);
    expect(driveKnee(tern, [])).toBeNull();
  });
});

describe('compression', () => {
  it('offers each amount once, least first, and knows the one that stands', () => {
    const card = factoryCard(tern, 'usb');
    const choices = compressionChoices(tern, card);
    expect(choices[0].name).toBe('None');
    expect(new Set(choices.map(({ values }) => JSON.stringify(values))).size).toBe(choices.length);
    for (const { values, name } of choices) {
      const set = compressionChoices(tern, { ...card, values: { ...card.values, ...values } });
      expect(set.find(({ isNow }) => isNow)?.name).toBe(name);
    }
    const between = compressionDials(tern, 'usb', 0.1);
    const own = compressionChoices(tern, { ...card, values: { ...card.values, ...between } });
    expect(own.map(({ name }) => name).slice(0, 3)).toEqual(['None', 'As it stands', 'Token']);
    expect(own.filter(({ isNow }) => isNow)).toHaveLength(1);
    expect(compressionChoices(dunlin, factoryCard(dunlin, 'fm'))).toEqual([]);
  });

  const judged = (reachDb: number, score: number, peakToAverageDb: number) =>
    ({ reach: { reachDb, uncertaintyDb: 0.5 }, naturalness: { score }, peakToAverageDb }) as unknown as JudgedCard;
  const answers = [
    { name: 'None', judged: judged(0.4, 96, 12.5) },
    { name: 'Token', judged: judged(5.7, 78, 8.8) },
    { name: 'Handbook', judged: judged(7.5, 68, 7.1) },
    { name: 'Weak mic', judged: judged(8.3, 63, 6.3) },
  ];
  it('says where more costs more than it gives, by purpose', () => {
    expect(compressionWords(answers, 'natural')).toMatch(/no compression is best/);
    expect(compressionWords(answers, 'balanced')).toMatch(
      /^Token wins 5\.3 dB of reach and 3\.7 dB of average power.*Handbook adds 1\.8 dB and costs 10 points more/,
    );
    expect(compressionWords(answers, 'contest')).toMatch(/^Weak mic/);
  });
});

describe('AM', () => {
  const card = factoryCard(fulmar, 'am');
  const gain = dialInRole(fulmar, 'mic-gain', 'am');
  const at = (modulation: Partial<Modulation>) => amGain(fulmar, card, { up: 0.8, down: 0.8, isCutOff: false, ...modulation });

  it('70 to 95 % is right; a carrier that is cut off wants less, and a shallow one more', () => {
    for (const depth of [0.72, 0.85, 0.94]) expect(at({ up: depth, down: depth })).toMatchObject({ isRight: true, to: at({})?.from });
    const less = at({ up: 1.4, down: 1, isCutOff: true });
    expect(less?.isRight).toBe(false);
    expect(Number(less?.to)).toBeLessThan(Number(less?.from));
    // Peaks upward tell how much too much it is; where they tell nothing, 3 dB.
    const turn = (up: number) => Number(at({ up, down: 1, isCutOff: true })?.from) - Number(at({ up, down: 1, isCutOff: true })?.to);
    expect(turn(2)).toBeGreaterThan(turn(1.4));
    expect(turn(1.4)).toBeGreaterThanOrEqual(turn(0.9));
    expect(turn(0.9)).toBe(turn(1));
    const more = at({ up: 0.3, down: 0.3 });
    expect(Number(more?.to)).toBeGreaterThan(Number(more?.from));
  });

  it('a mic that was off asks for no more than 12 dB', () => {
    expect(Number(at({ up: 0, down: 0 })?.to) - Number(at({})?.from)).toBeLessThanOrEqual(40);
  });

  it.each([1, 3, 10])('with steps of %i a dial ends between what was too little and too much, and does not go to and fro', (stepDb) => {
    const positions = [40, 45, 50, 55, 60].filter((each) => each % (stepDb === 10 ? 10 : 5) === 0);
    const depthAt = (position: number) => 0.3 * 10 ** (((position - 40) * stepDb) / 5 / 20);
    const heard: { card: Card; modulation: Modulation }[] = [];
    let now: Card = { ...card, values: { ...card.values, [gain?.id ?? '']: 60 } };
    const seen: number[] = [];
    for (let k = 0; k < 12; k++) {
      const position = Number(now.values[gain?.id ?? '']);
      const depth = depthAt(position);
      const modulation = { up: depth, down: Math.min(1, depth), isCutOff: depth > 1 };
      const advice = amGain(fulmar, now, modulation, heard);
      seen.push(position);
      if (!advice || advice.to === advice.from) break;
      heard.unshift({ card: now, modulation });
      now = { ...now, values: { ...now.values, [advice.dial.id]: advice.to } };
    }
    expect(positions.length).toBeGreaterThan(2);
    // No position is tried twice, but for the last one, which may be gone back to.
    expect(new Set(seen.slice(0, -1)).size).toBe(seen.length - 1);
    expect(seen.length).toBeLessThan(10);
  });

  it('a position that was right is gone back to, however far it is', () => {
    const put = (value: number): Card => ({ ...card, values: { ...card.values, [gain?.id ?? '']: value } });
    const right = { card: put(95), modulation: { up: 0.9, down: 0.85, isCutOff: false } };
    expect(amGain(fulmar, put(50), { up: 0.3, down: 0.3, isCutOff: false }, [right])?.to).toBe(95);
    expect(amGain(fulmar, put(50), { up: 0.3, down: 0.3, isCutOff: false })?.to).not.toBe(95);
  });

  it('at the end of the dial says what is left', () => {
    const values = { ...card.values, [gain?.id ?? '']: 100 };
    expect(amGain(fulmar, { ...card, values }, { up: 0.2, down: 0.2, isCutOff: false })?.text).toMatch(/at its end\. Speak at half/);
  });

  it.each([0.1, 0.4, 1.6])('from a depth of %f the gain comes to where it belongs, on a dial of another law', (start) => {
    let now: Card = card;
    let depth = start;
    const first = Number(valueOn(card, fulmar.dials.find(({ id }) => id === gain?.id) ?? fulmar.dials[0]));
    for (let k = 0; k < 8; k++) {
      const advice = amGain(fulmar, now, { up: depth, down: Math.min(1, depth), isCutOff: depth > 1 });
      if (!advice || advice.isRight || advice.to === advice.from) break;
      now = { ...now, values: { ...now.values, [advice.dial.id]: advice.to } };
      depth = start * 10 ** ((0.5 * (Number(advice.to) - first)) / 20);
    }
    expect(depth).toBeGreaterThan(0.65);
    expect(depth).toBeLessThan(0.96);
  });
});

describe('FM', () => {
  const card = factoryCard(dunlin, 'fm');
  it('is right in its zone, and 2 dB under it where the next step is too much', () => {
    for (const peak of [4000, 4900, 3300]) expect([peak, fmGain(dunlin, card, peak)?.isRight]).toEqual([peak, true]);
  });

  it('sounds like low power far under it: nearer to the microphone, where the dial has no step for it', () => {
    const advice = fmGain(dunlin, card, 2400);
    expect(advice).toMatchObject({ isRight: false, from: 'mid', to: 'mid' });
    expect(advice?.text).toMatch(
      /6 dB softer than others, like low power, and Mic level at high would likely be too much.*half the distance/,
    );
  });

  const gain = dialInRole(dunlin, 'mic-gain', 'fm');
  const at = (position: string): Card => ({ ...card, values: { ...card.values, [gain?.id ?? '']: position } });

  it('goes between two positions once or not at all: one of them, and the microphone does the rest', () => {
    const high = { card: at('high'), peakHz: 5400 };
    const mid = { card: at('mid'), peakHz: 1600 };
    const up = fmGain(dunlin, mid.card, 1600, [high]);
    expect(up).toMatchObject({ isRight: false, to: 'high' });
    expect(up?.text).toMatch(
      /No position gives that: mid 1\.6, high 5\.4 kHz\. Mic level mid → high, and speak from about 1\.2 times as far/,
    );
    const stays = fmGain(dunlin, high.card, 5400, [mid]);
    expect(stays).toMatchObject({ isRight: false, from: 'high', to: 'high' });
    expect(stays?.text).toMatch(/Leave Mic level at high and speak from about 1\.2 times as far away\.$/);
    // Where the lower one is nearer to right it is kept.
    const lower = fmGain(dunlin, at('high'), 12_000, [{ card: at('mid'), peakHz: 3000 }]);
    expect(lower).toMatchObject({ isRight: false, to: 'mid' });
    expect(lower?.text).toMatch(/speak nearer, at about 1\/1\.5 of the distance/);
    // From farther away the other position would have given less; through another switch nothing is known of it.
    const near = { ...mid, peakHz: 2000, use: { position: 'flat', accessories: [], distanceCm: 5 } };
    const far = { ...high, use: { ...near.use, distanceCm: 10 } };
    expect(deviationsBeside([far, near], far)).toEqual([{ card: mid.card, peakHz: 1000 }]);
    expect(deviationsBeside([far, { ...near, use: { ...near.use, position: 'low cut' } }], far)).toEqual([]);
    // A wide one that was twice as far with the same dials has fallen back to narrow, whatever the gain.
    const fallen = fmGain(dunlin, mid.card, 2400, [{ card: mid.card, peakHz: 4700 }, high]);
    expect(fallen).toMatchObject({ isRight: false, to: 'mid', title: 'Look at the channel width' });
    expect(fallen?.text).toMatch(/With the same dials it was 4\.7 kHz: the radio has likely fallen back to narrow/);
    // Another narrow over since does not make it forgotten; one that is only softer is not accused.
    expect(
      fmGain(dunlin, mid.card, 2400, [
        { card: mid.card, peakHz: 2500 },
        { card: mid.card, peakHz: 4700 },
      ])?.title,
    ).toBe(fallen?.title);
    expect(fmGain(dunlin, mid.card, 2900, [{ card: mid.card, peakHz: 4900 }])?.title).toBeUndefined();
    // Two that are as far off as each other: whichever it stands at stays, or the scatter of overs turns the dial each time.
    expect(fmGain(dunlin, mid.card, 2800, [{ card: high.card, peakHz: 7100 }])).toMatchObject({ isRight: false, to: 'mid' });
    expect(fmGain(dunlin, high.card, 7300, [{ card: mid.card, peakHz: 2800 }])).toMatchObject({ isRight: false, to: 'high' });
    // What was made with another width tells nothing of this one.
    const width = dialInRole(dunlin, 'fm-width', 'fm');
    const narrow = positionsOf(width?.scale ?? { kind: 'options', options: [] }).find((each) => String(each).startsWith('n')) ?? '';
    const elsewhere = { card: { ...high.card, values: { ...high.card.values, [width?.id ?? '']: narrow } }, peakHz: 6000 };
    expect(fmGain(dunlin, mid.card, 1600, [elsewhere])).toEqual(fmGain(dunlin, mid.card, 1600));
    // The newest over with a position counts, and a position that was right is gone back to.
    expect(fmGain(dunlin, at('high'), 5400, [{ card: at('mid'), peakHz: 4200 }, mid])).toMatchObject({ to: 'mid', isRight: false });
    expect(fmGain(dunlin, at('high'), 5400, [{ card: at('mid'), peakHz: 4200 }, mid])?.text).not.toMatch(/No position/);
  });

  it('at the end of its dial says so, and what is left to do', () => {
    const low = at('low');
    expect(fmGain(dunlin, low, 9000)).toMatchObject({ isRight: false, to: 'low' });
    expect(fmGain(dunlin, low, 9000)?.text).toMatch(/is at its end\. Speak from farther away\.$/);
  });

  it.each([
    ['wide', 900],
    ['wide', 7000],
    ['narrow', 5000],
  ])('%s: from %i Hz the gain comes to where the deviation belongs', (width, start) => {
    const widthDial = dialInRole(dunlin, 'fm-width', 'fm');
    const gain = dialInRole(dunlin, 'mic-gain', 'fm');
    if (!widthDial || !gain) throw new Error('no such dials');
    const wanted = positionsOf(widthDial.scale).find((each) => String(each).startsWith(width[0])) ?? '';
    let card: Card = { mode: 'fm', values: { ...factoryCard(dunlin, 'fm').values, [widthDial.id]: wanted } };
    const positions = positionsOf(gain.scale);
    const first = positions.indexOf(valueOn(card, gain));
    let peak = start;
    for (let k = 0; k < 6; k++) {
      const advice = fmGain(dunlin, card, peak);
      if (!advice || advice.to === advice.from) break;
      card = { ...card, values: { ...card.values, [gain.id]: advice.to } };
      // A gain dial of another law than assumed: 5 dB each position.
      peak = start * 10 ** ((5 * (positions.indexOf(advice.to) - first)) / 20);
    }
    const last = fmGain(dunlin, card, peak);
    const isAtEnd = [0, positions.length - 1].includes(positions.indexOf(valueOn(card, gain)));
    expect(isAtEnd || last?.to === last?.from).toBe(true);
  });
});
