import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { parametricRig, toneRig } from '../../../../tests/support/rigs.ts';
import { VOICE_TWELFTH_OCTAVES } from '../../dsp/index.ts';
import { parseRig, responseOf } from '../../rig/index.ts';
import { InvalidInput } from '../../schema/problems.ts';
import { parametersOf } from '../transmitter/parameters.ts';
import { hiddenRadio, hiddenTruths, PRACTICE_RADIOS } from './hiddenRadio.ts';
import { parseStation, stationSchema } from './stationFile.ts';

const rig = parametricRig(1);

describe('a station file', () => {
  it('has its published schema', () => {
    expect(JSON.parse(readFileSync('docs/formats/station.schema.json', 'utf8'))).toEqual(JSON.parse(JSON.stringify(stationSchema)));
  });

  it('needs no more than a rig and a card; the rest is usual', () => {
    const station = parseStation({ rig, card: {} });
    expect(station.card.mode).toBe(rig.modes[0]);
    expect(station.receivers).toHaveLength(1);
    expect(station.trueRig).toEqual(station.rig);
    expect(station.microphone.microphone).toBeNull();
  });

  it('takes a card file as well as plain values, and lets the mode be said apart', () => {
    const card = { format: 'dialtune-card', version: 1, mode: rig.modes[0], values: {} };
    expect(parseStation({ rig, card }).card.mode).toBe(rig.modes[0]);
    expect(() => parseStation({ rig, card: {}, mode: 'fm' })).toThrow(InvalidInput);
  });

  it('keeps the truth away from what the operator believes', () => {
    const station = parseStation({ rig, card: {}, truth: { equalizerWidth: 'q', passbandError: -50, clickDb: 0.9 } });
    expect(station.rig).toEqual(rig);
    expect(station.trueRig.equalizer).toMatchObject({ width: { meaning: 'q' } });
    const [believed, real] = [parametersOf(rig, station.card), parametersOf(station.trueRig, station.card, station.radio)];
    expect(real.passband.edgesHz).toEqual(believed.passband.edgesHz.map((hz) => hz - 50));
  });

  it('a band is what the radio has: a resonance lifts more widely and cuts less widely than its number says', () => {
    const tern = parseRig(JSON.parse(readFileSync('demo/rigs/tern-100.json', 'utf8')));
    // At a good half octave beside the centre.
    const beside = (level: number, equalizerBells?: string) => {
      const card = { processor: 'on', 'mic-eq': 'on', 'p-mid-centre': 1200, 'p-mid-level': level, 'p-mid-width': 1 };
      const station = parseStation({ rig: tern, card, truth: { equalizerWidth: 'octaves', ...(equalizerBells && { equalizerBells }) } });
      expect(station.rig).toEqual(tern);
      const at = VOICE_TWELFTH_OCTAVES.findIndex(({ centreHz }) => centreHz > 1200 * 2 ** 0.6);
      const sent = parametersOf(station.trueRig, station.card, station.radio).equalizer;
      expect(sent.length).toBeGreaterThan(0);
      return { db: responseOf(station.trueRig, station.card)[at], sent };
    };
    expect(beside(10, 'mirrored')).toEqual(beside(10));
    expect(beside(10, 'resonance').sent).not.toEqual(beside(10).sent);
    expect(beside(10, 'mirrored').db).toBeCloseTo(-beside(-10, 'mirrored').db, 6);
    expect(beside(10, 'resonance').db).toBeGreaterThan(beside(10, 'mirrored').db + 0.3);
    expect(beside(-10, 'resonance').db).toBeGreaterThan(beside(-10, 'mirrored').db + 0.3);
    expect(() => parseStation({ rig: tern, card: {}, truth: { equalizerBells: 'round' } })).toThrow(InvalidInput);
  });

  it('the lowest mic gain is silence where it says 0, and a gain like any other where it says 1', () => {
    const gainAt = (name: string, gain: number) => {
      const profile = JSON.parse(readFileSync(`demo/rigs/${name}.json`, 'utf8'));
      const station = parseStation({ rig: profile, card: { 'mic-gain': gain } });
      return parametersOf(station.rig, station.card, station.radio).micGainDb;
    };
    expect(gainAt('tern-100', 0)).toBe(-Infinity);
    expect(gainAt('knot-5', 1)).toBe(17 - 20);
    expect(gainAt('knot-5', 10) - gainAt('knot-5', 1)).toBeCloseTo(40, 9);
  });

  it('a decibel on the dial is as large as the radio has it', () => {
    const level = rig.dials.find(({ unit }) => unit === 'dB')?.id ?? '';
    const station = parseStation({ rig, card: { [level]: 6 }, truth: { clickDb: 0.5 } });
    const half = parseStation({ rig, card: { [level]: 3 } });
    expect(parametersOf(rig, station.card, station.radio).equalizer).toEqual(parametersOf(rig, half.card).equalizer);
  });

  it('reads receivers as told', () => {
    const { receivers } = parseStation({
      rig,
      card: {},
      receivers: [
        { name: 'a', snrDb: null, agc: 'off' },
        { fading: 'poor', agc: 'fast', impulsesPerSecond: 3 },
      ],
    });
    expect(receivers[0]).toMatchObject({ name: 'a', path: { snrDb: null, impulses: null }, receiver: { agc: null } });
    expect(receivers[1]).toMatchObject({ name: 'receiver', path: { fading: 'poor', impulses: { perSecond: 3 } } });
    expect(receivers[0].path.seed).not.toBe(receivers[1].path.seed);
  });

  it.each([
    ['nothing', null],
    ['a list', []],
    ['no rig', { card: {} }],
    ['a rig that is none', { rig: {}, card: {} }],
    ['a fading nobody knows', { rig, card: {}, receivers: [{ fading: 'awful' }] }],
    ['a level that is a text', { rig, card: {}, truth: { room: { noiseDb: 'loud' } } }],
    ['an attack of nothing', { rig, card: {}, truth: { alc: { attackS: 0 } } }],
    ['edges of three', { rig, card: {}, truth: { passbandError: [1, 2, 3] } }],
    ['a hundred receivers', { rig, card: {}, receivers: Array.from({ length: 100 }, () => ({})) }],
  ])('refuses %s in words', (_, input) => {
    expect(() => parseStation(input)).toThrow(InvalidInput);
  });
});

describe('practice radios', () => {
  it.each(Array.from({ length: PRACTICE_RADIOS }, (_, k) => k + 1))(
    'number %i is the same every time and within what radios show',
    (number) => {
      const hidden = hiddenRadio(rig, number);
      expect(hidden).toEqual(hiddenRadio(rig, number));
      expect(hidden.swr).toBeGreaterThanOrEqual(1);
      expect(hidden.radio.amplifier.saturationDb).toBeGreaterThan(0);
      expect(hiddenTruths(rig, hidden).length).toBeGreaterThan(6);
    },
  );

  it('a radio without width numbers hides none', () => {
    expect(hiddenTruths(toneRig(), hiddenRadio(toneRig(), 1)).some(({ what }) => /Width|Parametric bands/.test(what))).toBe(false);
  });

  it('some have resonances for bands, some mirrored bells', () => {
    const all = Array.from({ length: PRACTICE_RADIOS }, (_, k) => hiddenTruths(rig, hiddenRadio(rig, k + 1)));
    const bands = all.map((truths) => truths.find(({ what }) => what === 'Parametric bands are')?.is ?? '');
    for (const kind of [/^resonances/, /^mirrored bells/]) expect(bands.filter((is) => kind.test(is)).length).toBeGreaterThan(1);
  });
});
