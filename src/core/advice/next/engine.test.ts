import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { sourceOf, voiceLike } from '../../../../tests/support/signals.ts';
import { type CurvePoint, curveAt } from '../../curve/index.ts';
import { seededRandom, VOICE_TWELFTH_OCTAVES } from '../../dsp/index.ts';
import { readReport } from '../../language/index.ts';
import type { SsbMeasurement, VoiceDetail, VoiceMeasurement } from '../../measure/index.ts';
import { type Card, type DialValues, dialInRole, factoryCard, parseRig, responseOf } from '../../rig/index.ts';
import { parseStation, voiceGain } from '../../simulate/index.ts';
import { dbToPower, powerToDb } from '../../units/index.ts';
import { defaultTarget } from '../targets.ts';
import { nextChannelCameText } from './cameText.ts';
import { closedLoop, simulatedRadio, trueState } from './closedLoop.ts';
import { compressionStanding } from './compression.ts';
import { nextAnswer } from './engine.ts';
import { deadUpTo, equalizerBelief } from './equalizerBelief.ts';
import { expectedGot } from './expectedGot.ts';
import { parseHistory } from './historyFile.ts';
import { heldAt, oneSided } from './level.ts';
import type { CompressionWish } from './schools.ts';
import type { NextInput, SeenOver, SeenVoice } from './seen.ts';

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

/** A voice without any colour, well over its noise. */
const flatVoice = (): SeenOver['voices'] => [
  {
    tap: 'second',
    result: { kind: 'voice', snrDb: 40, findings: [] } as unknown as VoiceMeasurement,
    detail: {
      speechPowers: VOICE_TWELFTH_OCTAVES.map(() => dbToPower(-30)),
      pausePowers: VOICE_TWELFTH_OCTAVES.map(() => dbToPower(-80)),
    } as unknown as VoiceDetail,
  },
];

