import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { curveAt } from '../../curve/index.ts';
import { seededRandom, VOICE_TWELFTH_OCTAVES } from '../../dsp/index.ts';
import type { VoiceDetail, VoiceMeasurement } from '../../measure/index.ts';
import { type DialValues, factoryCard, parseRig, responseOf } from '../../rig/index.ts';
import { type Decibels, dbToPower, type Hertz } from '../../units/index.ts';
import { fitEqualizer } from '../fitEqualizer.ts';
import { defaultTarget } from '../targets.ts';
import { usualErrorDb } from '../toneError.ts';
import { nextAnswer } from './engine.ts';
import type { NextInput, SeenOver } from './seen.ts';
import { beliefOf, toneStanding } from './tone.ts';

const tern = parseRig(JSON.parse(readFileSync('demo/rigs/tern-100.json', 'utf8')));
const fulmar = parseRig(JSON.parse(readFileSync('demo/rigs/fulmar-8.json', 'utf8')));
type Shape = (hz: Hertz) => Decibels;
const boomy: Shape = (hz) => -4 * Math.log2(Math.max(hz, 250) / 250);

/** An over of a voice of that shape, through its card. */
function over(rig: typeof tern, shape: Shape, alc: number, set: DialValues): SeenOver {
  const values = { ...factoryCard(rig, 'usb').values, 'mic-eq': 'on', 'tx-eq': 'on', ...set };
  const response = responseOf(rig, { mode: 'usb', values });
  const speechPowers = VOICE_TWELFTH_OCTAVES.map(({ centreHz }, i) => dbToPower(-30 + shape(centreHz) + response[i]));
  const detail = { speechPowers, pausePowers: speechPowers.map((power) => power / 1e5) } as unknown as VoiceDetail;
  return {
    card: { mode: 'usb', values, use: null },
    alc,
    compressionDb: null,
    swr: 1.2,
    voices: [{ tap: 'second', result: { kind: 'voice', snrDb: 40, findings: [] } as unknown as VoiceMeasurement, detail }],
    radios: [],
  };
}
const ask = (rig: typeof tern, overs: SeenOver[]): NextInput => ({
  rig,
  mode: 'usb',
  purpose: 'balanced',
  school: { alcZone: [0.3, 0.5], compression: 'none' },
  overs,
});

describe('the best tone that a radio can reach', () => {
  const random = seededRandom(7);
  it.each([
    ['sliders', fulmar, 0.1],
    ['parametric bands', tern, 0.2],
  ] as const)('%s: whatever it costs in turns, boosts and level', (_, rig, most) => {
    for (let k = 0; k < 2; k++) {
      const [slope, hump, at] = [6 * random() - 6, 14 * random() - 7, 400 * 5 ** random()];
      const heard = over(rig, (hz) => slope * Math.log2(hz / 1000) + hump * Math.exp(-((2 * Math.log2(hz / at)) ** 2)), 0.4, {});
      const told = nextAnswer(ask(rig, [heard])).goal.bestToneErrorDb ?? 99;
      const card = { mode: 'usb' as const, values: heard.card.values };
      const costs = { move: 0, lift: 0, boost: 0, cut: 0, crowding: 0, level: 0 };
      const free = fitEqualizer({ rig, card, voice: heard.voices[0].detail, target: defaultTarget('balanced'), costs, worthDb: 0 });
      expect(told).toBeLessThan(usualErrorDb(free.basis, free.best.changeDb) + most);
    }
  });
});

