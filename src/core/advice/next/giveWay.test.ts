import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { VOICE_TWELFTH_OCTAVES } from '../../dsp/index.ts';
import type { SsbMeasurement, VoiceDetail, VoiceMeasurement } from '../../measure/index.ts';
import { type DialValues, factoryCard, parseRig, responseOf } from '../../rig/index.ts';
import { dbToPower } from '../../units/index.ts';
import { beforeTone, type LevelInput } from '../beforeTone.ts';
import { nextChannelChangeDb } from '../thirdOrder.ts';
import { nextAnswer } from './engine.ts';
import { expectedGot } from './expectedGot.ts';
import { changeByTone, foreseen } from './giveWay.ts';
import type { NextAnswer, NextInput, SeenOver } from './seen.ts';

const rig = parseRig(JSON.parse(readFileSync('demo/rigs/fulmar-8.json', 'utf8')));
const factory = factoryCard(rig, 'usb').values;
const values = (set: DialValues): DialValues => ({ ...factory, 'tx-eq': 'on', 'eq-1600': 3, 'eq-2400': 8, 'mic-gain': 50, ...set });
/** Talk as it leaves a microphone, about 6 dB less for each octave above 500 Hz, through the card. */
const talk = (set: DialValues) => {
  const response = responseOf(rig, { mode: 'usb', values: values(set) });
  const speechPowers = VOICE_TWELFTH_OCTAVES.map(({ centreHz }, i) =>
    dbToPower(-30 - 6 * Math.max(0, Math.log2(centreHz / 500)) + response[i]),
  );
  return { speechPowers, pausePowers: speechPowers.map((power) => power / 1e5) } as unknown as VoiceDetail;
};
const over = (alc: number, adjacent: number, set: DialValues = {}): SeenOver => ({
  card: { mode: 'usb', values: values(set), use: null },
  alc,
  compressionDb: null,
  swr: 1.2,
  voices: [{ tap: 'second', result: { kind: 'voice', snrDb: 40, findings: [] } as unknown as VoiceMeasurement, detail: talk(set) }],
  radios: [
    {
      kind: 'ssb',
      findings: [],
      adjacentDb: { wantedSide: adjacent, otherSide: adjacent - 3 },
      notes: {},
    } as unknown as SsbMeasurement,
  ],
});
const ask = (...overs: SeenOver[]): NextInput => ({
  rig,
  mode: 'usb',
  purpose: 'pile-up',
  school: { alcZone: [0.3, 0.5], compression: 'none' },
  overs,
});
const levelOf = ({ card }: SeenOver, answer: NextAnswer): LevelInput => ({
  rig,
  card: { mode: 'usb', values: card.values },
  standing: { newest: null, gain: null },
  swr: 1.2,
  tooMuchDrive: 'The next channel is not clean.',
  knee: null,
  radioGain: null,
  hasOwnLevel: false,
  answer,
});
const dirty = [over(0.5, -33.5, { 'mic-gain': 55 }), over(0.4, -34)];

describe('third-order products', () => {
  const flat = VOICE_TWELFTH_OCTAVES.map(() => 0);
  const shaped = (dbAt: (hz: number) => number) => VOICE_TWELFTH_OCTAVES.map(({ centreHz }) => dbAt(centreHz));
  const change = (to: number[]) => nextChannelChangeDb(talk({ 'eq-1600': 0, 'eq-2400': 0 }), flat, [flat, to], [200, 2800]);

  it('a bright voice fills the next channel, a dull one does not, and loudness alone is nothing', () => {
    expect(change(shaped((hz) => (hz > 1500 ? 6 : 0)))).toBeGreaterThan(4);
    expect(change(shaped((hz) => (hz > 1500 ? -6 : 0)))).toBeLessThan(-4);
    expect(change(shaped(() => 7))).toBeCloseTo(0, 6);
  });

  it('a voice of two bands makes them where 2 f2 - f1 falls', () => {
    const nearest = (hz: number) =>
      VOICE_TWELFTH_OCTAVES.reduce((a, b) => (Math.abs(b.centreHz - hz) < Math.abs(a.centreHz - hz) ? b : a)).centreHz;
    // 1000 and 1900 Hz: 2800 Hz, in the voice's own channel. 1000 and 2500 Hz: 4000 Hz, in the next one.
    const two = (high: number) => shaped((hz) => (hz === nearest(1000) || hz === nearest(high) ? 0 : -80));
    expect(change(two(2500))).toBeGreaterThan(change(two(1900)) + 15);
  });
});

