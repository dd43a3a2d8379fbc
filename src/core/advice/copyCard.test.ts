import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { graphicRig, options, parametricRig, rigOf, steps, toneRig, twoBankRig } from '../../../tests/support/rigs.ts';
import { TWELFTH_CENTRES, VOICE_THIRD_OCTAVES } from '../dsp/spectrum/bands.ts';
import { type DialValues, factoryCard, PURPOSES } from '../rig/card.ts';
import { isOnScale } from '../rig/dialScale.ts';
import { effective } from '../rig/effective.ts';
import { mistakesOn } from '../rig/mistakes.ts';
import { responseOf } from '../rig/response.ts';
import type { RigProfile } from '../rig/rig.ts';
import { parseCard, parseRig } from '../rig/validate.ts';
import { copyCard } from './copyCard.ts';
import { FitImpossible } from './fitEqualizer.ts';
import { compressionDials, matchCurve, nearestPassband, positionAt } from './nearestDials.ts';
import { SCHOOL_RULES, SCHOOLS, schoolsFor, startingCard } from './startingCard.ts';

const demoRig = (name: string) => parseRig(JSON.parse(readFileSync(`demo/rigs/${name}.json`, 'utf8')));
const card = (rig: RigProfile, values: DialValues = {}) => ({ mode: rig.modes[0], values: { ...factoryCard(rig).values, ...values } });

/** RMS distance of two cards' curves over the third octaves of a passband, gain taken out: an oracle of its own. */
function apart(a: RigProfile, one: DialValues, b: RigProfile, two: DialValues): number {
  const [low, high] = effective(a, card(a, one)).passbandHz;
  const was = responseOf(a, card(a, one));
  const is = responseOf(b, card(b, two));
  const gaps = VOICE_THIRD_OCTAVES.flatMap(({ centreHz }, t) => {
    if (centreHz < low || centreHz > high) return [];
    const part = [0, 1, 2, 3].map((i) => is[4 * t + i] - was[4 * t + i]);
    return [part.reduce((sum, db) => sum + db, 0) / 4];
  });
  const gain = gaps.reduce((sum, db) => sum + db, 0) / gaps.length;
  return Math.sqrt(gaps.reduce((sum, db) => sum + (db - gain) ** 2, 0) / gaps.length);
}

const KINDS: Record<string, RigProfile> = {
  parametric: parametricRig(3, { centres: [300, 400, 600, 900, 1300, 1800, 2400], levels: [-12, 12, 1], widths: [0.5, 1, 2] }),
  graphic: graphicRig([300, 500, 800, 1200, 1800, 2600]),
  tone: toneRig(),
};
const SOUNDS: Record<string, DialValues> = {
  parametric: { 'p1-centre': 400, 'p1-level': -5, 'p2-centre': 1300, 'p2-level': 3, 'p2-width': 2, 'p3-centre': 2400, 'p3-level': 6 },
  graphic: { g300: -6, g500: -2, g1200: 2, g1800: 4, g2600: 5 },
  tone: { bass: -4, treble: 5 },
};

describe('copying among the three kinds of equalizer', () => {
  const pairs = Object.keys(KINDS).flatMap((from) => Object.keys(KINDS).map((to) => [from, to] as const));
  it.each(pairs)('%s to %s and back stays within what it states', (from, to) => {
    const [a, b] = [KINDS[from], KINDS[to]];
    const there = copyCard(a, card(a, SOUNDS[from]), b);
    const back = copyCard(b, { mode: there.mode, values: there.values }, a);
    parseCard({ format: 'dialtune-card', version: 1, mode: there.mode, values: there.values }, b);
    // What it states is what it is, by an oracle of its own.
    expect(apart(a, SOUNDS[from], b, there.values)).toBeCloseTo(there.errorDb, 6);
    // The way back can't be worse than both together (triangle of RMS distances).
    expect(apart(a, SOUNDS[from], a, back.values)).toBeLessThanOrEqual(there.errorDb + back.errorDb + 1e-9);
    // The card itself is on the grid: the way back is at most as far as the way there, but for the search's small costs.
    expect(back.errorDb).toBeLessThanOrEqual(there.errorDb + 0.35);
  });

  it('to the same dials it finds the same sound', () => {
    for (const kind of Object.keys(KINDS)) {
      const rig = KINDS[kind];
      const { errorDb, sentence } = copyCard(rig, card(rig, SOUNDS[kind]), rig);
      expect(errorDb).toBeLessThan(0.3);
      expect(sentence).toContain('can sound the same');
    }
  });

  it('two knobs can not follow a scoop: the sentence says where and how far', () => {
    const scoop = card(KINDS.graphic, { g800: -10, g1200: -10 });
    const { errorDb, sentence, difference } = copyCard(KINDS.graphic, scoop, KINDS.tone);
    expect(errorDb).toBeGreaterThan(2);
    const worst = Math.max(...difference.map(([, db]) => Math.abs(db)));
    expect(sentence).toContain(`${errorDb.toFixed(1)} dB on average`);
    expect(sentence).toContain(`${worst.toFixed(1)} dB`);
  });

  it('whatever the card, every value is on the other rig and the error is told truly', () => {
    const level = fc.integer({ min: -12, max: 12 });
    fc.assert(
      fc.property(level, level, level, (one, two, three) => {
        const values = { g300: one, g800: two, g1800: three };
        const { values: copied, errorDb } = copyCard(KINDS.graphic, card(KINDS.graphic, values), KINDS.tone);
        for (const dial of KINDS.tone.dials) expect(isOnScale(dial.scale, copied[dial.id])).toBe(true);
        expect(apart(KINDS.graphic, values, KINDS.tone, copied)).toBeCloseTo(errorDb, 6);
      }),
      { numRuns: 20 },
    );
  });
});

