import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { sourceOf, voiceLike } from '../../../tests/support/signals.ts';
import type { Learned, SeenOver } from '../advice/index.ts';
import { NOTHING_LEARNED } from '../advice/next/answers.ts';
import { joined } from '../dsp/index.ts';
import { bytesInMemory, openWav, writeWav } from '../files/index.ts';
import { measureRecording, type SsbMeasurement } from '../measure/index.ts';
import { factoryCard, parseRig } from '../rig/index.ts';
import { CLEAR_PATH, GOOD_RECEIVER, hiddenRadio, PRACTICE_RADIOS, Simulation, voiceGain } from '../simulate/index.ts';
import { practiceScore } from './practiceScore.ts';

const rig = parseRig(JSON.parse(readFileSync('demo/rigs/tern-100.json', 'utf8')));
const card = factoryCard(rig, 'usb');
const over = (radios: readonly SsbMeasurement[], swr: number | null = null): SeenOver => ({
  card: { ...card, use: null },
  alc: 0.4,
  compressionDb: null,
  swr,
  voices: [],
  radios,
});
const line = (lines: ReturnType<typeof practiceScore>, what: string) => lines.find((each) => each.what === what);

it('the carrier and the opposite sideband that it reveals are those that are measured', async () => {
  const rateHz = 12000;
  const voice = await sourceOf(rateHz, [voiceLike(rateHz, 4)]);
  const gain = (await voiceGain(voice)) ?? 0;
  const receiver = { name: 'near', receiver: GOOD_RECEIVER, path: { ...CLEAR_PATH, snrDb: 75 } };
  const overAt = async (hidden: ReturnType<typeof hiddenRadio>, loudnessDb: number) => {
    const microphone = { microphone: null, use: null, room: hidden.room, seed: hidden.number };
    const station = {
      rig,
      card,
      microphone,
      loudnessDb,
      trueRig: hidden.trueRig,
      radio: hidden.radio,
      receivers: [receiver],
      voicePath: null,
    };
    const parts: (readonly Float64Array[])[] = [];
    const simulation = new Simulation(voice, station, gain, { receiver, isIq: true });
    for await (const block of simulation.blocks()) parts.push(block.map((channel) => channel.slice()));
    return { simulation, iq: [0, 1].map((c) => joined(parts.map((part) => part[c]))) };
  };
  for (const number of [1, 2, PRACTICE_RADIOS]) {
    const hidden = hiddenRadio(rig, number);
    // As loud as it takes for the meter to stand in its zone.
    let made = await overAt(hidden, 0);
    for (let db = -6; db <= 30; db += 6) {
      made = await overAt(hidden, db);
      if ((made.simulation.readings().alc.usual ?? 0) >= 0.3) break;
    }
    const { simulation, iq } = made;
    const wav = writeWav({ sampleRateHz: simulation.sampleRateHz, channels: 2, bits: 32, encoding: 'float' }, iq);
    const { measurement } = await measureRecording('ssb', await openWav(bytesInMemory(wav)), { carrierHz: 0, sideband: 'usb' });
    const lines = practiceScore(rig, hidden, [over([measurement as SsbMeasurement])], null);
    expect(line(lines, 'Carrier'), `carrier of radio ${number}`).toMatchObject({ isRight: true });
    // What an overdriven amplifier adds is not held against it.
    expect(line(lines, 'Opposite sideband')?.isRight, `sideband of radio ${number}`).not.toBe(false);
  }
}, 120_000);

