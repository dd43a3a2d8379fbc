import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { sourceOf, voiceLike } from '../../../../tests/support/signals.ts';
import { VOICE_TWELFTH_OCTAVES } from '../../dsp/index.ts';
import type { SsbMeasurement, VoiceDetail, VoiceMeasurement } from '../../measure/index.ts';
import { type Card, type DialValues, dialInRole, factoryCard, parseRig, responseOf } from '../../rig/index.ts';
import { parseStation, voiceGain } from '../../simulate/index.ts';
import { dbToPower } from '../../units/index.ts';
import { closedLoop, simulatedRadio, trueState } from './closedLoop.ts';
import { compressionStanding } from './compression.ts';
import { nextAnswer } from './engine.ts';
import { parseHistory } from './historyFile.ts';
import type { CompressionWish, NextInput, SeenOver } from './seen.ts';

const rigFile = (name: string) => JSON.parse(readFileSync(`demo/rigs/${name}.json`, 'utf8'));
const rig = parseRig(rigFile('fulmar-8'));
const card = (values: DialValues = {}): Card => ({ mode: 'usb', values: { ...factoryCard(rig, 'usb').values, 'tx-eq': 'on', ...values } });
const over = (changes: Partial<SeenOver> = {}, values: DialValues = {}): SeenOver => ({
  card: { ...card(values), use: null },
  alc: 0.4,
  compressionDb: null,
  swr: 1.2,
  voices: [],
  radios: [],
  ...changes,
});
const ask = (...overs: SeenOver[]): NextInput => ({
  rig,
  mode: 'usb',
  purpose: 'balanced',
  school: { alcZone: [0.3, 0.5], compression: 'none' },
  overs,
});
const radio = (codes: string[], adjacent = -50) =>
  ({
    kind: 'ssb',
    findings: codes.map((code) => ({ code, severity: 'fault', text: '', evidence: '' })),
    adjacentDb: { wantedSide: adjacent, otherSide: adjacent - 3 },
    notes: {},
  }) as unknown as SsbMeasurement;
const set = (input: NextInput) => Object.fromEntries(nextAnswer(input).set.map(({ dial, to }) => [dial.id, to]));

describe('order of business', () => {
  it('knows nothing: an over first', () => expect(nextAnswer(ask())).toMatchObject({ status: 'measure', set: [] }));

  it('a bad SWR stops everything, whatever else is wrong', () => {
    const answer = nextAnswer(ask(over({ swr: 4, alc: 1, radios: [radio(['overdrive'])] })));
    expect(answer).toMatchObject({ status: 'stop', set: [] });
    expect(answer.why).toContain('SWR 4.0');
  });

  it('overdrive: less gain and nothing else, even with the ALC in its zone', () => {
    const answer = nextAnswer(ask(over({ radios: [radio(['overdrive'], -25)] }, { 'mic-gain': 50, compressor: 'on' })));
    expect(answer.goal.drive).toBe('high');
    expect(answer.set.map(({ dial }) => dial.id)).toEqual(['mic-gain']);
    expect(Number(answer.set[0].to)).toBeLessThan(50);
  });

  it('a dirty next channel without a finding is overdrive too; one that only the noise fills is not', () => {
    expect(nextAnswer(ask(over({ radios: [radio([], -30)] }))).goal.drive).toBe('high');
    const bounded = { ...radio([], -30), notes: { 'adjacentDb.wantedSide': 'noise', 'adjacentDb.otherSide': 'noise' } } as SsbMeasurement;
    expect(nextAnswer(ask(over({ radios: [bounded] }))).goal.drive).toBe('ok');
  });

  it('level: down above the zone, up below it', () => {
    const gain = (alc: number) => Number(set(ask(over({ alc }, { 'mic-gain': 50 })))['mic-gain'] ?? 50);
    expect(gain(0.9)).toBeLessThan(50);
    expect(gain(0.05)).toBeGreaterThan(50);
    expect(gain(0.4)).toBe(50);
  });

  it('without a voice it is never done, and says what is missing', () => {
    expect(nextAnswer(ask(over()))).toMatchObject({ status: 'measure' });
    expect(nextAnswer(ask(over())).why).toContain('no voice was recorded');
  });

  it('the same history gives the same answer', () => {
    const input = ask(over({ alc: 0.8 }, { 'mic-gain': 60 }));
    expect(nextAnswer(input)).toEqual(nextAnswer(input));
  });
});

