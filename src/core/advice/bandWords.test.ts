/** The words beside the dials. */
import { describe, expect, it } from 'vitest';
import { options, parametricRig, twoBankRig } from '../../../tests/support/rigs.ts';
import { TWELFTH_CENTRES } from '../dsp/spectrum/bands.ts';
import { factoryCard } from '../rig/card.ts';
import { bandsResponseDb, equalizerBands } from '../rig/equalizer.ts';
import { dialOf } from '../rig/rig.ts';
import { explainBand, explainDial, hertzText } from './bandWords.ts';
import { defaultTarget } from './targets.ts';
import { residuals, toneBasis } from './toneError.ts';

const rig = parametricRig(1, { centres: [150, 400, 700, 1200, 2400], levels: [-12, 12, 1], widths: [0.5, 1, 2] });
const [band] = equalizerBands(rig);
const PASSBAND = [100, 2900] as const;

/** A voice that is `off` dB from the target around `hz`. */
function story(hz: number, level: number, off: number): string {
  const values = { ...factoryCard(rig).values, 'p1-centre': hz, 'p1-level': level, 'p1-width': 1 };
  const target = defaultTarget('natural');
  const voice = {
    speechPowers: TWELFTH_CENTRES.map((at) => (Math.abs(Math.log2(at / hz)) < 0.5 ? 10 ** (off / 10) : 1)),
    pausePowers: null,
  };
  const flat = target.map(([at]) => [at, 0] as const);
  const basis = toneBasis(voice, flat, PASSBAND);
  const before = residuals(
    basis,
    TWELFTH_CENTRES.map(() => 0),
  );
  const own = bandsResponseDb(rig, [band], values, TWELFTH_CENTRES);
  return explainBand({ band, values, own, basis, before, passbandHz: PASSBAND });
}

describe('what a band does', () => {
  it.each([
    [150, 6, -8, 'adds chest'],
    [150, -6, 8, 'takes the chest out'],
    [400, 6, -8, 'adds body'],
    [400, -6, 8, 'takes the boom out'],
    [700, 6, -8, 'fills the middle'],
    [1200, -6, 8, 'scoops the mids'],
    [2400, 6, -8, 'lifts the consonants'],
    [2400, -6, 8, 'softens the consonants'],
  ])('at %i Hz by %i dB on a voice %i dB off: %s', (hz, level, off, words) => {
    const text = story(hz, level, off);
    expect(text.startsWith(words)).toBe(true);
    expect(text).toMatch(off < 0 ? /was \d+\.\d dB short$/ : /was \d+\.\d dB over$/);
  });

  it('does not claim to help where nothing was wrong', () => {
    expect(story(700, 6, 0)).toBe('fills the middle, balancing its neighbours');
    expect(story(700, 6, 8)).toBe('fills the middle, balancing its neighbours');
    expect(story(700, 0, 8)).toBe('not needed for this voice');
  });
});

describe('why a dial moves', () => {
  const width = dialOf(rig, 'p1-width');

  it('a width tells whether it gets wider, and which way its numbers run', () => {
    expect(explainDial(rig, width, 1, 2, band, '')).toBe('wider; here a larger number is wider');
    expect(explainDial(rig, width, 2, 1, band, '')).toBe('narrower; here a larger number is wider');
    const q = { ...rig, equalizer: { ...rig.equalizer, width: { meaning: 'q' as const } } } as typeof rig;
    expect(explainDial(q, width, 2, 1, band, '')).toBe('wider; here a smaller number is wider');
  });

  it('a level has the story of its band, a centre its place, a switch its use', () => {
    expect(explainDial(rig, dialOf(rig, 'p1-level'), 0, 3, band, 'the story')).toBe('the story');
    expect(explainDial(rig, dialOf(rig, 'p1-centre'), 400, 700, band, '')).toBe('puts the band where it is needed');
    const banks = twoBankRig();
    expect(explainDial(banks, dialOf(banks, 'eq'), 'off', 'on', undefined, '')).toContain('enables the equalizer');
    expect(options('x', ['a'], 'a').scale.kind).toBe('options');
  });

  it('frequencies are written as operators write them', () => {
    expect(hertzText(251)).toBe('250 Hz');
    expect(hertzText(1778)).toBe('1.8 kHz');
    expect(hertzText(2000)).toBe('2 kHz');
  });
});