/** One that no equalizer brings nearer to what is wanted. */
const onTarget = (): SeenOver['voices'] => {
  const [voice] = flatVoice();
  const powers = VOICE_TWELFTH_OCTAVES.map(({ centreHz }) => dbToPower(-30 + curveAt(defaultTarget('balanced'), centreHz)));
  return [{ ...voice, detail: { ...voice.detail, speechPowers: powers } }];
};

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

  it('less gain: what the next channel should be then, and afterwards whether it came true', () => {
    const dirty = over({ alc: 0.6, radios: [radio([], -30)] }, { 'mic-gain': 50 });
    const { set, expected } = nextAnswer(ask(dirty));
    const [low, likely, high] = expected.adjacentDb ?? [0, 0, 0];
    expect(low).toBeLessThan(likely);
    expect(likely).toBeLessThan(high);
    expect(high).toBeLessThan(-30);
    // Third order: 3 dB for each dB less, and enough of them to be clean.
    const steps = 50 - Number(set[0].to);
    expect(likely).toBeCloseTo(-30 - 3 * steps * 0.38, 0);
    expect(likely).toBeLessThanOrEqual(-36);
    const after = (adjacent: number) => {
      const input = ask(dirty, over({ alc: 0.4, radios: [radio([], adjacent)] }, { 'mic-gain': set[0].to }));
      return expectedGot(input, { toneErrorDb: null })?.adjacentDb;
    };
    expect(after(Math.round(likely))).toMatchObject({ isInside: true });
    const not = after(-29);
    expect(not && nextChannelCameText(not)).toMatch(
      /^Next channel: expected about −\d+ dB \(−\d+ to −\d+\), got −29 dB, which was not expected\.$/,
    );
    // Of a clean one nothing is foreseen: the ALC holds the drive while it acts.
    expect(nextAnswer(ask(over({ alc: 0.9, radios: [radio([], -45)] }, { 'mic-gain': 50 }))).expected.adjacentDb).toBeNull();
  });

  it('noise that stays is no reason to ask for ever: what stands over it tells, and where nothing does that is said', () => {
    const noisy = (snrDb: number, alc = 0.4): SeenOver => {
      const [voice] = flatVoice();
      const findings = [{ code: 'room-noise', severity: 'fault', text: 'Noise between the words is loud.', evidence: '' }];
      const detail = { ...voice.detail, pausePowers: VOICE_TWELFTH_OCTAVES.map(() => dbToPower(-30 - snrDb)) };
      return over({ alc, voices: [{ ...voice, detail, result: { ...voice.result, snrDb, findings } as unknown as VoiceMeasurement }] });
    };
    const first = nextAnswer(ask(noisy(8.5)));
    expect(first).toMatchObject({ status: 'measure', set: [] });
    expect(first.why).toMatch(/^The tone can’t be judged: Noise between the words is loud\. Talk/);
    expect(nextAnswer(ask(noisy(8.5), noisy(8.5))).reasons.tone).toBeDefined();
    // What else spoils it still does.
    const [voice] = noisy(8.5).voices;
    const findings = [...voice.result.findings, { code: 'clipping', severity: 'fault', text: 'Tops are cut off.', evidence: '' }];
    const clipped = over({ voices: [{ ...voice, result: { ...voice.result, findings } as unknown as VoiceMeasurement }] });
    expect(nextAnswer(ask(noisy(8.5), clipped))).toMatchObject({ status: 'measure', set: [] });
    // Hardly above it: asked for twice, and then it ends.
    const drowned = [3, 3, 3].map((snr) => noisy(snr));
    expect(nextAnswer(ask(...drowned.slice(1))).status).toBe('measure');
    expect(nextAnswer(ask(...drowned))).toMatchObject({ status: 'stop', set: [] });
    // One noisy over among clean ones counts for nothing.
    const clean = over({ voices: flatVoice() });
    expect(nextAnswer(ask(clean, noisy(8.5))).why).toMatch(/can’t be judged/);
  });

  it('at the end of the scale of a school that goes up to it, less gain says what is not known', () => {
    const end = [1, 1, 1].map((alc) => over({ alc }, { 'mic-gain': 90 }));
    const answer = nextAnswer({ ...ask(...end), school: { alcZone: [0.85, 1], compression: 'none' } });
    expect(Number(answer.set.find(({ dial }) => dial.id === 'mic-gain')?.to)).toBeLessThan(90);
    expect(answer.why).toMatch(/^The ALC stood at the end of its scale, which does not tell how far beyond it the level is/);
  });

  it('a dirty next channel without a finding is overdrive too; one that only the noise fills is not', () => {
    expect(nextAnswer(ask(over({ radios: [radio([], -30)] }))).goal.drive).toBe('high');
    const bounded = { ...radio([], -30), notes: { 'adjacentDb.wantedSide': 'noise', 'adjacentDb.otherSide': 'noise' } } as SsbMeasurement;
    expect(nextAnswer(ask(over({ radios: [bounded] }))).goal.drive).toBe('ok');
  });

  it('a fault whose products fall elsewhere is told with the "done"; at a step of a run it comes first', () => {
    const overs = [0.4, 0.4, 0.4, 0.4].map((alc) =>
      over({ alc, voices: flatVoice(), radios: [radio(['overdrive'], -50)] }, { 'mic-gain': 50 }),
    );
    const step = nextAnswer({ ...ask(...overs), scope: [] });
    expect(step).toMatchObject({ status: 'move', goal: { drive: 'ok', alc: 'ok' } });
    expect(step.set.map(({ dial }) => dial.id)).toEqual(['mic-gain']);
    expect(Number(step.set[0].to)).toBeLessThan(50);
    const sound = overs.map((each) => ({ ...each, radios: [radio([], -50)] }));
    expect(nextAnswer({ ...ask(...sound), scope: [] })).toMatchObject({ status: 'done', set: [] });
  });

  it('a next channel that is clean only below the zone: the gain stays there, which is said, not asked for again', () => {
    const at = (gain: number, alc: number, adjacent: number) =>
      over({ alc, voices: flatVoice(), radios: [radio([], adjacent)] }, { 'mic-gain': gain });
    const overs = [at(50, 0.4, -33), at(45, 0.2, -35), at(40, 0.1, -38), at(40, 0.1, -38)];
    const answer = nextAnswer({ ...ask(...overs), scope: [] });
    expect(answer).toMatchObject({ status: 'stop', set: [], goal: { alc: 'low', drive: 'ok' } });
    expect(answer.why).toContain('clean only with the ALC below the zone');
  });

  it('level: down above the zone, up below it', () => {
    const gain = (alc: number) => Number(set(ask(over({ alc }, { 'mic-gain': 50 })))['mic-gain'] ?? 50);
    expect(gain(0.9)).toBeLessThan(50);
    expect(gain(0.05)).toBeGreaterThan(50);
    expect(gain(0.4)).toBe(50);
  });

  it('where depth or deviation is the level, the ALC turns nothing, and the gain makes up for the equalizer alone', () => {
    for (const alc of [0, 0.4, 1]) {
      for (const scope of [[], ['tone']] as const) {
        const { status, set } = nextAnswer({ ...ask(over({ alc, voices: onTarget() }, { 'mic-gain': 50 })), scope, hasOwnLevel: true });
        const isHeard = alc < 0.95 || scope.length === 0;
        expect([alc, scope, status, set]).toEqual([alc, scope, isHeard ? 'done' : 'measure', []]);
      }
    }
    const muffled = () => {
      const [voice] = flatVoice();
      const powers = VOICE_TWELFTH_OCTAVES.map(({ centreHz }) => dbToPower(-30 - 8 * Math.log2(centreHz / 100)));
      return [{ ...voice, detail: { ...voice.detail, speechPowers: powers } }];
    };
    const toned = (alc: number) =>
      nextAnswer({ ...ask(over({ alc, voices: muffled() }, { 'mic-gain': 50 })), scope: ['tone'], hasOwnLevel: true });
    // Whatever the ALC read, the same turn.
    expect(toned(0.05).set).toEqual(toned(0.9).set);
    const moved = toned(0.4).set;
    expect(moved.length).toBeGreaterThan(1);
    expect(toned(0.4).expected).toMatchObject({ alc: null });
    const gain = moved.find(({ dial }) => dial.role === 'mic-gain');
    // On FM nobody has to say so.
    const handheld = parseRig(rigFile('dunlin-fm'));
    const onFm = { card: { ...factoryCard(handheld, 'fm'), use: null }, alc: 1, voices: flatVoice() };
    const fm: NextInput = { ...ask(over(onFm)), rig: handheld, mode: 'fm' };
    expect(nextAnswer(fm)).toMatchObject({ status: 'measure', set: [] });
    expect(nextAnswer({ ...fm, overs: [over({ ...onFm, alc: 0.9 })] })).toMatchObject({ status: 'done', set: [] });
    // The lows are cut, and with them level: the gain goes up.
    expect(Number(gain?.to)).toBeGreaterThan(50);
  });

  it('a little more of tone is worth a turn while the level is still read, and not where nothing is read', () => {
    const [voice] = onTarget();
    const bump = VOICE_TWELFTH_OCTAVES.map(({ centreHz }) => 3.8 * Math.exp(-((Math.log2(centreHz / 1600) / 0.7) ** 2)));
    const speechPowers = voice.detail.speechPowers.map((power, i) => (power ?? 0) * dbToPower(bump[i]));
    const asking = ask(over({ voices: [{ ...voice, detail: { ...voice.detail, speechPowers } }] }));
    const answer = nextAnswer(asking);
    expect(answer.reasons.tone).toMatch(/about 0\.[23] dB nearer/);
    // Where deviation is the level there is nothing to read.
    expect(nextAnswer({ ...asking, hasOwnLevel: true }).reasons.tone).toBeUndefined();
  });

  it('a turn for the tone says what each band should be then', () => {
    const [voice] = flatVoice();
    const falling = VOICE_TWELFTH_OCTAVES.map(({ centreHz }) => -30 - 6 * Math.log2(centreHz / 100));
    const asking = ask(over({ voices: [{ ...voice, detail: { ...voice.detail, speechPowers: falling.map(dbToPower) } }] }));
    const { set, expected } = nextAnswer(asking);
    const bands = expected.bandsDb ?? [];
    expect(bands.length).toBeGreaterThan(8);
    expect(Math.max(...bands.map(([, db]) => db))).toBe(0);
    // What the dials do to that voice, by their own responses.
    const responseOn = (values: DialValues) => responseOf(rig, { ...card(), values: { ...card().values, ...values } });
    const [before, after] = [responseOn({}), responseOn(Object.fromEntries(set.map(({ dial, to }) => [dial.id, to])))];
    const heard = bands.map(([hz, db]) => {
      const at = VOICE_TWELFTH_OCTAVES.map(({ centreHz }, i) => [Math.abs(Math.log2(centreHz / hz)), i] as const).filter(
        ([d]) => d < 1 / 6,
      );
      return 10 * Math.log10(at.reduce((sum, [, i]) => sum + dbToPower(falling[i] + after[i] - before[i]), 0)) - db;
    });
    const middle = heard.reduce((sum, db) => sum + db, 0) / heard.length;
    const off = Math.sqrt(heard.reduce((sum, db) => sum + (db - middle) ** 2, 0) / heard.length);
    expect(off).toBeLessThan(1.5);
    // Flatter than it was.
    const tilt = bands[0][1] - bands[bands.length - 1][1];
    expect(tilt).toBeLessThan(6 * Math.log2(bands[bands.length - 1][0] / bands[0][0]));
  });

  it('a long history is no patience spent: the first reading after a move counts as one, and outside the zone it is read again', () => {
    const early = Array.from({ length: 25 }, (_, k) => over({ alc: k % 8 === 7 ? 0.05 : 0, voices: flatVoice() }, { 'mic-gain': 45 }));
    const now = (...alc: number[]) => alc.map((each) => over({ alc: each, voices: flatVoice() }, { 'mic-gain': 60 }));
    const first = nextAnswer({ ...ask(...early, ...now(0.25)), scope: [] });
    expect(first).toMatchObject({ status: 'measure', set: [] });
    expect(first.why).toContain('read the ALC once more');
    const again = nextAnswer({ ...ask(...early, ...now(0.25, 0.2)), scope: [] });
    expect(again.status).not.toBe('done');
    expect(nextAnswer({ ...ask(...early, ...now(0.4, 0.35, 0.4)), scope: [] })).toMatchObject({ status: 'done', goal: { alc: 'ok' } });
  });

  it('a newest reading at the edge of the zone is enough where all readings together say so, and beyond it is not', () => {
    const at = (gain: number, ...alc: number[]) => alc.map((each) => over({ alc: each, voices: flatVoice() }, { 'mic-gain': gain }));
    const asked = (newest: number) => nextAnswer({ ...ask(...at(45, 0.2, 0.2, 0.2), ...at(50, newest)), scope: [] });
    expect(asked(0.3).status).toBe('done');
    expect(asked(0.2).status).not.toBe('done');
    expect(nextAnswer({ ...ask(...at(50, 0.4, 0.4, 0.4, 0.4)), scope: [] }).status).toBe('done');
    expect(nextAnswer({ ...ask(...at(50, 0.4)), scope: [] })).toMatchObject({ status: 'measure', set: [] });
  });

  it('after three overs a level that is nine tenths likely is read once more, with nothing turned; after four it is done', () => {
    const read = (...alc: number[]) => nextAnswer({ ...ask(...alc.map((each) => over({ alc: each, voices: flatVoice() }))), scope: [] });
    for (const alc of [
      [0.4, 0.4, 0.3],
      [0.3, 0.4, 0.35],
    ])
      expect(read(...alc)).toMatchObject({ status: 'measure', set: [] });
    expect(read(0.35, 0.4, 0.35).status).toBe('done');
    expect(read(0.4, 0.4, 0.3, 0.4).status).toBe('done');
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
  const beliefOf = (share: number) => {
    const overs = pair(share).map((each) => ({ over: each, voice: each.voices[0], isDead: false, weight: 1 }));
    return { ...equalizerBelief(rig, overs), dead: deadUpTo(rig, overs) };
  };
  it.each([0.75, 1, 1.15])('%s dB for a decibel on the dial', (click) => {
    const { clickDb, dead } = beliefOf(click);
    // Sixteen decibels apart on two sliders: the scatter of talk leaves a fifth in doubt.
    expect(clickDb[0]).toBeLessThanOrEqual(click);
    expect(clickDb[2]).toBeGreaterThanOrEqual(click);
    expect(clickDb[0]).toBeLessThanOrEqual(clickDb[1]);
    expect(dead.now).toBeLessThan(0.1);
  });
  it('one turn of two sliders that nobody hears is enough to name them, and one that is heard by less than half is not', () => {
    const named = (share: number) => nextAnswer(ask(...pair(share))).learned.deadDials;
    expect(named(0)).toEqual(['Slider 200 Hz', 'Slider 2400 Hz']);
    expect(named(0.4)).toEqual([]);
  });
  it('a dead equalizer is named, and nothing more is turned', () => {
    const [before, after] = pair(0);
    const wide = { 'eq-100': -12, 'eq-200': -12, 'eq-400': -8, 'eq-1600': 6, 'eq-2400': 8, 'eq-3200': 8 };
    const sure = nextAnswer(ask(before, { ...after, card: { ...card(wide), use: null } }));
    expect(sure.status).toBe('stop');
    expect(sure.learned.deadDials).toContain('Slider 200 Hz');
    // Once it has been mended, what was heard before counts as flat, and the run goes on.
    const response = responseOf(rig, card(wide));
    const heard = after.voices.map((voice) => ({
      ...voice,
      detail: { ...voice.detail, speechPowers: response.map((db) => dbToPower(-30 + db)) },
    }));
    const mended = { ...after, card: { ...card(wide), use: null } };
    const later = nextAnswer(ask(before, mended, { ...mended, voices: heard }, { ...mended, voices: heard }));
    expect(later.status).not.toBe('stop');
  });
  it('before all is called done the operator looks at it where there is the least doubt, once', () => {
    const [before, after] = pair(0.25);
    // As near to the target as it can be, and the level is sure.
    const soundOf = ({ voices: [{ detail }] }: SeenOver) =>
      VOICE_TWELFTH_OCTAVES.map(({ centreHz }, i): CurvePoint => [centreHz, powerToDb(detail.speechPowers[i] ?? 0)]);
    const levels = [before, before, before].map((each) => ({ ...each, voices: [] }));
    const asked = (...overs: SeenOver[]) => nextAnswer({ ...ask(...levels, before, ...overs), target: soundOf(overs[0]) });
    const doubted = asked(after);
    expect(doubted).toMatchObject({ status: 'measure', set: [] });
    expect(doubted.why).toMatch(/look at its switch and bank on the radio \(Slider 200 Hz, Slider 2400 Hz\)/);
    expect(doubted.learned.deadDials).toEqual(['Slider 200 Hz', 'Slider 2400 Hz']);
    expect(doubted.learned.deadChance).toBeGreaterThan(0.03);
    expect(doubted.learned.deadChance).toBeLessThan(0.2);
    expect(asked(after, after).status).toBe('done');
    // Where all of the change was heard nobody looks.
    const [, all] = pair(1);
    const heard = asked(all);
    expect(heard.learned.deadChance).toBeLessThan(0.03);
    expect(heard.learned.deadDials).toEqual([]);
    expect(heard.why).not.toMatch(/switch/);
  });
  it('without a change nothing is told: the click is as it was believed before', () => {
    const [before] = pair(1);
    const overs = [before, before].map((each) => ({ over: each, voice: each.voices[0], isDead: false, weight: 1 }));
    expect(equalizerBelief(rig, overs).clickDb).toEqual(equalizerBelief(rig, []).clickDb);
    expect(deadUpTo(rig, overs).now).toBeLessThan(0.2);
  });
});