describe('compression by school', () => {
  it.each<[string, CompressionWish, DialValues, number | null, string, DialValues]>([
    ['fulmar-8', 'none', { compressor: 'on', compression: 3 }, null, 'high', { compressor: 'off' }],
    ['fulmar-8', 'none', { compressor: 'off' }, null, 'ok', {}],
    ['fulmar-8', 'token', { compressor: 'off', compression: 3 }, null, 'low', { compressor: 'on' }],
    ['fulmar-8', 'token', { compressor: 'on', compression: 3 }, null, 'ok', {}],
    ['fulmar-8', 'weak-mic', { compressor: 'on', compression: 3 }, null, 'low', { compression: 6 }],
    ['fulmar-8', 'handbook', { compressor: 'on', compression: 5 }, 15, 'ok', {}],
    ['fulmar-8', 'handbook', { compressor: 'on', compression: 5 }, null, 'unknown', {}],
    ['knot-5', 'token', { speech: 'off' }, null, 'low', { speech: 'low' }],
    ['knot-5', 'token', { speech: 'low' }, null, 'ok', {}],
  ])('%s, %s, %o, meter %s: %s', (name, wish, values, meter, state, expected) => {
    const own = parseRig(rigFile(name));
    const now: Card = { mode: 'usb', values: { ...factoryCard(own, 'usb').values, ...values } };
    expect(compressionStanding(own, now, wish, meter)).toEqual({ state, set: expected });
  });

  it('the handbook goes by the meter: too little is more, too much less', () => {
    const at = (meter: number) => compressionStanding(rig, card({ compressor: 'on', compression: 5 }), 'handbook', meter).set.compression;
    expect(Number(at(5))).toBeGreaterThan(5);
    expect(Number(at(28))).toBeLessThan(5);
  });
});

describe('what was heard of an equalizer’s change', () => {
  /** The second over as it would come in if the dials did so much of what they say. */
  const pair = (share: number): [SeenOver, SeenOver] => {
    const values = { 'eq-200': -8, 'eq-2400': 8 };
    const [was, is] = [responseOf(rig, card()), responseOf(rig, card(values))];
    const voice = (extra: (i: number) => number): SeenOver['voices'] => [
      {
        tap: 'second',
        result: { kind: 'voice', snrDb: 40, findings: [] } as unknown as VoiceMeasurement,
        detail: {
          speechPowers: VOICE_TWELFTH_OCTAVES.map((_, i) => dbToPower(-30 + extra(i))),
          pausePowers: VOICE_TWELFTH_OCTAVES.map(() => dbToPower(-80)),
        } as unknown as VoiceDetail,
      },
    ];
    return [over({ voices: voice(() => 0) }), over({ voices: voice((i) => share * (is[i] - was[i]) - 5) }, values)];
  };
  const shareOf = ([before, after]: SeenOver[]) =>
    heardShare(rig, { over: before, voice: before.voices[0] }, { over: after, voice: after.voices[0] });
  it.each([0, 0.8, 1, 1.2])('%s of it', (share) => expect(shareOf(pair(share))?.share).toBeCloseTo(share, 2));
  it('a dead equalizer is named, and nothing more is turned', () => {
    const answer = nextAnswer(ask(...pair(0)));
    expect(answer.status).toBe('stop');
    expect(answer.learned.deadDials).toEqual(['Slider 200 Hz', 'Slider 2400 Hz']);
  });
  it('a change that is hardly one tells nothing', () => {
    const [before] = pair(1);
    expect(shareOf([before, before])).toBeNull();
  });
});

describe('a history file', () => {
  const file = { format: 'dialtune-history', version: 1, rig: rigFile('fulmar-8'), mode: 'usb', purpose: 'balanced', overs: [] };
  it('has the rig’s own zone and token compression where no school is told', () =>
    expect(parseHistory(file).school).toEqual({ alcZone: rig.alc.zone, compression: 'token' }));
  it.each<[string, object, RegExp]>([
    ['no version', { version: 2 }, /version/],
    ['a school nobody has', { school: { name: 'loud' } }, /no school "loud"/],
    ['a zone upside down', { school: { alcZone: [0.5, 0.3] } }, /upside down/],
    ['a dial off its scale', { overs: [{ card: { 'mic-gain': 300 } }] }, /can't be 300/],
    ['a meter beyond its end', { overs: [{ card: {}, meters: { alc: 40 } }] }, /alc/],
    ['a mode the rig lacks', { mode: 'fm', rig: { ...rigFile('fulmar-8'), modes: ['usb'] } }, /fm|mode/],
  ])('%s is refused', (_, change, words) => expect(() => parseHistory({ ...file, ...change })).toThrow(words));
});

describe('the closed loop on a simulated station', () => {
  it('brings a station that is far too loud into its zone, without a dangerous move, and says so itself', async () => {
    const RATE = 16_000;
    const voices = await Promise.all([3, 4, 5].map((seed) => sourceOf(RATE, [voiceLike(RATE, 6, { seed })])));
    const school = { alcZone: [0.25, 0.5] as const, compression: 'none' as const };
    const station = parseStation({ rig: rigFile('fulmar-8'), mode: 'usb', card: { 'mic-gain': 85 }, seed: 3 });
    const gain = (await voiceGain(voices[0])) ?? 0;
    const options = { purpose: 'balanced' as const, school, overs: 8, tap: 'second' as const, hasIq: false, voiceGainDb: gain };
    const loop = await closedLoop(simulatedRadio(station, voices, options), options);
    const last = loop[loop.length - 1];
    const dial = dialInRole(rig, 'mic-gain', 'usb');
    expect(loop[0].answer.set.find((each) => each.dial.id === dial?.id)?.to).toBeLessThan(85);
    expect((await trueState(station, last.card, voices, options)).isAlcInZone).toBe(true);
    expect(['done', 'move', 'measure']).toContain(last.answer.status);
    expect(loop.length).toBeLessThanOrEqual(8);
  }, 120_000);
});
