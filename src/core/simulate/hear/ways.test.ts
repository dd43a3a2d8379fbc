import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { toneRig } from '../../../../tests/support/rigs.ts';
import { voiceLike } from '../../../../tests/support/signals.ts';
import { dialInRole, factoryCard, parseRig, positionsOf } from '../../rig/index.ts';
import { QUIET_ROOM } from '../transmitter/microphoneStage.ts';
import { USUAL_RADIO } from '../transmitter/parameters.ts';
import { hearCard } from './hearCard.ts';
import { PATHS, RECEIVERS, REPEATERS } from './ways.ts';

const rig = toneRig();

describe('an FM repeater', () => {
  const dunlin = parseRig(JSON.parse(readFileSync('demo/rigs/dunlin-fm.json', 'utf8')));
  const voice = { samples: voiceLike(24000, 3), rateHz: 24000 };
  const room = { ...QUIET_ROOM, noiseDb: null };
  const station = { rig: dunlin, radio: USUAL_RADIO, microphone: { microphone: null, use: null, room, seed: 1 } };
  const dial = dialInRole(dunlin, 'fm-width', 'fm');
  const width = (name: 'wide' | 'narrow') =>
    positionsOf(dial?.scale ?? { kind: 'values', values: [] }).find((each) => String(each)[0] === name[0]);
  const level = (set: 'wide' | 'narrow', repeater: 'wide' | 'narrow') => {
    const card = factoryCard(dunlin, 'fm');
    const values = { ...card.values, [dial?.id ?? '']: width(set) ?? '' };
    const { samples } = hearCard(voice, station, { ...card, values }, 'heard', { path: PATHS.clear.path, receiver: REPEATERS[repeater] });
    return 10 * Math.log10(samples.reduce((sum, x) => sum + x * x, 0) / samples.length);
  };
  it('gives out a narrow signal 6 dB softer than a wide one in its wide channel, and as loud as a wide one there in a narrow one', () => {
    const full = level('wide', 'wide');
    expect(level('narrow', 'wide') - full).toBeCloseTo(-6.02, 0.5);
    expect(level('narrow', 'narrow') - full).toBeCloseTo(0, 0.5);
  });
});

describe('ways to listen through', () => {
  const voice = { samples: voiceLike(24000, 2), rateHz: 24000 };
  const station = { rig, radio: USUAL_RADIO, microphone: { microphone: null, use: null, room: { ...QUIET_ROOM, noiseDb: null }, seed: 1 } };
  const sound = (path: string, receiver: string) =>
    hearCard(voice, station, factoryCard(rig), 'heard', { path: PATHS[path].path, receiver: RECEIVERS[receiver].receiver }).samples;
  const clear = sound('clear', 'good');

  it.each(Object.keys(PATHS).filter((id) => id !== 'clear'))('the path "%s" is another sound of the same length', (id) => {
    const heard = sound(id, 'good');
    expect(heard.length).toBe(clear.length);
    expect(heard.every(Number.isFinite)).toBe(true);
    expect(heard).not.toEqual(clear);
  });

  it.each(Object.keys(RECEIVERS).filter((id) => id !== 'good'))('the receiver "%s" is another sound of the same length', (id) => {
    const heard = sound('clear', id);
    expect(heard.length).toBe(clear.length);
    expect(heard.every(Number.isFinite)).toBe(true);
    expect(heard).not.toEqual(clear);
  });
});
