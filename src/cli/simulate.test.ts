import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { dialtune } from '../../tests/support/dialtune.ts';
import { temporaryFolder } from '../../tests/support/files.ts';
import { silence, wavBytes } from '../../tests/support/signals.ts';

const folder = temporaryFolder();

const RIG = 'demo/rigs/tern-100.json';

const OVER = 'demo/overs/08-bram-muffled.wav';

const file = (name: string, content: Uint8Array | string) => {
  const path = join(folder, name);
  writeFileSync(path, content);
  return path;
};

describe('dialtune simulate and reach', () => {
  const rig = JSON.parse(readFileSync(RIG, 'utf8'));
  const station = (more: object = {}) =>
    file(
      'station.json',
      JSON.stringify({
        rig,
        card: { processor: 'on', 'processor-level': 40 },
        receivers: [
          { name: 'near', snrDb: 60 },
          { name: 'far', snrDb: 20 },
        ],
        ...more,
      }),
    );

  it('sends an over as I and Q that the evidence part measures, and as a receiver hears it', () => {
    const iq = join(folder, 'iq.wav');
    const made = dialtune(
      'simulate',
      '--station',
      station({ truth: { balance: { oppositeDb: -40 } } }),
      '--voice',
      OVER,
      '--out',
      iq,
      '--iq',
      '--json',
    );
    expect(made.stderr).toBe('');
    expect(JSON.parse(made.stdout)).toMatchObject({ out: iq, channels: 2, sampleRateHz: 24000, mode: 'usb', receiver: 'near' });
    expect(JSON.parse(made.stdout).alc.usual).toBeGreaterThan(0.1);
    const measured = JSON.parse(dialtune('measure', iq, '--as', 'ssb', '--json').stdout);
    expect(measured.durationS).toBeCloseTo(JSON.parse(made.stdout).durationS, 2);
    expect(Math.abs(measured.passbandHz[0] - 320)).toBeLessThan(90);
    const audio = join(folder, 'far.wav');
    expect(dialtune('simulate', '--station', station(), '--voice', OVER, '--out', audio, '--receiver', 'far').stdout).toContain(
      'audio of far, simulated',
    );
    expect(JSON.parse(dialtune('measure', audio, '--json').stdout).activeSpeechLevelDb).toBeGreaterThan(-40);
  });

  it('gives the transmitter alone: its audio, without room, path and receiver', () => {
    const out = join(folder, 'alone.wav');
    const answer = JSON.parse(
      dialtune('simulate', '--station', station(), '--voice', OVER, '--out', out, '--transmitter', '--json').stdout,
    );
    expect(answer).toMatchObject({ receiver: null, channels: 1, sampleRateHz: 24000 });
    const measured = JSON.parse(dialtune('measure', out, '--json').stdout);
    expect(measured.durationS).toBeCloseTo(answer.durationS, 3);
    expect(measured.passbandHz[1]).toBeLessThan(3000);
    // No receiver has brought the level down to its own: peaks are those of full drive.
    expect(measured.activeSpeechLevelDb + measured.peakToAverageDb).toBeGreaterThan(-3);
    const both = dialtune('simulate', '--station', station(), '--voice', OVER, '--out', out, '--transmitter', '--iq');
    expect([both.status, both.stderr]).toEqual([2, expect.stringContaining('--transmitter is the transmitter by itself')]);
  });

  it('is the same for the same seed', () => {
    const [a, b] = ['a.wav', 'b.wav'].map((name) => {
      dialtune('simulate', '--station', station({ seed: 5 }), '--voice', OVER, '--out', join(folder, name));
      return readFileSync(join(folder, name));
    });
    expect(a.equals(b)).toBe(true);
  });

  it('tells reach with its doubt, naturalness and a second opinion', () => {
    const { status, stdout } = dialtune('reach', '--station', station(), '--voice', OVER, '--json');
    expect(status).toBe(0);
    const told = JSON.parse(stdout);
    expect(Number.isFinite(told.reachDb)).toBe(true);
    expect(told.uncertaintyDb).toBeGreaterThan(0);
    expect(told.naturalness).toBeGreaterThan(10);
    expect(told.naturalness).toBeLessThan(100);
    expect(told.secondOpinion.stoi).toBeGreaterThan(0);
    expect(dialtune('reach', '--station', station(), '--voice', OVER).stdout).toMatch(
      /^Reach [+−]\d+\.\d dB \(± \d+\.\d dB\) against the flat voice, naturalness \d+ of 100\.$/m,
    );
  });

  it.each([
    ['no station', ['reach', '--voice', OVER], 2, '--station is missing'],
    ['no voice', ['reach', '--station', 'STATION'], 2, '--voice is missing'],
    ['an unknown receiver', ['simulate', '--station', 'STATION', '--voice', OVER, '--out', 'x.wav', '--receiver', 'moon'], 2, 'near, far'],
    ['silence', ['simulate', '--station', 'STATION', '--voice', 'SILENCE', '--out', 'x.wav'], 1, 'nobody talks'],
    ['nowhere to write', ['simulate', '--station', 'STATION', '--voice', OVER, '--out', '/nowhere/x.wav'], 1, 'could not be written'],
    ['a truth that can not be', ['reach', '--station', 'BAD', '--voice', OVER], 1, 'truth.alc.ratio'],
    ['a dial that is not there', ['reach', '--station', 'FOREIGN', '--voice', OVER], 1, 'has no dial "loudness"'],
    [
      'a mode that has no audio on the air',
      ['simulate', '--station', 'AM', '--voice', OVER, '--out', 'x.wav', '--transmitter'],
      2,
      'single sideband; the card is for AM',
    ],
    ['a mode without reach', ['reach', '--station', 'AM', '--voice', OVER], 1, 'single sideband only'],
  ])('%s: one clear line', (_, args, status, words) => {
    const files: Record<string, () => string> = {
      STATION: () => station(),
      BAD: () => file('bad.json', JSON.stringify({ rig, card: {}, truth: { alc: { ratio: 0 } } })),
      FOREIGN: () => file('foreign.json', JSON.stringify({ rig, card: { loudness: 3 } })),
      AM: () => file('am.json', JSON.stringify({ rig, card: {}, mode: 'am' })),
      SILENCE: () => file('silence.wav', wavBytes(8000, [silence(8000, 2)])),
    };
    const answer = dialtune(...args.map((arg) => files[arg]?.() ?? arg));
    expect(answer.status).toBe(status);
    expect(answer.stdout).toBe('');
    expect(answer.stderr).toMatch(/^dialtune: .+\n$/);
    expect(answer.stderr).toContain(words);
  });
});
