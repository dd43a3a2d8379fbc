import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { graphicRig, options, parametricRig, rigOf, steps, toneRig, twoBankRig, values } from '../../../tests/support/rigs.ts';
import { noise, rms, voiceLike } from '../../../tests/support/signals.ts';
import { type CurvePoint, curveAt } from '../curve/curve.ts';
import { LONG_TERM_SPEECH } from '../curve/longTermSpeech.ts';
import { ActiveSpeechMeter } from '../dsp/meter/activeSpeechLevel.ts';
import { TWELFTH_CENTRES, VOICE_TWELFTH_OCTAVES } from '../dsp/spectrum/bands.ts';
import { seededRandom } from '../dsp/statistics/random.ts';
import { factoryCard, PURPOSES } from '../rig/card.ts';
import { isOnScale } from '../rig/dialScale.ts';
import { effective } from '../rig/effective.ts';
import { bandCentre } from '../rig/equalizer.ts';
import { responseOf } from '../rig/response.ts';
import { dialOf, type RigProfile } from '../rig/rig.ts';
import { audition, busiestPart } from '../simulate/hear/audition.ts';
import { dbToPower } from '../units/conversions.ts';
import { FitImpossible, type FitInput, fitEqualizer } from './fitEqualizer.ts';
import { DEFAULT_COSTS, levelCost } from './fitQuestion.ts';
import { pairCost } from './gridSearch.ts';
import { expectTogether, type MoveEvidence, rankMoves } from './nextMove.ts';
import { defaultTarget } from './targets.ts';
import { targetCurve, voiceCurve } from './toneCurves.ts';
import { bandEffects, type HeardSpeech, levelChangeDb, residuals, toneBasis, toneErrorDb } from './toneError.ts';
import { estimateTone } from './toneEstimate.ts';

const TARGET = defaultTarget('natural');

/** A voice whose third-octave shape is the target plus a curve, known on every twelfth octave. */
const heard = (off: readonly CurvePoint[], target = TARGET): HeardSpeech => ({
  speechPowers: TWELFTH_CENTRES.map((hz) => dbToPower(curveAt(target, hz) + curveAt(off, hz) - 40)),
  pausePowers: null,
});
const FLAT: CurvePoint[] = [
  [100, 0],
  [4000, 0],
];
const DULL: CurvePoint[] = [
  [300, 4],
  [800, 2],
  [1500, -4],
  [2700, -12],
];

/** Seeded random tone faults: a wobbly curve within +-12 dB. */
function randomOff(seed: number): CurvePoint[] {
  const random = seededRandom(seed);
  return [100, 250, 500, 900, 1500, 2300, 4000].map((hz) => [hz, 24 * random() - 12]);
}

const inputOf = (rig: RigProfile, off: readonly CurvePoint[], extra: Partial<FitInput> = {}): FitInput => ({
  rig,
  card: factoryCard(rig),
  voice: heard(off),
  isExact: true,
  target: TARGET,
  ...extra,
});

/** What the fit makes small, computed the long way. */
function objective(input: FitInput, dialValues: Record<string, number | string>): number {
  const { rig, card } = input;
  const costs = input.costs ?? DEFAULT_COSTS;
  const basis = toneBasis(input.voice, input.target, effective(rig, card).passbandHz);
  const from = responseOf(rig, card);
  const change = responseOf(rig, { mode: card.mode, values: dialValues }).map((db, i) => db - from[i]);
  const { bands } = effective(rig, { mode: card.mode, values: dialValues });
  const moved = rig.dials.filter((dial) => dialValues[dial.id] !== card.values[dial.id]).length;
  const parts = basis.bands.flatMap((band) => band.parts);
  const talk = parts.reduce((sum, i) => sum + (input.voice.speechPowers[i] ?? 0), 0);
  const level = parts.reduce((sum, i) => sum + ((input.voice.speechPowers[i] ?? 0) / talk) * change[i], 0);
  const own = bands.reduce((sum, band) => sum + levelCost(Number(dialValues[band.level]), costs), 0);
  const placed = bands.map((band) => ({ octave: Math.log2(bandCentre(band, dialValues)), lift: Number(dialValues[band.level]) }));
  const pairs = placed.flatMap((a, i) => placed.slice(i + 1).map((b) => pairCost(a.octave - b.octave, a.lift, b.lift)));
  const crowding = costs.crowding * pairs.reduce((sum, cost) => sum + cost, 0);
  return toneErrorDb(basis, change) ** 2 + own + crowding + costs.move * moved + costs.level * level ** 2;
}