describe('what else a copy takes over', () => {
  const tern = demoRig('tern-100');
  const fulmar = demoRig('fulmar-8');
  const knot = demoRig('knot-5');
  it('the processor decides the bank; the passband goes to the nearest; the gain is left to the ALC', () => {
    const dx = card(fulmar, {
      compressor: 'on',
      compression: 5,
      'low-cut': 300,
      'high-cut': 2700,
      'tx-eq': 'on',
      'eq-2400': 6,
      'eq-400': -4,
    });
    const { values, notes } = copyCard(fulmar, dx, tern);
    expect(values).toMatchObject({ processor: 'on', 'processor-level': 50, 'tx-filter': '300–2700', 'mic-eq': 'on' });
    expect(Object.keys(values).filter((id) => id.startsWith('n-') && values[id] !== factoryCard(tern).values[id])).toEqual([]);
    expect(Object.keys(values).some((id) => id.startsWith('p-') && values[id] !== factoryCard(tern).values[id])).toBe(true);
    expect(notes.join(' ')).toMatch(/bank P/);
    expect(notes.join(' ')).toMatch(/mic gain of Tern 100 by its ALC/);
  });
  it('without processor it goes to bank N', () => {
    const { values, notes } = copyCard(fulmar, card(fulmar, { 'tx-eq': 'on', 'eq-2400': 6 }), tern);
    expect(values.processor).toBe('off');
    expect(notes.join(' ')).toMatch(/bank N/);
  });
  it('a fixed passband and a three-step processor', () => {
    const { values, notes } = copyCard(tern, card(tern, { processor: 'on', 'processor-level': 60, 'tx-filter': '100–2900' }), knot);
    expect(values.speech).toBe('low');
    expect(notes.join(' ')).toContain('100–2900 Hz becomes 300–2600 Hz');
  });
  it('of two passbands the upper edge counts double', () => {
    const rig = rigOf({
      dials: [options('filter', ['narrow', 'lean'], 'narrow', { stage: 'passband' })],
      passbands: [
        {
          kind: 'choice',
          modes: ['usb'],
          dial: 'filter',
          edges: [
            ['narrow', 100, 2400],
            ['lean', 300, 2900],
          ],
        },
      ],
      equalizer: { kind: 'none' },
    });
    // 0.58 + 2 x 0.27 octaves to the one, 1 + 0 to the other.
    expect(nearestPassband(rig, 'usb', {}, [150, 2900])).toEqual({ filter: 'lean' });
    expect(nearestPassband(rig, 'usb', {}, [120, 2500])).toEqual({ filter: 'narrow' });
  });
  it('keeps the gains it is given, and puts a lost mode into words', () => {
    expect(copyCard(tern, card(tern), fulmar, { 'mic-gain': 35 }).values['mic-gain']).toBe(35);
    expect(() => copyCard(tern, card(tern), demoRig('dunlin-fm'))).toThrow(FitImpossible);
    const lowerOnly = toneRig({ modes: ['lsb'], passbands: [{ kind: 'fixed', modes: ['lsb'], edges: [300, 2700] }] });
    const { mode, notes } = copyCard(tern, card(tern), lowerOnly);
    expect(mode).toBe('lsb');
    expect(notes[0]).toContain('has no upper sideband');
  });
  it('a rig without equalizer loses it, and says so', () => {
    const none = rigOf({ dials: [steps('gain', 0, 9, 1, { stage: 'gain' })], equalizer: { kind: 'none' } });
    const { notes, errorDb } = copyCard(KINDS.graphic, card(KINDS.graphic, SOUNDS.graphic), none);
    expect(notes.join(' ')).toContain('What the equalizer did is lost');
    expect(errorDb).toBeGreaterThan(1);
  });
});

