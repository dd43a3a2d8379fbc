import { describe, expect, it } from 'vitest';
import { microphone as testMicrophone } from '../../../../tests/support/microphones.ts';
import { toneRig } from '../../../../tests/support/rigs.ts';
import { voiceLike } from '../../../../tests/support/signals.ts';
import { factoryCard } from '../../rig/card.ts';
import { usualUse } from '../../rig/microphone.ts';
import { QUIET_ROOM } from '../transmitter/microphoneStage.ts';
import { USUAL_RADIO } from '../transmitter/parameters.ts';
import { hearCard } from './hearCard.ts';
import { PATHS, RECEIVERS } from './ways.ts';

const rig = toneRig();

const microphone = testMicrophone({ name: 'Mic one' });

const _use = usualUse(microphone);

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