function everyCombination(rig: RigProfile): Record<string, number | string>[] {
  return rig.dials.reduce<Record<string, number | string>[]>(
    (rows, dial) => rows.flatMap((row) => positions(dial).map((value) => ({ ...row, [dial.id]: value }))),
    [{}],
  );
}
const positions = (dial: RigProfile['dials'][number]) =>
  dial.scale.kind === 'steps'
    ? Array.from({ length: Math.round((dial.scale.max - dial.scale.min) / dial.scale.step) + 1 }, (_, i) =>
        dial.scale.kind === 'steps' ? dial.scale.min + i * dial.scale.step : 0,
      )
    : dial.scale.kind === 'values'
      ? dial.scale.values
      : dial.scale.options;

describe('targets', () => {
  it('are ordinary speech and, from natural to contest, ever leaner below and brighter above', () => {
    const tilt = (points: readonly CurvePoint[]) => curveAt(points, 2500) - curveAt(points, 250);
    const tilts = PURPOSES.map((purpose) => tilt(defaultTarget(purpose)));
    expect([...tilts].sort((a, b) => a - b)).toEqual(tilts);
    const natural = defaultTarget('natural');
    expect(curveAt(natural, 500) - curveAt(natural, 2000)).toBeCloseTo(curveAt(LONG_TERM_SPEECH, 500) - curveAt(LONG_TERM_SPEECH, 2000), 1);
    for (const purpose of PURPOSES) expect(Math.max(...defaultTarget(purpose).map(([, db]) => db))).toBe(0);
  });

  it('pile-up lifts 2 to 3 kHz by 5 to 10 dB over ordinary speech (common practice)', () => {
    const lift = (hz: number) => curveAt(defaultTarget('pile-up'), hz) - curveAt(defaultTarget('natural'), hz);
    for (const hz of [2000, 2500, 3000]) {
      expect(lift(hz) - lift(800)).toBeGreaterThanOrEqual(5);
      expect(lift(hz) - lift(800)).toBeLessThanOrEqual(10);
    }
  });
});

describe('tone error', () => {
  const basis = toneBasis(heard(DULL), TARGET, [300, 2700]);

  it('is nothing for a voice on the target, whatever its level', () => {
    for (const level of [-30, 0, 12]) {
      const voice = heard([
        [100, level],
        [4000, level],
      ]);
      expect(
        toneErrorDb(
          toneBasis(voice, TARGET, [300, 2700]),
          TWELFTH_CENTRES.map(() => 0),
        ),
      ).toBeLessThan(0.5);
    }
  });

  it('counts third octaves inside the passband, by the part that lies inside', () => {
    const centres = basis.bands.map(({ centreHz }) => Math.round(centreHz));
    expect(centres).toEqual([316, 398, 501, 631, 794, 1000, 1259, 1585, 1995, 2512]);
    expect(basis.bands[0].weight).toBeLessThan(1);
    expect(basis.bands[3].weight).toBe(1);
  });

  it('takes the overall gain out: a flat change of response changes nothing', () => {
    const flat = TWELFTH_CENTRES.map(() => 7);
    const none = TWELFTH_CENTRES.map(() => 0);
    expect(toneErrorDb(basis, flat)).toBeCloseTo(toneErrorDb(basis, none), 9);
    for (const effect of bandEffects(basis, flat)) expect(effect).toBeCloseTo(7, 9);
    expect(levelChangeDb(heard(DULL), flat, [300, 2700])).toBeCloseTo(7, 9);
  });

  it('leaves bands out that are mostly noise', () => {
    const voice = heard(FLAT);
    const noisy = { ...voice, pausePowers: voice.speechPowers.map((power, i) => (TWELFTH_CENTRES[i] > 2000 ? power : 0)) };
    const { bands, noisyHz } = toneBasis(noisy, TARGET, [300, 2700]);
    expect(noisyHz.map(Math.round)).toEqual([2512]);
    expect(bands.at(-1)?.centreHz).toBeLessThan(2100);
  });

  it('residuals are short where the voice is short', () => {
    const left = residuals(
      basis,
      TWELFTH_CENTRES.map(() => 0),
    );
    expect(left[0]).toBeGreaterThan(3);
    expect(left.at(-1)).toBeLessThan(-5);
  });
});