describe('a voice that scatters little', () => {
  const tern = parseRig(rigFile('tern-100'));
  /** Overs in which ever more of the lows was cut, and so much of it came through. */
  const overs = (share: number) =>
    [0, -6, -10, -14, -17].map((level, k) => {
      const values = { ...factoryCard(tern, 'usb').values, 'mic-eq': 'on', 'n-low-centre': 350, 'n-low-level': level, 'n-low-width': 3 };
      const cut: Card = { mode: 'usb', values };
      const random = seededRandom(k + 1);
      const response = responseOf(tern, cut);
      const thirds = Array.from({ length: VOICE_TWELFTH_OCTAVES.length }, () => 1.6 * (random() - 0.5));
      const detail = {
        speechPowers: VOICE_TWELFTH_OCTAVES.map((_, i) => dbToPower(-30 + share * response[i] + thirds[i - (i % 4)])),
        pausePowers: VOICE_TWELFTH_OCTAVES.map(() => dbToPower(-90)),
      };
      return { over: over({ card: { ...cut, use: null } }), voice: { tap: 'second', detail } as unknown as SeenVoice, weight: 1 };
    });

  it('a wide cut that nobody hears is no little tilt: the equalizer is not in the path', () => {
    expect(deadUpTo(tern, overs(0)).now).toBeGreaterThan(0.7);
    expect(deadUpTo(tern, overs(1)).now).toBeLessThan(0.02);
    // What a dial does less than it says is no dead equalizer.
    expect(deadUpTo(tern, overs(0.7)).now).toBeLessThan(0.05);
  });
});