describe('what the next over should show of the next channel', () => {
  const cleanOvers = (count: number) => Array.from({ length: count }, (_, k) => over(0.4, [-45, -43, -47, -45][k]));
  const told = (count: number) => nextAnswer(ask(...cleanOvers(count))).learned.drive?.nextChannelDb ?? [0, 0, 0];

  it('is what all overs showed, and the more of them the closer, up to what one text differs', () => {
    const [one, four] = [told(1), told(4)];
    expect([one[1], four[1]]).toEqual([expect.closeTo(-45, 6), expect.closeTo(-45, 6)]);
    expect(one[2] - one[0]).toBeGreaterThan(four[2] - four[0] + 1);
    expect(four[2] - four[0]).toBeGreaterThan(2 * 1.28 * 4);
    expect(four[2] - four[0]).toBeLessThan(2 * 1.28 * 4 * 1.2);
  });

  it('is told with a turn of the tone, more for a brighter one, and judged by the next over', () => {
    const history = cleanOvers(3);
    const answer = nextAnswer(ask(...history));
    expect(answer.reasons.tone).toBeDefined();
    const set = Object.fromEntries(answer.set.map(({ dial, to }) => [dial.id, to]));
    const [low, likely, high] = answer.expected.adjacentDb ?? [0, 0, 0];
    const ways = [{ rig, weight: 1, voice: { voice: talk({}), responseDb: responseOf(rig, { mode: 'usb', values: values({}) }) } }];
    const change = changeByTone(rig, ways, { mode: 'usb', values: values({}) }, { mode: 'usb', values: values(set) });
    expect(Math.abs(change)).toBeGreaterThan(1);
    expect(likely - -45).toBeCloseTo(change, 0);
    expect(high - likely).toBeCloseTo(likely - low, 6);
    const came = (adjacent: number) => expectedGot(ask(...history, over(0.4, adjacent, set)), { toneErrorDb: null })?.adjacentDb;
    expect(came(likely + 1)).toMatchObject({ isInside: true });
    expect(came(high + 3)).toMatchObject({ isInside: false });
  });

  it('is not told where nobody measured it, or where compression is turned as well', () => {
    const unheard = cleanOvers(2).map((each) => ({ ...each, radios: [] }));
    expect(nextAnswer(ask(...unheard)).expected.adjacentDb).toBeNull();
    const input = { ...ask(...cleanOvers(2)), school: { alcZone: [0.3, 0.5], compression: 'token' } } as const;
    expect(nextAnswer(input).reasons.compression).toBeDefined();
    expect(nextAnswer(input).expected.adjacentDb).toBeNull();
  });
});