describe('a score', () => {
  const hidden = hiddenRadio(rig, 2);
  const learned = (octaves: number, click: number, resonance = 0.5): Learned => ({
    ...NOTHING_LEARNED,
    equalizer: { octaves, resonance, clickDb: [click - 0.1, click, click + 0.1] },
  });
  const isQ = hidden.trueRig.equalizer.kind === 'parametric' && hidden.trueRig.equalizer.width.meaning === 'q';
  it('nothing is found of a decibel while it may be what anybody believes beforehand', () => {
    const wide = { ...NOTHING_LEARNED, equalizer: { octaves: null, resonance: null, clickDb: [0.75, 1, 1.15] as const } };
    expect(line(practiceScore(rig, hidden, [over([])], wide), 'One decibel on an equalizer dial')).toMatchObject({
      found: 'not settled yet',
      isRight: null,
    });
  });
  it('is right and wrong as it should be, and silent before it is settled', () => {
    const right = practiceScore(rig, hidden, [over([])], learned(isQ ? 0.05 : 0.95, hidden.radio.equalizerScale ?? 1));
    expect(line(right, 'Width numbers mean')?.isRight).toBe(true);
    expect(line(right, 'One decibel on an equalizer dial')?.isRight).toBe(true);
    const wrong = practiceScore(rig, hidden, [over([])], learned(isQ ? 0.95 : 0.05, (hidden.radio.equalizerScale ?? 1) + 0.4));
    expect(line(wrong, 'Width numbers mean')?.isRight).toBe(false);
    expect(line(wrong, 'One decibel on an equalizer dial')?.isRight).toBe(false);
    expect(line(practiceScore(rig, hidden, [over([])], learned(0.5, 1)), 'Width numbers mean')).toMatchObject({ isRight: null });
  });
  it.each([
    [1, 'resonance'],
    [2, 'mirrored'],
  ])('of the bands of radio %i, which are of the kind %s', (number, bells) => {
    const radio = hiddenRadio(rig, number);
    expect(radio.trueRig.equalizer).toMatchObject({ bells });
    const found = (resonance: number) => line(practiceScore(rig, radio, [over([])], learned(0.5, 1, resonance)), 'Parametric bands are');
    expect(found(0.95)).toMatchObject({ isRight: bells === 'resonance', found: 'resonances, 95 % sure' });
    expect(found(0.1)).toMatchObject({ isRight: bells === 'mirrored', found: 'mirrored bells, 90 % sure' });
    expect(found(0.4)).toMatchObject({ isRight: null });
  });

  it('of the processor what its meter tells, of the amplifier what the next channel holds', () => {
    const steps = 99;
    const of = (most: number, nextDb: number | null, shownDb = 9) =>
      practiceScore(rig, hidden, [{ ...over([]), compressionDb: shownDb }], {
        ...NOTHING_LEARNED,
        compression: { readings: 3, expectedDb: [4, 5, 6], perStepDb: [(most - 2) / steps, most / steps, (most + 2) / steps] },
        drive: { mostGain: null, tiltDb: 0, nextChannelDb: nextDb === null ? null : [nextDb - 5, nextDb, nextDb + 5] },
      });
    const { mostDb } = hidden.radio.processor;
    expect(line(of(mostDb + 1, null), 'Processor')).toMatchObject({
      isRight: true,
      found: `up to ${mostDb + 1} dB (${mostDb - 1} to ${mostDb + 3})`,
    });
    expect(line(of(mostDb + 8, null), 'Processor')).toMatchObject({ isRight: false });
    expect(line(of(mostDb, null, 2), 'Processor')).toMatchObject({ isRight: null, found: 'not settled yet' });
    expect(line(of(mostDb, -44), 'Amplifier saturates')).toMatchObject({
      found: 'next channel about −44 dB',
      isRight: null,
    });
    expect(line(of(mostDb, null), 'Amplifier saturates')?.found).toBeNull();
  });

  it('of the room the quietest pauses, and hum', () => {
    const heard = (snrDb: number | null, ...codes: string[]): SeenOver => ({
      ...over([]),
      voices: [
        {
          tap: 'second',
          result: { kind: 'voice', snrDb, findings: codes.map((code) => ({ code, severity: 'watch', text: '', evidence: '' })) },
          detail: {},
        } as unknown as SeenOver['voices'][number],
      ],
    });
    const radios = Array.from({ length: PRACTICE_RADIOS }, (_, k) => hiddenRadio(rig, k + 1));
    const quiet = radios.find(({ room }) => room.humDb === null);
    const humming = radios.find(({ room }) => room.humDb !== null);
    if (!quiet || !humming) throw new Error('No practice radio of that kind.');
    const found = (radio: typeof hidden, ...history: SeenOver[]) => line(practiceScore(rig, radio, history, null), 'Room');
    const noise = -(quiet.room.noiseDb ?? 0);
    expect(found(quiet, heard(noise - 20), heard(noise - 1))).toMatchObject({
      isRight: true,
      found: `noise −${noise - 1} dB re the voice`,
    });
    // A weak path drowns the room: that can't be told.
    expect(found(quiet, heard(10))).toMatchObject({ isRight: null });
    expect(found(quiet, heard(noise, 'hum'))).toMatchObject({ isRight: false });
    expect(found(humming, heard(-(humming.room.noiseDb ?? 0), 'hum'))).toMatchObject({ isRight: true });
    expect(found(quiet, heard(null))).toMatchObject({ found: null });
  });

  it('says nothing of what nobody measured', () => {
    const lines = practiceScore(rig, hidden, [], null);
    expect(lines.every(({ found, isRight }) => found === null && isRight === null)).toBe(true);
    expect(line(practiceScore(rig, hidden, [over([], 1)], null), 'Antenna')?.found).toBeNull();
    expect(line(practiceScore(rig, hidden, [over([], hidden.swr)], null), 'Antenna')?.isRight).toBe(true);
  });
});