describe('what a width number means', () => {
  const tern = parseRig(rigFile('tern-100'));
  const cards = [
    {},
    { 'n-low-centre': 400, 'n-low-level': 12, 'n-low-width': 6, 'n-high-centre': 2000, 'n-high-level': 10, 'n-high-width': 6 },
  ].map((values): Card => ({ mode: 'usb', values: { ...factoryCard(tern, 'usb').values, 'mic-eq': 'on', ...values } as DialValues }));
  it.each(['octaves', 'q'] as const)('%s is found from two overs, whatever the profile says', (meaning) => {
    const real = { ...tern, equalizer: { ...tern.equalizer, width: { meaning } } } as typeof tern;
    const overs = cards.map((each) => {
      const response = responseOf(real, each);
      const voice = {
        tap: 'second',
        detail: {
          speechPowers: VOICE_TWELFTH_OCTAVES.map((_, i) => dbToPower(-30 + response[i])),
          pausePowers: VOICE_TWELFTH_OCTAVES.map(() => dbToPower(-90)),
        },
      } as unknown as SeenOver['voices'][number];
      return { over: over({ card: { ...each, use: null } }), voice, isDead: false, weight: 1 };
    });
    const { octaves, likely } = equalizerBelief(tern, overs);
    if (meaning === 'octaves') expect(octaves).toBeGreaterThan(0.9);
    else expect(octaves).toBeLessThan(0.1);
    expect(likely[0].rig.equalizer).toMatchObject({ width: { meaning } });
  });

  it.each(['octaves', 'q'] as const)('%s is found from two sweeps that no voice goes with', (meaning) => {
    const real = { ...tern, equalizer: { ...tern.equalizer, width: { meaning } } } as typeof tern;
    const ripple = (hz: number) => 2 * Math.sin(Math.log2(hz / 700));
    const sweeps = cards.map((each) => {
      const response = responseOf(real, each);
      return {
        card: each,
        curve: VOICE_TWELFTH_OCTAVES.map(({ centreHz }, i): [number, number] => [centreHz, response[i] + ripple(centreHz)]),
      };
    });
    const { octaves } = equalizerBelief(tern, [], sweeps);
    if (meaning === 'octaves') expect(octaves).toBeGreaterThan(0.95);
    else expect(octaves).toBeLessThan(0.05);
    expect(equalizerBelief(tern, [], sweeps.slice(1)).octaves).toBeCloseTo(equalizerBelief(tern, []).octaves ?? 0, 6);
  });
});