describe('a tone that gives way to the drive', () => {
  it('less gain first; where that did not mend it, less top, and what the next channel should be then', () => {
    const first = nextAnswer(ask(dirty[0]));
    expect(first.set.map(({ dial }) => dial.id)).toEqual(['mic-gain']);
    const answer = nextAnswer(ask(...dirty));
    expect(answer.status).toBe('move');
    expect(answer.why).toMatch(/^The next channel is not clean: .* Less top, since/);
    expect(answer.set.every(({ dial: { stage } }) => stage === 'equalizer' || stage === 'gain')).toBe(true);
    const top = answer.set.find(({ dial }) => dial.id === 'eq-2400');
    expect(Number(top?.to)).toBeLessThan(9);
    const [low, likely, high] = answer.expected.adjacentDb ?? [0, 0, 0];
    expect(likely).toBeLessThan(-36.5);
    expect(low).toBeLessThan(likely);
    expect(high).toBeGreaterThan(likely);
    expect(answer.learned.drive?.tiltDb).toBeGreaterThan(0);
    // Nearer to the target it would not be clean, but no duller than it must be.
    expect(likely).toBeGreaterThan(-41);
  });

  it('afterwards it is told whether it came true, and the top does not come back', () => {
    const answer = nextAnswer(ask(...dirty));
    const set = Object.fromEntries(answer.set.map(({ dial, to }) => [dial.id, to]));
    const clean = over(0.4, -38, set);
    expect(expectedGot(ask(...dirty, clean), { toneErrorDb: null })?.adjacentDb).toMatchObject({ got: -38, isInside: true });
    const then = nextAnswer(ask(...dirty, clean));
    expect(then.goal.drive).toBe('ok');
    expect(then.set.filter(({ dial: { stage } }) => stage === 'equalizer')).toEqual([]);
    // The gain is free again: what was dirty was another tone.
    expect(then.learned.drive?.mostGain).toBeNull();
    expect(nextAnswer(ask(...dirty, clean, clean, clean)).status).toBe('done');
  });

  it('a tone that is far off is turned all the same, within what the next channel bears', () => {
    const set = Object.fromEntries(nextAnswer(ask(...dirty)).set.map(({ dial, to }) => [dial.id, to]));
    const off = { ...set, 'eq-600': -14, 'eq-1000': 6 };
    const answer = nextAnswer(ask(...dirty, ...[1, 2, 3, 4].map(() => over(0.4, -37.5, off))));
    expect(answer.set.some(({ dial: { stage } }) => stage === 'equalizer')).toBe(true);
    expect(answer.learned.drive?.tiltDb).toBeGreaterThan(0);
    expect(answer.why).toMatch(/as near as the next channel bears/);
  });

  it('one text that is not clean where all together are: once more with nothing turned, and then what both say', () => {
    const [clean, odd] = [over(0.4, -41), over(0.4, -34)];
    const answer = nextAnswer(ask(clean, clean, odd));
    expect(answer).toMatchObject({ status: 'measure', set: [], goal: { drive: 'high' } });
    expect(answer.why).toMatch(/stood at −34 dB re the voice in this over, and at −39 dB over all of them/);
    const step = beforeTone(levelOf(odd, answer), [], 2);
    expect(step).toMatchObject({ kind: 'one-more', text: answer.why });
    // Nothing is limited by it, nor is the top taken away.
    const after = nextAnswer(ask(clean, clean, odd, clean));
    expect(after.goal.drive).toBe('ok');
    expect(after.learned.drive).toMatchObject({ mostGain: null, tiltDb: 0 });
    expect(nextAnswer(ask(clean, clean, odd, odd)).status).toBe('move');
    expect(nextAnswer(ask(clean, odd)).status).toBe('move');
    expect(nextAnswer(ask(clean, clean, over(0.4, -24))).status).toBe('move');
  });

  it('what is foreseen counts every over inside the zone, for the middle of the zone', () => {
    const overs = [over(0.4, -40), over(0.2, -36), over(0.95, -20)];
    const ways = [{ rig, weight: 1, voice: { voice: talk({}), responseDb: responseOf(rig, { mode: 'usb', values: values({}) }) } }];
    const nextChannel = foreseen(rig, overs, ways, [0.3, 0.5]);
    expect(nextChannel?.overs).toEqual(overs.slice(0, 2));
    expect(nextChannel?.usualDb({ mode: 'usb', values: values({}) })).toBeCloseTo((-40 + -36 + 0.6) / 2, 6);
  });

  it('from above the zone, or at a step that turns no tone, it is the gain', () => {
    const above = [over(0.75, -33.5, { 'mic-gain': 55 }), over(0.7, -34)];
    expect(nextAnswer(ask(...above)).set.map(({ dial }) => dial.id)).toEqual(['mic-gain']);
    expect(nextAnswer({ ...ask(...dirty), scope: [] }).set.map(({ dial }) => dial.id)).toEqual(['mic-gain']);
    // What was dirty with more compression says nothing of less gain.
    const other = over(0.5, -33.5, { 'mic-gain': 55, compressor: 'on' });
    const [first] = nextAnswer({ ...ask(other, dirty[1]), scope: ['tone'] }).set;
    expect(first.dial.id).toBe('mic-gain');
    expect(Number(first.to)).toBeLessThan(50);
  });

  it('a sound voice through a sound amplifier keeps its whole target', () => {
    const sound = nextAnswer(ask(over(0.4, -45), over(0.4, -46)));
    expect(sound.learned.drive).toMatchObject({ mostGain: null, tiltDb: 0 });
  });

  it('the Bench says the same, not less gain', () => {
    const answer = nextAnswer(ask(...dirty));
    const step = beforeTone(levelOf(dirty[1], answer), [], 2);
    expect(step?.moves?.map(({ dial, to }) => [dial.id, to])).toEqual(answer.set.map(({ dial, to }) => [dial.id, to]));
    expect(step?.expect).toMatch(/^Expect the next channel about −\d+ dB/);
  });
});