describe('equalizer fit', () => {
  it('comes within 0.1 dB RMS of trying everything, over seeded cases', () => {
    const rig = parametricRig(2, { centres: [300, 700, 1500, 2300], levels: [-12, 12, 3], widths: [0.7, 2] });
    const all = everyCombination(rig);
    expect(all).toHaveLength((4 * 9 * 2) ** 2);
    for (let seed = 1; seed <= 6; seed++) {
      const input = inputOf(rig, randomOff(seed));
      const best = all.reduce((least, each) => Math.min(least, objective(input, each)), Infinity);
      const found = objective(input, { ...fitEqualizer(input).best.values });
      expect(Math.sqrt(found) - Math.sqrt(best)).toBeLessThan(0.1);
    }
  }, 120_000);

  it('the same with three bands and with sliders', () => {
    const three = parametricRig(3, { centres: [400, 1200, 2400], levels: [-8, 8, 4], widths: [1.5] });
    const sliders = rigOf({
      dials: [300, 800, 1600, 2500].map((hz) => steps(`g${hz}`, -9, 9, 3)),
      equalizer: { kind: 'graphic', octaves: 1, bands: [300, 800, 1600, 2500].map((hz) => ({ hz, level: `g${hz}` })) },
    });
    for (const rig of [three, sliders]) {
      const all = everyCombination(rig);
      for (let seed = 1; seed <= 5; seed++) {
        const input = inputOf(rig, randomOff(seed + 50));
        const best = all.reduce((least, each) => Math.min(least, objective(input, each)), Infinity);
        expect(Math.sqrt(objective(input, { ...fitEqualizer(input).best.values })) - Math.sqrt(best)).toBeLessThan(0.1);
      }
    }
  }, 120_000);

  it('on grids of thousands of options a band: nothing that one band could be set to is better', () => {
    const centres = Array.from({ length: 20 }, (_, k) => 300 + 120 * k);
    const rig = parametricRig(3, { centres, levels: [-20, 10, 1], widths: [0.4, 0.6, 0.9, 1.3, 2, 3] });
    for (let seed = 1; seed <= 2; seed++) {
      const input = inputOf(rig, randomOff(seed + 80));
      const values = { ...fitEqualizer(input).best.values };
      const found = objective(input, values);
      for (const { level, centre, width } of effective(rig, input.card).bands) {
        const own = rig.dials.filter(({ id }) => [level, centre, width].includes(id));
        expect(own).toHaveLength(3);
        const least = everyCombination({ ...rig, dials: own }).reduce(
          (most, each) => Math.min(most, objective(input, { ...values, ...each })),
          found,
        );
        expect(Math.sqrt(found) - Math.sqrt(least)).toBeLessThan(0.01);
      }
    }
  }, 120_000);

  const RIGS: readonly (readonly [string, RigProfile])[] = [
    ['parametric', parametricRig(3, { centres: [200, 400, 800, 1600, 2400], levels: [-20, 20, 1], widths: [0.5, 1, 2, 4] })],
    ['graphic', graphicRig([100, 200, 400, 600, 1000, 1600, 2400, 3200])],
    ['two knobs', toneRig()],
  ];

  it.each(RIGS)(
    '%s: never worse than leaving the dials alone, every value on its dial',
    (_, rig) => {
      fc.assert(
        fc.property(fc.integer({ min: 1, max: 1e6 }), fc.integer({ min: 0, max: 5 }), (seed, turn) => {
          const card = factoryCard(rig);
          const dial = rig.dials[turn % rig.dials.length];
          const start = { ...card, values: { ...card.values, [dial.id]: positions(dial)[0] } };
          const { best, runnerUp, errorBeforeDb } = fitEqualizer(inputOf(rig, randomOff(seed), { card: start }));
          for (const fit of [best, ...(runnerUp ? [runnerUp] : [])]) {
            expect(fit.errorDb).toBeLessThanOrEqual(errorBeforeDb + 1e-9);
            for (const [id, value] of Object.entries(fit.values)) expect(isOnScale(dialOf(rig, id).scale, value)).toBe(true);
            for (const { dial: moved, from, to } of fit.moves) {
              expect(from).not.toBe(to);
              expect(fit.values[moved.id]).toBe(to);
            }
          }
        }),
        { numRuns: 12 },
      );
    },
    120_000,
  );

  it.each(RIGS)('%s: brightens a dull voice, keeps boosts moderate, and says why', (_, rig) => {
    const { best, errorBeforeDb } = fitEqualizer(inputOf(rig, DULL));
    expect(best.errorDb).toBeLessThan(0.75 * errorBeforeDb);
    const change = (hz: number) => best.changeDb[TWELFTH_CENTRES.findIndex((centre) => centre >= hz)];
    expect(change(2300) - change(400)).toBeGreaterThan(4);
    for (const { to } of best.moves) if (typeof to === 'number' && to < 100) expect(to).toBeLessThanOrEqual(15);
    expect(best.moves.some(({ why }) => why.includes('lifts the consonants'))).toBe(true);
  });

  it.each(RIGS)('%s: leaves a voice alone that is on the target', (_, rig) => {
    const { best, errorBeforeDb } = fitEqualizer(inputOf(rig, FLAT));
    expect(errorBeforeDb).toBeLessThan(0.3);
    expect(best.moves).toEqual([]);
  });

  it('takes the present card out first: the same voice through another card gets the same sound', () => {
    const rig = RIGS[0][1];
    const plain = fitEqualizer(inputOf(rig, DULL, { costs: { move: 0, lift: 0, crowding: 0, boost: 0.01, cut: 0.004, level: 0 } }));
    const coloured = { ...factoryCard(rig), values: { ...factoryCard(rig).values, 'p1-centre': 800, 'p1-level': 9, 'p1-width': 2 } };
    const through = responseOf(rig, coloured);
    const voice = heard(DULL);
    const other = fitEqualizer({
      ...inputOf(rig, DULL, { costs: { move: 0, lift: 0, crowding: 0, boost: 0.01, cut: 0.004, level: 0 } }),
      card: coloured,
      voice: { ...voice, speechPowers: voice.speechPowers.map((power, i) => (power ?? 0) * dbToPower(through[i])) },
    });
    // Not to the last digit: the coloured voice weighs the twelfths within a band differently.
    expect(Math.abs(other.best.errorDb - plain.best.errorDb)).toBeLessThan(0.2);
  });

  it('counts a microphone curve in, and a receiver out', () => {
    const rig = RIGS[0][1];
    const microphone: CurvePoint[] = DULL.map(([hz, db]) => [hz, -db]);
    expect(fitEqualizer(inputOf(rig, DULL, { microphone })).errorBeforeDb).toBeLessThan(0.3);
    expect(fitEqualizer(inputOf(rig, DULL, { receiverPassbandHz: [500, 2000] })).passbandHz).toEqual([500, 2000]);
  });

  it('enables the equalizer by its own switch, never by the processor', () => {
    const rig = twoBankRig();
    const { best } = fitEqualizer(inputOf(rig, DULL));
    expect(best.values).toMatchObject({ eq: 'on', processor: 'off', 'p-level': 0 });
    expect(best.moves.find(({ dial }) => dial.id === 'eq')).toMatchObject({
      to: 'on',
      why: expect.stringContaining('enables the equalizer'),
    });
  });

  it('leaves widths alone whose meaning is unknown, and says so', () => {
    const rig = parametricRig(1, {}, {});
    const unknown = { ...rig, equalizer: { ...rig.equalizer, width: { meaning: 'unknown' } } } as RigProfile;
    const { best, notes } = fitEqualizer(inputOf(unknown, DULL));
    expect(best.values['p1-width']).toBe(1);
    expect(notes.join()).toContain('unknown');
  });

  it('tells the change of level into the ALC: that of the talk through the new response', () => {
    const rig = RIGS[1][1];
    const { best, passbandHz } = fitEqualizer(inputOf(rig, DULL));
    expect(best.alcChangeDb).toBeCloseTo(levelChangeDb(heard(DULL), best.changeDb, passbandHz), 9);
  });

  it('a level that is asked for comes with the same tone: what lifts lifts less, what cuts cuts less', () => {
    const costs = { move: 0, lift: 0, boost: 0, cut: 0, crowding: 0, level: 0.06 };
    const rig = parametricRig(3);
    const of = (levelDb: number) => fitEqualizer(inputOf(rig, DULL, { costs, levelDb, worthDb: -1 })).best;
    const [less, same, more] = [-5, 0, 5].map(of);
    expect(less.alcChangeDb).toBeLessThan(same.alcChangeDb - 3);
    expect(more.alcChangeDb).toBeGreaterThan(same.alcChangeDb + 3);
    for (const fit of [less, more]) expect(fit.errorDb).toBeLessThan(same.errorDb + 0.5);
  });

  it('says why when there is nothing to fit', () => {
    const none = rigOf({ dials: [steps('mic', 0, 10, 1, { stage: 'gain' })], equalizer: { kind: 'none' } });
    expect(() => fitEqualizer(inputOf(none, DULL))).toThrow(FitImpossible);
    expect(() => fitEqualizer(inputOf(none, DULL))).toThrow('has no equalizer');
    const silent = { speechPowers: VOICE_TWELFTH_OCTAVES.map(() => null), pausePowers: null };
    expect(() => fitEqualizer(inputOf(RIGS[0][1], DULL, { voice: silent }))).toThrow('Too little of the voice');
  });

  it('comes out the same every time', () => {
    const input = inputOf(RIGS[0][1], randomOff(9));
    expect(fitEqualizer(input).best.values).toEqual(fitEqualizer(input).best.values);
  });
});

