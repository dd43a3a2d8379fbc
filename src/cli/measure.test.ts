import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { dialtune } from '../../tests/support/dialtune.ts';
import { temporaryFolder } from '../../tests/support/files.ts';
import { silence, sine, voiceLike, wavBytes } from '../../tests/support/signals.ts';

const folder = temporaryFolder();

const RIG = 'demo/rigs/tern-100.json';

const OVER = 'demo/overs/08-bram-muffled.wav';

const file = (name: string, content: Uint8Array | string) => {
  const path = join(folder, name);
  writeFileSync(path, content);
  return path;
};

describe('dialtune measure', () => {
  it('prints one JSON object with the keys of the contract and nothing else', () => {
    const { status, stdout, stderr } = dialtune('measure', OVER, '--as', 'voice', '--json');
    expect(status).toBe(0);
    expect(stderr).toBe('');
    expect(stdout.trim().split('\n')).toHaveLength(1);
    expect(Object.keys(JSON.parse(stdout))).toEqual(
      expect.arrayContaining([
        'durationS',
        'sampleRateHz',
        'clippedShare',
        'activeSpeechLevelDb',
        'activityFactor',
        'loudnessLufs',
        'peakToAverageDb',
        'thirdOctaveDb',
        'tiltDbPerOctave',
        'passbandHz',
        'noiseFloorDb',
        'snrDb',
        'pitchHz',
        'findings',
        'notes',
      ]),
    );
  });

  it('takes voice for granted, and says the same to people', () => {
    const { status, stdout } = dialtune('measure', OVER);
    expect(status).toBe(0);
    expect(stdout).toContain('active speech level');
    expect(stdout).toContain('muffled');
  });

  it('measures against a reference, and one channel', () => {
    const stereo = file('stereo.wav', wavBytes(8000, [voiceLike(8000, 2), silence(8000, 2)]));
    expect(JSON.parse(dialtune('measure', stereo, '--channel', '2', '--json').stdout).activeSpeechLevelDb).toBeNull();
    const same = JSON.parse(dialtune('measure', OVER, '--reference', OVER, '--json').stdout);
    expect(same.passbandHz).toEqual([null, null]);
  });

  it.each([
    ['no file', ['measure'], 2],
    ['two files', ['measure', 'a', 'b'], 2],
    ['an unknown option', ['measure', OVER, '--loud'], 2],
    ['an unknown kind', ['measure', OVER, '--as', 'song'], 2],
    ['I/Q kinds of a single channel', ['measure', OVER, '--as', 'ssb'], 1],
    ['a carrier for a voice', ['measure', OVER, '--carrier', '100'], 2],
    ['a carrier outside the file', ['measure', 'demo/evidence/ssb-clean.wav', '--as', 'ssb', '--carrier', '-12000'], 1],
    ['a carrier that is no number', ['measure', 'demo/evidence/ssb-clean.wav', '--as', 'ssb', '--carrier', '3k'], 2],
    ['a sideband that is none', ['measure', 'demo/evidence/ssb-clean.wav', '--as', 'ssb', '--sideband', 'up'], 2],
    ['a response without its signal', ['measure', OVER, '--as', 'response'], 1],
    ['a SigMF file that is not there', ['measure', 'nowhere.sigmf-meta', '--as', 'ssb'], 1],
    ['channel 0', ['measure', OVER, '--channel', '0'], 2],
    ['channel 2 of one', ['measure', OVER, '--channel', '2'], 1],
    ['a missing file', ['measure', 'nowhere.wav'], 1],
    ['a folder', ['measure', 'demo'], 1],
    ['a file that is no WAV', ['measure', RIG], 1],
    ['no command', [], 2],
    ['an unknown command', ['tune'], 2],
    ['a prototype key', ['toString'], 2],
    ['a command to come', ['reach'], 2],
  ])('%s: one line on stderr, exit %i', (_, args, code) => {
    const { status, stdout, stderr } = dialtune(...(args as string[]));
    expect(status).toBe(code);
    expect(stdout).toBe('');
    expect(stderr.trim().split('\n')).toHaveLength(1);
    expect(stderr).toMatch(/^dialtune: ./);
    expect(stderr).not.toContain('    at ');
  });

  it('measures what is there of a broken file and says so', () => {
    const cut = file('cut.wav', wavBytes(8000, [sine(8000, 300, 2)]).slice(0, 60_000));
    const measured = JSON.parse(dialtune('measure', cut, '--json').stdout);
    expect(measured.durationS).toBeLessThan(1);
    expect(measured.notes.durationS).toContain('cut short');
  });
});

describe('dialtune measure of radio kinds', () => {
  it.each([
    [
      'ssb',
      'ssb-clean.wav',
      ['--carrier', '3000'],
      ['occupiedBandwidthHz', 'oppositeSidebandDb', 'carrierDb', 'adjacentDb', 'extentHz', 'passbandHz', 'peakToAverageDb'],
    ],
    ['am', 'am-under.wav', [], ['carrierOffsetHz', 'modulationDepth', 'audioBandwidthHz', 'occupiedBandwidthHz']],
    ['fm', 'fm-wide.wav', [], ['peakDeviationHz', 'rmsDeviationHz', 'carsonBandwidthHz', 'offsetHz', 'audioBandwidthHz', 'ctcssHz']],
    ['two-tone', 'two-tone.wav', [], ['imd3Db', 'imd5Db', 'imd3PepDb', 'imd5PepDb']],
    ['response', 'sweep-good.wav', [], ['curve', 'passbandHz', 'mistuneHz', 'clockPpm', 'rippleDb', 'distortionDb']],
    ['power', 'scope-trace.csv', ['--load', '50'], ['pepW', 'meanW', 'pepToMeanDb']],
  ])('%s: the keys of the contract, and the same in words', (kind, name, more, keys) => {
    const args = ['measure', `demo/evidence/${name}`, '--as', kind, ...more];
    const { status, stdout, stderr } = dialtune(...args, '--json');
    expect([status, stderr]).toEqual([0, '']);
    const measured = JSON.parse(stdout);
    for (const key of keys) expect(measured).toHaveProperty(key);
    expect(stdout).not.toMatch(/NaN|Infinity/);
    expect(measured.clippedShare).toBe(0);
    expect(Array.isArray(measured.findings)).toBe(true);
    expect(dialtune(...args).stdout.length).toBeGreaterThan(100);
  });

  it('a negative carrier is a value, not an option, and the demo faults are named', () => {
    const codes = (...args: string[]) =>
      JSON.parse(dialtune('measure', ...args, '--json').stdout).findings.map(({ code }: { code: string }) => code);
    expect(codes('demo/evidence/ssb-clean.wav', '--as', 'ssb', '--carrier', '-3000', '--sideband', 'lsb', '--swap')).not.toContain(
      'wrong-sideband',
    );
    expect(codes('demo/evidence/ssb-overdriven.wav', '--as', 'ssb', '--carrier', '3000')).toEqual(expect.arrayContaining(['overdrive']));
    expect(codes('demo/evidence/ssb-sideband.wav', '--as', 'ssb', '--carrier', '3000')[0]).toBe('opposite-sideband');
    expect(codes('demo/evidence/am-under.wav', '--as', 'am')).toEqual(['under-modulated']);
    expect(codes('demo/evidence/fm-narrow.wav', '--as', 'fm')).toEqual(['narrow-deviation']);
    expect(codes('demo/evidence/sweep-muffled.wav', '--as', 'response')).toContain('roll-off');
  });
});