describe('a level that something holds', () => {
  const at = (gain: number, alc: number) => over({ alc }, { 'mic-gain': gain });
  it('is told from readings that do not grow, and no more gain is asked for', () => {
    const overs = [at(40, 0.2), at(48, 0.25), at(56, 0.2), at(64, 0.25)];
    expect(heldAt(rig, overs, [])).toBeCloseTo(0.225);
    const answer = nextAnswer({ ...ask(...overs), scope: [] });
    expect(answer).toMatchObject({ status: 'stop', set: [], goal: { alc: 'low' } });
    expect(answer.why).toContain('holds the level');
  });
  it('not from readings that grow, nor from few or near ones, nor across the ends of the scale', () => {
    expect(heldAt(rig, [at(40, 0.2), at(44, 0.35), at(48, 0.5), at(52, 0.7)], [])).toBeNull();
    expect(heldAt(rig, [at(40, 0.3), at(64, 0.3)], [])).toBeNull();
    expect(heldAt(rig, [at(40, 0.3), at(41, 0.35), at(42, 0.3), at(41, 0.3)], [])).toBeNull();
    // It went down a little with the gain after all: where it stands now counts.
    expect(heldAt(rig, [at(64, 0.6), at(56, 0.6), at(48, 0.55), at(40, 0.5), at(40, 0.5)], [])).toBeCloseTo(0.5);
    // Held once, and then not: the newest one tells.
    expect(heldAt(rig, [at(40, 0.2), at(48, 0.25), at(56, 0.2), at(64, 0.25), at(52, 0.6)], [])).toBeNull();
    expect(heldAt(rig, [at(40, 0), at(48, 0), at(56, 0), at(64, 0)], [])).toBeNull();
  });
});

