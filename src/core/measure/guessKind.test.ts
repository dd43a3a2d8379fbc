import { describe, expect, it } from 'vitest';
import { join, noise, silence, voiceLike, wavBytes } from '../../../tests/support/signals.ts';
import { bytesInMemory } from '../files/byteSource.ts';
import { ssbModulate } from '../modem/ssb.ts';
import { guessKind } from './guessKind.ts';
import { measureFile } from './measureRecording.ts';

const RATE = 16000;
const talk = voiceLike(RATE, 2);
const text = (content: string) => bytesInMemory(new TextEncoder().encode(content));
const { i, q } = ssbModulate(talk, RATE, 2000, 'usb');

describe('what a file seems to be', () => {
  it.each([
    ['one channel', bytesInMemory(wavBytes(RATE, [talk])), 'voice'],
    ['the same in both channels', bytesInMemory(wavBytes(RATE, [talk, talk])), 'voice'],
    ['one channel empty', bytesInMemory(wavBytes(RATE, [talk, silence(RATE, 2)])), 'voice'],
    ['I and Q', bytesInMemory(wavBytes(RATE, [i, q])), 'fm'],
    ['a curve', text('Hz,dB\n100,-3\n1000,0\n3000,-6\n'), 'response'],
    ['a long trace', text(Array.from({ length: 4000 }, (_, n) => `${n}e-6,${n % 7}`).join('\n')), 'power'],
    ['something else', text('Dear operator'), 'voice'],
    ['nothing', text(''), 'voice'],
  ] as const)('%s', async (_, bytes, kind) => {
    expect(await guessKind(bytes, 'fm')).toBe(kind);
  });
});

describe('a file measured by its kind', () => {
  it('a curve alone tells edges, ripple and a dull radio', async () => {
    const { measurement } = await measureFile('response', text('100 -20\n300 -1\n1000 0\n1500 -3\n2000 -8\n3000 -20\n'));
    expect(measurement).toMatchObject({ kind: 'response', mistuneHz: null, notes: { clockPpm: expect.any(String) } });
    expect(measurement.findings.map(({ code }) => code)).toContain('roll-off');
  });

  it('an SSB carrier is proposed when asked for, and asked for where nothing tells it well enough', async () => {
    const voice = join(...[105, 130, 160].map((pitchHz) => voiceLike(RATE, 2, { pitchHz })));
    const signal = ssbModulate(voice, RATE, 2500, 'usb');
    const proposed = await measureFile('ssb', bytesInMemory(wavBytes(RATE, [signal.i, signal.q])), { proposesCarrier: true });
    expect(proposed.detail).toMatchObject({ carrierFrom: { how: expect.stringMatching(/proposed|asked/) } });
    const hiss = await measureFile('ssb', bytesInMemory(wavBytes(RATE, [noise(RATE, 2, 0.1), noise(RATE, 2, 0.1, 2)])), {
      proposesCarrier: true,
    });
    // Nothing is measured silently from a guess: no numbers, no accusations, the reason for each.
    expect(hiss.measurement).toMatchObject({ occupiedBandwidthHz: null, oppositeSidebandDb: null, adjacentDb: { wantedSide: null } });
    expect(hiss.measurement.notes.oppositeSidebandDb).toMatch(/carrier is not known/);
    expect(hiss.measurement.findings.filter(({ severity }) => severity !== 'ok')).toEqual([]);
    expect(hiss.detail).toMatchObject({ carrierFrom: { how: 'asked' } });
    const outside = measureFile('ssb', bytesInMemory(wavBytes(RATE, [signal.i, signal.q])), { carrierHz: RATE / 2 });
    await expect(outside).rejects.toThrow(/outside this file/);
    const given = await measureFile('ssb', bytesInMemory(wavBytes(RATE, [signal.i, signal.q])), { carrierHz: 2500, proposesCarrier: true });
    expect(given.detail).toMatchObject({ carrierFrom: { how: 'given' } });
  });
});