describe('what a turn of the tone promises', () => {
  it('less than the dials do to the voice as it was heard: what is in doubt cannot be won, and is less after four overs', () => {
    const heard = over(fulmar, (hz) => 2 * boomy(hz), 0.4, {});
    const lost = [1, 4].map((count) => {
      const input = ask(
        fulmar,
        Array.from({ length: count }, () => heard),
      );
      const comparable = input.overs.map((each) => ({ over: each, voice: each.voices[0], weight: 1, isDead: false }));
      const card = { mode: 'usb' as const, values: heard.card.values };
      const tone = toneStanding(input, comparable, beliefOf(input, comparable), card);
      return tone ? tone.errorWith(card.values) - tone.errorWith(tone.values) - tone.gainDb : 0;
    });
    expect(lost[0]).toBeGreaterThan(0.3);
    expect(lost[1]).toBeLessThan(lost[0] / 1.5);
    expect(lost[1]).toBeGreaterThan(0.02);
  });

  it('once the level is sure a turn that wins less than 0.3 dB is not made, and the run is done', () => {
    const bump =
      (db: Decibels): Shape =>
      (hz) =>
        db * Math.exp(-((Math.log2(hz / 800) / 0.5) ** 2));
    const target = defaultTarget('balanced');
    const answer = (db: Decibels) => {
      const shape: Shape = (hz) => curveAt(target, hz) + bump(db)(hz);
      const heard = over(fulmar, shape, 0.4, {});
      return nextAnswer(
        ask(
          fulmar,
          Array.from({ length: 5 }, () => heard),
        ),
      );
    };
    expect(answer(0.8)).toMatchObject({ status: 'done', set: [] });
    expect(answer(4).reasons.tone).toBeDefined();
  });
});

describe('a tone and a mic gain at its end', () => {
  it('the level is right and the gain has no room left: no tone that takes the level away', () => {
    const heard = over(tern, boomy, 0.4, { 'mic-gain': 100 });
    const answer = nextAnswer(ask(tern, [heard, heard, heard]));
    expect(answer.set.some(({ dial: { stage } }) => stage === 'equalizer')).toBe(true);
    expect(answer.expected.alc?.[1]).toBeGreaterThan(0.3);
    // With room it is another, which takes more away, and the gain makes up for it.
    const roomy = over(tern, boomy, 0.4, { 'mic-gain': 50 });
    const free = nextAnswer(ask(tern, [roomy, roomy, roomy]));
    expect(Number(free.set.find(({ dial: { id } }) => id === 'mic-gain')?.to)).toBeGreaterThan(53);
    const values = (all: typeof answer.set) => all.filter(({ dial: { stage } }) => stage === 'equalizer').map(({ to }) => to);
    expect(values(answer.set)).not.toEqual(values(free.set));
  });

  it('with sliders as well', () => {
    const heard = over(fulmar, (hz) => 3 * boomy(hz), 0.4, { 'mic-gain': 100 });
    const answer = nextAnswer(ask(fulmar, [heard, heard, heard]));
    expect(answer.set.some(({ dial: { stage } }) => stage === 'equalizer')).toBe(true);
    expect(answer.expected.alc?.[1]).toBeGreaterThan(0.3);
  });

  it('where the level leaves nothing to gain that is what is said, and nobody is asked to talk until it fits', () => {
    const overs: SeenOver[] = [];
    let set: DialValues = { 'mic-gain': 100 };
    let answer = nextAnswer(ask(tern, []));
    while (answer.status !== 'done' && overs.length < 6) {
      overs.push(over(tern, (hz) => 1.75 * boomy(hz), 0.4, set));
      answer = nextAnswer(ask(tern, overs));
      set = { ...set, ...Object.fromEntries(answer.set.map(({ dial: { id }, to }) => [id, to])) };
    }
    expect([answer.status, answer.why]).toEqual([
      'done',
      expect.stringContaining('as near to its target as the mic gain’s room lets it come'),
    ]);
  });

  it('below the zone for want of gain, over after over: the equalizer gives up more of its cut', () => {
    const cut = { 'mic-gain': 100, 'n-low-level': -12, 'n-mid-level': -6 };
    const low = over(tern, boomy, 0.05, cut);
    const shift = (overs: SeenOver[]) => {
      const { set } = nextAnswer(ask(tern, overs));
      return set.filter(({ dial: { id } }) => id.endsWith('-level')).reduce((sum, { from, to }) => sum + Number(to) - Number(from), 0);
    };
    expect(shift([low, low, low])).toBeGreaterThan(Math.max(1, shift([low])));
  });
});