describe('shares of a scale', () => {
  it('ends and middle', () => {
    const dial = steps('x', 0, 100, 5);
    expect([0, 0.5, 1, 2, -1].map((share) => positionAt(dial, share))).toEqual([0, 50, 100, 100, 0]);
  });
  it('no compression switches the processor off, whatever its positions are called', () => {
    const rig = rigOf({
      dials: [
        options('proc', ['normal', 'speech'], 'normal', { stage: 'compressor', role: 'processor' }),
        steps('amount', 0, 10, 1, { stage: 'compressor', role: 'compression', needs: [{ dial: 'proc', is: ['speech'] }] }),
      ],
      equalizer: { kind: 'none' },
    });
    expect(compressionDials(rig, 'usb', 0)).toEqual({ proc: 'normal' });
    expect(compressionDials(rig, 'usb', 0.3)).toEqual({ proc: 'speech', amount: 3 });
    expect(compressionDials(KINDS.tone, 'usb', 0.3)).toEqual({});
    const knot = demoRig('knot-5');
    expect([0, 0.1, 0.5, 0.9].map((share) => compressionDials(knot, 'usb', share).speech)).toEqual(['off', 'low', 'low', 'high']);
  });
});

describe('matching a curve', () => {
  it('a bell that the rig can make is made, inside the passband only', () => {
    const rig = KINDS.parametric;
    const wanted = responseOf(rig, card(rig, { 'p1-centre': 1300, 'p1-level': 6, 'p1-width': 1 }));
    const { errorDb } = matchCurve(rig, card(rig), wanted);
    expect(errorDb).toBeLessThan(0.3);
  });
  it('bands beyond the passband stay alone where that is asked for', () => {
    const rig = graphicRig([150, 1000, 4000]);
    const { values } = matchCurve(
      rig,
      card(rig),
      TWELFTH_CENTRES.map((hz) => (hz < 500 ? -12 : hz > 2000 ? 12 : 0)),
      true,
    );
    expect(values).toMatchObject({ g150: 0, g4000: 0 });
  });
});

describe('starting cards (common practice)', () => {
  const rigs = ['tern-100', 'fulmar-8', 'knot-5', 'dunlin-fm'].map(demoRig);
  it.each(SCHOOLS)('%s fits every rig and leaves nothing overlooked', (school) => {
    for (const rig of rigs) {
      for (const mode of rig.modes) {
        const { values } = startingCard(rig, mode, school);
        parseCard({ format: 'dialtune-card', version: 1, mode, values }, rig);
        expect(mistakesOn(rig, { mode, values })).toEqual([]);
      }
    }
  });
  it('DX puts lows down and 2 to 3 kHz up by 5 to 10 dB against the middle', () => {
    for (const rig of rigs.slice(0, 2)) {
      const { values } = startingCard(rig, 'usb', 'dx');
      const [low, middle, high] = responseOf(rig, { mode: 'usb', values }, [320, 1000, 2400]);
      expect(low - middle).toBeLessThan(-2);
      expect(high - middle).toBeGreaterThan(4);
      expect(high - middle).toBeLessThan(11);
      expect(effective(rig, { mode: 'usb', values }).passbandHz).toEqual([300, 2700]);
    }
  });
  it('the mid scoop is about 5 dB under its shoulders, flat is flat', () => {
    const { values } = startingCard(rigs[1], 'usb', 'scoop');
    const [left, middle, right] = responseOf(rigs[1], { mode: 'usb', values }, [500, 1300, 2400]);
    expect(Math.min(left, right) - middle).toBeGreaterThan(3);
    const flat = startingCard(rigs[1], 'usb', 'flat');
    expect(responseOf(rigs[1], { mode: 'usb', values: flat.values }).every((db) => db === 0)).toBe(true);
  });
  it('compression is a share of the scale: a quarter is token, 60 to 65 % for a weak mic', () => {
    expect(startingCard(rigs[0], 'usb', 'full').values['processor-level']).toBe(25);
    const weak = Number(startingCard(rigs[0], 'usb', 'weak-mic').values['processor-level']);
    expect(weak).toBeGreaterThanOrEqual(60);
    expect(weak).toBeLessThanOrEqual(65);
  });
  it('each purpose has its school first, and every school is told', () => {
    for (const purpose of PURPOSES) expect(SCHOOL_RULES[schoolsFor(purpose)[0]].purposes[0]).toBe(purpose);
    expect(schoolsFor('contest')).toHaveLength(SCHOOLS.length);
  });
  it('says what the rig can not do', () => {
    expect(startingCard(twoBankRig(), 'am', 'dx').notes.join(' ')).toContain('no processor');
    expect(startingCard(rigs[2], 'usb', 'full').notes.join(' ')).toContain('becomes 300–2600 Hz');
  });
});
