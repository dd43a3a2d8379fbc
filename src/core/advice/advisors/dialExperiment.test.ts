import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { gaussian, seededRandom, TWELFTH_CENTRES } from '../../dsp/index.ts';
import type { VoiceDetail } from '../../measure/index.ts';
import { type Card, effective, factoryCard, parseRig, type RigProfile } from '../../rig/index.ts';
import { dbToPower } from '../../units/index.ts';
import { equalizerBelief } from '../next/equalizerBelief.ts';
import type { SeenOver } from '../next/seen.ts';
import { dialExperiment } from './dialExperiment.ts';

const rigOf = (name: string) => parseRig(JSON.parse(readFileSync(`demo/rigs/${name}.json`, 'utf8')));
const RIGS = ['tern-100', 'fulmar-8', 'knot-5'].map(rigOf);
const [tern] = RIGS;

/**
 * An over through bells of another kind than ours: a bump over the logarithm of the frequency, half as high at half its
 * width, decibels of another size, talk that scatters by 1.5 dB from over to over.
 */
function overOf(rig: RigProfile, card: Card, isQ: boolean, clickDb: number, seed: number): SeenOver {
  const { values, bands } = effective(rig, card);
  const at = (part: string | number | null) => (typeof part === 'string' ? Number(values[part]) : (part ?? 1));
  const bump = (hz: number) =>
    bands.reduce((sum, { centre, level, width }) => {
      const octaves = isQ && typeof width === 'string' ? 1.41 / at(width) : at(width);
      return sum + clickDb * at(level) * 2 ** -(((2 * Math.log2(hz / at(centre))) / octaves) ** 2);
    }, 0);
  const scatter = gaussian(seededRandom(seed));
  const slow = Array.from({ length: 12 }, () => 1.5 * scatter());
  const speechPowers = TWELFTH_CENTRES.map((hz, i) => dbToPower(-30 - i / 12 + slow[Math.floor(i / 8)] + bump(hz)));
  const voice = {
    tap: 'second',
    result: { findings: [], snrDb: 40 },
    detail: { speechPowers, pausePowers: null } as unknown as VoiceDetail,
  };
  return { card: { ...card, use: null }, alc: 0.4, compressionDb: null, swr: null, voices: [voice as never], radios: [] };
}

function played(rig: RigProfile, isQ: boolean, clickDb: number, seed: number) {
  let card = factoryCard(rig, 'usb');
  const overs: SeenOver[] = [];
  for (let k = 0; k < 6; k++) {
    const experiment = dialExperiment(rig, card, overs);
    if (!experiment || experiment.next === null) break;
    card = { ...card, values: { ...card.values, ...experiment.steps[experiment.next].set } };
    overs.push(overOf(rig, card, isQ, clickDb, 10 * seed + k));
  }
  return overs;
}

describe('finding out what dials do', () => {
  it.each(RIGS.map((rig) => [rig.name, rig] as const))('%s: every step is an over to make, and once made it is done', (_, rig) => {
    const overs = played(rig, false, 1, 1);
    expect(overs).toHaveLength(3);
    const end = dialExperiment(rig, overs[overs.length - 1].card, overs);
    expect(end).toMatchObject({ next: null });
    expect(end?.steps.every(({ isDone, text }) => isDone && /^[A-Z].*\.$/.test(text))).toBe(true);
    // The same dials without a recording prove nothing.
    const mute = overs.map((over) => ({ ...over, voices: [] }));
    expect(dialExperiment(rig, overs[0].card, mute)?.next).toBe(0);
  });

  it.each([1, 2, 3, 4, 5, 6])('the width number is told right from three overs of other bells (voice %i)', (seed) => {
    for (const isQ of [false, true]) {
      const overs = played(tern, isQ, 0.9, seed).map((over) => ({ over, voice: over.voices[0], isDead: false, weight: 1 }));
      const { octaves } = equalizerBelief(tern, overs);
      expect(isQ ? 1 - (octaves ?? 0) : octaves).toBeGreaterThan(0.9);
    }
  });
});
