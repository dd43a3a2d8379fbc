/** What operators agree on, common practice, with two synthetic voices of the demo: which way reach and naturalness go. */
import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { rigOf, steps, values } from '../../../tests/support/rigs.ts';
import { join } from '../../../tests/support/signals.ts';
import { bytesInMemory } from '../files/byteSource.ts';
import { openWav } from '../files/samples.ts';
import type { Card } from '../rig/card.ts';
import { QUIET_ROOM, type Room } from '../simulate/transmitter/microphoneStage.ts';
import { USUAL_RADIO } from '../simulate/transmitter/parameters.ts';
import { CardJudge } from './cardJudge.ts';

async function voiceOf(name: string) {
  const wav = await openWav(bytesInMemory(readFileSync(`demo/overs/${name}.wav`)));
  const parts: Float64Array[] = [];
  for await (const [mono] of wav.blocks()) parts.push(mono.slice());
  return { samples: join(...parts).subarray(0, 10 * wav.sampleRateHz), rateHz: wav.sampleRateHz };
}

describe.each(['04-tilo-first', '10-bram-clear'])('with the voice of %s', async (name) => {
  const voice = await voiceOf(name);
  const compression = steps('comp', 0, 40, 1, { stage: 'compressor', role: 'compression' });
  const gain = steps('gain', 0, 100, 1, { stage: 'gain', role: 'mic-gain', rest: 50 });
  const treble = steps('treble', -20, 20, 1);
  const bass = steps('bass', -20, 20, 1);
  const [low, high] = [
    values('low', [100, 200, 300, 400], 300, { stage: 'passband' }),
    values('high', [2400, 2600, 2700, 2900], 2700, { stage: 'passband' }),
  ];
  const rig = rigOf({
    dials: [compression, gain, treble, bass, low, high],
    equalizer: { kind: 'tone', bass: { hz: 400, level: 'bass' }, treble: { hz: 1600, level: 'treble' } },
    passbands: [{ kind: 'edges', modes: ['usb'], low: 'low', high: 'high' }],
  });
  const judge = (room: Partial<Room> = {}) =>
    new CardJudge(voice, {
      rig,
      radio: { ...USUAL_RADIO, processor: { ...USUAL_RADIO.processor, mostDb: 40 } },
      microphone: { microphone: null, use: null, room: { ...QUIET_ROOM, noiseDb: -45, ...room }, seed: 1 },
    });
  const quiet = judge();
  const of = (values: Card['values'], by = quiet) => {
    const { reach, naturalness } = by.judge({ mode: 'usb', values });
    return { reach: reach.reachDb ?? -99, natural: naturalness.score };
  };
  const flat = of({});

  it('the flat card is the reference', () => expect(Math.abs(flat.reach)).toBeLessThan(1.2));
  it('moderate compression reaches further and sounds less natural', () => {
    const some = of({ comp: 10 });
    expect(some.reach).toBeGreaterThan(flat.reach + 1.5);
    expect(some.natural).toBeLessThan(flat.natural - 5);
  });
  it('gross clipping reaches less far than moderate compression, and sounds worse still', () => {
    const [some, gross] = [of({ comp: 10 }), of({ comp: 40 })];
    expect(gross.reach).toBeLessThan(some.reach);
    expect(gross.natural).toBeLessThan(some.natural);
  });
  it('a loud room under compression costs both', () => {
    const [still, loud] = [of({ comp: 12 }), of({ comp: 12 }, judge({ noiseDb: -20 }))];
    expect(loud.reach).toBeLessThan(still.reach);
    expect(loud.natural).toBeLessThan(still.natural);
  });
  it('a dull card reaches less far', () => expect(of({ treble: -12 }).reach).toBeLessThan(flat.reach - 0.5));
  it('a narrow passband sounds less natural', () =>
    expect(of({ low: 400, high: 2400 }).natural).toBeLessThan(of({ low: 100, high: 2900 }).natural));
  it('is not told for FM', () => expect(() => quiet.judge({ mode: 'fm', values: {} })).toThrow(RangeError));
});