describe('readings that contradict what others say of the card', () => {
  const read = (...alc: number[]) => alc.map((each) => over({ alc: each }));
  it('three in a row on one side of the zone are outside it', () => {
    expect(oneSided(read(0.4, 0.6, 0.55, 0.6), [0.3, 0.5])).toBe('high');
    expect(oneSided(read(0.4, 0.2, 0.25, 0.2), [0.3, 0.5])).toBe('low');
    expect(oneSided(read(0.55, 0.6), [0.3, 0.5])).toBeNull();
    expect(oneSided(read(0.6, 0.5, 0.6), [0.3, 0.5])).toBeNull();
    expect(oneSided(read(0.2, 0.6, 0.6), [0.3, 0.5])).toBeNull();
    expect(oneSided(read(0, 0, 0.2), [0.3, 0.5])).toBeNull();
  });
  it('then the others count no longer: the gain goes down, and nothing is done', () => {
    const at = (alc: number, level: number) => over({ alc, voices: flatVoice() }, { 'mic-gain': 44, 'eq-1000': level });
    const before = [0.3, 0.35, 0.3, 0.35].map((alc) => at(alc, 0));
    const answer = nextAnswer({ ...ask(...before, ...[0.55, 0.55, 0.6].map((alc) => at(alc, 2))), scope: [] });
    expect(answer).toMatchObject({ status: 'move', goal: { alc: 'high' } });
    expect(Number(answer.set[0].to)).toBeLessThan(44);
  });
  it('a newest reading outside the zone is looked at again before anything is done', () => {
    const read = (...alc: number[]) => nextAnswer({ ...ask(...alc.map((each) => over({ alc: each }, { 'mic-gain': 45 }))), scope: [] });
    expect(read(0.4, 0.45, 0.4, 0.45, 0.4)).toMatchObject({ status: 'done' });
    expect(read(0.5, 0.5, 0.4, 0.5, 0.45, 0.55)).toMatchObject({ status: 'measure', set: [] });
  });
  it('the ALC at the end of its scale with the gain at the foot of its dial: said at once, since another over tells nothing', () => {
    const loud = ask(over({ alc: 1, voices: flatVoice() }, { 'mic-gain': 0 }));
    // Sliders give what the gain has not.
    expect(nextAnswer(loud).why).toBe('The mic gain has no room left: all sliders alike, which is level and not tone.');
    const answer = nextAnswer({ ...loud, scope: [] });
    expect(answer).toMatchObject({ status: 'stop', set: [], goal: { alc: 'high' } });
    expect(answer.why).toContain('at the lower end of its dial');
    // With room below it goes there.
    expect(nextAnswer(ask(over({ alc: 1, voices: flatVoice() }, { 'mic-gain': 30 })))).toMatchObject({ status: 'move' });
  });
  it('a gain of coarse steps is made finer by bass and treble, once the card was looked at twice and the tone bears it', () => {
    const knot = parseRig(rigFile('knot-5'));
    const at = (alc: number, gain: number): SeenOver => {
      const values = { ...factoryCard(knot, 'usb').values, 'mic-gain': gain };
      return { ...over({ alc, voices: onTarget() }), card: { mode: 'usb', values, use: null } };
    };
    const asked = (...overs: SeenOver[]) =>
      nextAnswer({ ...ask(...overs), rig: knot, school: { alcZone: [0.5, 0.67], compression: 'none' } });
    const before = [at(0.45, 5), at(0.4, 5), at(0.75, 6)];
    expect(asked(...before).set.some(({ dial: { stage } }) => stage === 'equalizer')).toBe(false);
    const answer = asked(...before, at(0.7, 6), at(0.75, 6));
    expect(answer.why).toContain('too coarse for the zone: bass and treble');
    expect(answer.set.every(({ dial: { id } }) => ['mic-gain', 'bass', 'treble'].includes(id))).toBe(true);
    expect(answer.expected.alc?.[1]).toBeGreaterThan(0.5);
    expect(answer.expected.alc?.[1]).toBeLessThan(0.67);
  });
  it('a dial too coarse for the zone: said, with what an operator can do, and not asked for again', () => {
    const knot = parseRig(rigFile('knot-5'));
    const overs = [5, 6, 5, 6, 5, 5, 5].map(
      (gain, k): SeenOver => ({
        ...over({ alc: gain === 6 ? 0.65 : [0.2, 0.15][k % 2] }),
        card: { mode: 'usb', values: { ...factoryCard(knot, 'usb').values, 'mic-gain': gain }, use: null },
      }),
    );
    const answer = nextAnswer({ ...ask(...overs), rig: knot, scope: [] });
    expect(answer).toMatchObject({ status: 'stop', set: [], goal: { alc: 'low' } });
    expect(answer.why).toContain('too coarse');
    expect(answer.why).toContain('nearer to the microphone');
  });
});