describe('next move', () => {
  const rig = parametricRig(3, { centres: [400, 1000, 2400], levels: [-12, 12, 1], widths: [1, 2] });
  const evidence = (off: readonly CurvePoint[], which = rig): MoveEvidence => ({
    rig: which,
    heardWith: factoryCard(which),
    voice: heard(off),
    basis: toneBasis(heard(off), TARGET, [300, 2700]),
    passbandHz: [300, 2700],
  });

  it('names the dial that helps most by itself, and its expectation comes true in the model', () => {
    const [{ move, expected }] = rankMoves(evidence(DULL), factoryCard(rig));
    expect(move.dial.id).toBe('p3-level');
    expect(move.to).toBeGreaterThan(3);
    const after = { ...factoryCard(rig), values: { ...factoryCard(rig).values, [move.dial.id]: move.to } };
    expect(expected?.errorAfterDb).toBeCloseTo(toneErrorDb(evidence(DULL).basis, responseOf(rig, after)), 9);
    expect(expected?.errorAfterDb).toBeLessThan(expected?.errorBeforeDb ?? 0);
    expect(expected?.hz).toBeGreaterThan(1900);
  });

  it('every move helps by itself and they are ranked', () => {
    const ranked = rankMoves(evidence(DULL), factoryCard(rig));
    const errors = ranked.map(({ expected }) => expected?.errorAfterDb ?? Infinity);
    for (const [i, { expected }] of ranked.entries()) {
      expect(expected?.errorAfterDb).toBeLessThan(expected?.errorBeforeDb ?? 0);
      if (i > 0) expect(errors[i]).toBeGreaterThan(errors[0] - 0.3);
    }
  });

  it('has nothing to say when the voice is on the target', () => {
    expect(rankMoves(evidence(FLAT), factoryCard(rig))).toEqual([]);
  });

  it('leads with the switch while the equalizer is off', () => {
    const asleep = twoBankRig();
    const [first, second] = rankMoves(evidence(DULL, asleep), factoryCard(asleep));
    expect(first.move).toMatchObject({ to: 'on' });
    expect(first.move.dial.id).toBe('eq');
    expect(second.move.dial.id).toBe('n-level');
  });

  it('moves made together share what they do together; one that does nothing expects nothing', () => {
    const to = { level: 8, centre: 1000 };
    const moves = [
      { dial: dialOf(rig, 'p3-level'), to: to.level },
      { dial: dialOf(rig, 'p2-centre'), to: 2400 },
    ];
    const [level, centre] = expectTogether(evidence(DULL), factoryCard(rig), moves);
    expect(level?.changeDb).toBeGreaterThan(3);
    expect(centre).toBeNull();
  });
});