describe('evidence beside the voice', () => {
  const report = (text: string) => ({ station: text, path: 'local' as const, remarks: readReport(text).remarks });
  const tests = (kind: string, rest: object) => [{ kind, ...rest }] as unknown as NonNullable<SeenOver['tests']>;
  it('two tones that bend ask for less gain where no I/Q of talk was recorded', () => {
    const bent = tests('two-tone', { findings: [{ code: 'overdrive', severity: 'fault', text: 'It bends.', evidence: '' }] });
    const answer = nextAnswer(ask(over({ tests: bent }, { 'mic-gain': 50 })));
    expect(answer.goal.drive).toBe('high');
    expect(answer.why).toContain('It bends.');
    expect(nextAnswer(ask(over({ tests: bent, radios: [radio([], -50)] }))).goal.drive).toBe('ok');
  });
  it('a sweep tells the filter’s edges, for its own passband only', () => {
    const sweep = tests('response', { curve: [], passbandHz: [320, 2650], findings: [] });
    expect(nextAnswer(ask(over({ tests: sweep }), over())).learned.filterEdgesHz).toEqual([320, 2650]);
    expect(nextAnswer(ask(over())).learned.filterEdgesHz).toBeNull();
  });
  it('other stations’ words stand beside a recording, which comes first', () => {
    const voices = flatVoice();
    const muffled = ['muffled', 'sounds muffled here'].map(report);
    const answer = nextAnswer(ask(over({ voices, reports: muffled })));
    expect(answer.runnersUp.join(' ')).toMatch(/^.*Other stations: .*[Mm]uffled/);
    expect(nextAnswer(ask(over({ voices, reports: [report('good audio')] }))).runnersUp.join(' ')).not.toContain('Other stations');
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

describe('a radio whose carrier offset is its passband', () => {
  it.each([400, 500])(
    'left at %i Hz, is brought to where the tone dials have something to work on',
    async (offset) => {
      const RATE = 16_000;
      const voices = await Promise.all([3, 4, 5].map((seed) => sourceOf(RATE, [voiceLike(RATE, 6, { seed })])));
      const school = { alcZone: [0.4, 0.7] as const, compression: 'none' as const };
      const knot = { rig: rigFile('knot-5'), mode: 'usb', card: { 'carrier-offset': offset }, seed: 4 };
      const station = parseStation(knot);
      const gain = (await voiceGain(voices[0])) ?? 0;
      const options = { purpose: 'balanced' as const, school, overs: 12, tap: 'second' as const, hasIq: false, voiceGainDb: gain };
      const loop = await closedLoop(simulatedRadio(station, voices, options), options);
      const last = Number(loop[loop.length - 1].card.values['carrier-offset']);
      expect(Math.abs(last)).toBeLessThan(350);
      expect(loop[0].answer.status).not.toBe('done');
      expect(loop[loop.length - 1].answer.goal.toneErrorDb).toBeLessThan(4);
    },
    240_000,
  );
});