describe('curves for the eye', () => {
  const flat = TWELFTH_CENTRES.map(() => 0);
  const over = { voice: heard(DULL), responseDb: flat };
  it.each([
    ['one over', toneBasis(over.voice, TARGET, [300, 2700])],
    ['several, whose estimate has a level of its own', estimateTone([over, over], TARGET, [300, 2700]).basis],
  ])('lie on the target on average over the bands that count: %s', (_, basis) => {
    const curve = voiceCurve(basis, over.voice, flat);
    const target = targetCurve(TARGET);
    const off = curve.flatMap(([hz, db], i) => (hz > 300 && hz < 2700 && db !== null ? [db - (target[i][1] ?? 0)] : []));
    expect(Math.abs(off.reduce((a, b) => a + b) / off.length)).toBeLessThan(1);
    expect(off[0]).toBeGreaterThan(off[off.length - 1] + 10);
  });
});

describe('evidence a change', () => {
  const rig = toneRig();
  const flat = factoryCard(rig);
  const bright = { ...flat, values: { bass: -3, treble: 6 } };
  const samples = voiceLike(16000, 3, { level: 0.05 });
  const level = (signal: Float64Array) => {
    const meter = new ActiveSpeechMeter(16000);
    meter.push(signal);
    return meter.result().levelDb ?? 0;
  };

  it('matches levels and never clips', () => {
    const { before, after } = audition(samples, 16000, rig, flat, bright);
    expect(level(after) - level(before)).toBeCloseTo(0, 1);
    for (const side of [before, after]) expect(Math.max(...side.map(Math.abs))).toBeLessThan(0.9);
    expect(after).not.toEqual(before);
  });

  it('undoes what the recording was made with', () => {
    const { before, after } = audition(samples, 16000, rig, bright, bright);
    expect(rms(after.map((x, n) => x - before[n])) / rms(before)).toBeLessThan(1e-6);
  });

  it('stands silence and noise', () => {
    expect(audition(new Float64Array(100), 16000, rig, flat, bright).after.every((x) => x === 0)).toBe(true);
    expect(audition(noise(4000, 1, 0.1), 4000, rig, flat, bright).after.every(Number.isFinite)).toBe(true);
  });

  it('finds the busiest stretch', () => {
    const active = [false, true, false, false, true, true, true, false];
    expect(busiestPart(active, 3)).toBe(4);
    expect(busiestPart(active, 100)).toBe(0);
    expect(busiestPart([], 3)).toBe(0);
  });
});

describe('options for tests', () => {
  it('are good rigs', () => {
    expect(() => rigOf({ dials: [options('x', ['a'], 'a'), values('y', [1], 1)], equalizer: { kind: 'none' } })).not.toThrow();
  });
});
