/** The command line as people run it: output, exit codes, one clear line for every error. */
import { execFileSync, spawnSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { temporaryFolder } from '../support/files.ts';
import { silence, sine, voiceLike, wavBytes } from '../support/signals.ts';

const folder = temporaryFolder();
const RIG = 'demo/rigs/tern-100.json';
const OVER = 'demo/overs/08-bram-muffled.wav';
const run = (...args: string[]) => {
  const { status, stdout, stderr } = spawnSync(process.execPath, ['dist/dialtune.mjs', ...args], { encoding: 'utf8' });
  return { status, stdout, stderr };
};
const file = (name: string, content: Uint8Array | string) => {
  const path = join(folder, name);
  writeFileSync(path, content);
  return path;
};

beforeAll(() => {
  execFileSync('bin/dialtune', ['--help']);
}, 60_000);

describe('dialtune measure', () => {
  it('prints one JSON object with the keys of the contract and nothing else', () => {
    const { status, stdout, stderr } = run('measure', OVER, '--as', 'voice', '--json');
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
    const { status, stdout } = run('measure', OVER);
    expect(status).toBe(0);
    expect(stdout).toContain('active speech level');
    expect(stdout).toContain('muffled');
  });

  it('measures against a reference, and one channel', () => {
    const stereo = file('stereo.wav', wavBytes(8000, [voiceLike(8000, 2), silence(8000, 2)]));
    expect(JSON.parse(run('measure', stereo, '--channel', '2', '--json').stdout).activeSpeechLevelDb).toBeNull();
    const same = JSON.parse(run('measure', OVER, '--reference', OVER, '--json').stdout);
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
    const { status, stdout, stderr } = run(...(args as string[]));
    expect(status).toBe(code);
    expect(stdout).toBe('');
    expect(stderr.trim().split('\n')).toHaveLength(1);
    expect(stderr).toMatch(/^dialtune: ./);
    expect(stderr).not.toContain('    at ');
  });

  it('measures what is there of a broken file and says so', () => {
    const cut = file('cut.wav', wavBytes(8000, [sine(8000, 300, 2)]).slice(0, 60_000));
    const measured = JSON.parse(run('measure', cut, '--json').stdout);
    expect(measured.durationS).toBeLessThan(1);
    expect(measured.notes.durationS).toContain('cut short');
  });
});

describe('dialtune fit', () => {
  it('names dials, menu addresses and values that a practised operator would nod at', () => {
    const { status, stdout } = run('fit', '--rig', RIG, '--voice', OVER, '--purpose', 'pile-up', '--json');
    expect(status).toBe(0);
    const fit = JSON.parse(stdout);
    expect(fit.errorAfterDb).toBeLessThan(0.5 * fit.errorBeforeDb);
    const high = fit.moves.find(({ dial }: { dial: string }) => dial === 'n-high-level');
    expect(high.to).toBeGreaterThan(3);
    expect(high.menu).toBe('4.18');
    expect(fit.moves.map(({ menu }: { menu: string }) => menu)).toEqual([...fit.moves.map(({ menu }: { menu: string }) => menu)].sort());
    expect(fit.nextMove.dial).toBe('mic-eq');
    // What each of the live bank's bands does, in words.
    expect(fit.bands).toHaveLength(3);
    expect(fit.bands[2]).toContain('lifts the consonants');
  });

  it('counts a microphone curve in', () => {
    const bright = file('mic.csv', '100,0\n1000,0\n2500,14\n4000,14\n');
    const before = (extra: string[]) =>
      JSON.parse(run('fit', '--rig', RIG, '--voice', OVER, '--purpose', 'pile-up', '--json', ...extra).stdout).errorBeforeDb;
    expect(before(['--mic', bright])).toBeLessThan(before([]) - 2);
  });

  it.each([
    ['no rig', ['--voice', OVER, '--purpose', 'contest'], 2, '--rig is missing'],
    ['a purpose that is none', ['--rig', RIG, '--voice', OVER, '--purpose', 'fun'], 2, 'natural, balanced, pile-up, contest'],
    ['a rig without equalizer', ['--rig', 'demo/rigs/dunlin-fm.json', '--voice', OVER, '--purpose', 'natural'], 1, 'has no equalizer'],
    ['a rig file that is no rig', ['--rig', 'package.json', '--voice', OVER, '--purpose', 'natural'], 1, 'not a valid rig profile'],
    ['a rig file that is no JSON', ['--rig', OVER, '--voice', OVER, '--purpose', 'natural'], 1, 'not valid JSON'],
  ])('%s', (_, args, code, words) => {
    const { status, stderr } = run('fit', ...(args as string[]));
    expect(status).toBe(code);
    expect(stderr).toContain(words);
  });
});

describe('dialtune sheet', () => {
  const card = (values: object) => JSON.stringify({ format: 'dialtune-card', version: 1, mode: 'usb', values });

  it('lists what must change between two cards, in menu order', () => {
    const from = file('from.json', card({ 'mic-eq': 'on', 'n-low-level': 3 }));
    const to = file('to.json', card({ 'mic-eq': 'on', 'n-high-level': 6, 'n-low-level': -2 }));
    const { lines } = JSON.parse(run('sheet', '--rig', RIG, '--card', to, '--from', from, '--json').stdout);
    expect(lines.map(({ menu, from: old, to: next }: Record<string, unknown>) => [menu, old, next])).toEqual([
      ['4.12', 3, -2],
      ['4.18', 0, 6],
    ]);
    expect(run('sheet', '--rig', RIG, '--card', to).stdout).toContain('[ ] High band N, level (4.18): 0 dB -> +6 dB');
  });

  it('refuses a value off the dial, and says the range', () => {
    const bad = file('bad.json', card({ 'n-low-level': 99 }));
    const { status, stderr } = run('sheet', '--rig', RIG, '--card', bad);
    expect(status).toBe(1);
    expect(stderr).toContain("can't be 99; it goes -20 to 20 dB");
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
    const { status, stdout, stderr } = run(...args, '--json');
    expect([status, stderr]).toEqual([0, '']);
    const measured = JSON.parse(stdout);
    for (const key of keys) expect(measured).toHaveProperty(key);
    expect(stdout).not.toMatch(/NaN|Infinity/);
    expect(measured.clippedShare).toBe(0);
    expect(Array.isArray(measured.findings)).toBe(true);
    expect(run(...args).stdout.length).toBeGreaterThan(100);
  });

  it('a negative carrier is a value, not an option, and the demo faults are named', () => {
    const codes = (...args: string[]) =>
      JSON.parse(run('measure', ...args, '--json').stdout).findings.map(({ code }: { code: string }) => code);
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

describe('dialtune convert', () => {
  it('goes to SigMF and back, sample by sample, and both measure alike', () => {
    const meta = join(folder, 'clean.sigmf-meta');
    expect(run('convert', 'demo/evidence/ssb-clean.wav', meta).status).toBe(0);
    const back = join(folder, 'back.wav');
    expect(run('convert', meta, back).status).toBe(0);
    expect(readFileSync(back).subarray(44).equals(readFileSync('demo/evidence/ssb-clean.wav').subarray(44))).toBe(true);
    const numbers = (path: string) => run('measure', path, '--as', 'ssb', '--carrier', '3000', '--json').stdout;
    expect(numbers(meta)).toBe(numbers('demo/evidence/ssb-clean.wav'));
    writeFileSync(join(folder, 'clean.sigmf-data'), Buffer.alloc(4000, 7));
    expect(JSON.parse(numbers(join(folder, 'clean.sigmf-data'))).notes.durationS).toContain('SHA-512');
  });

  it.each([
    ['one file', ['convert', OVER], 2],
    ['WAV to WAV', ['convert', OVER, 'x.wav'], 2],
    ['a single channel', ['convert', OVER, join(folder, 'x.sigmf-meta')], 1],
    ['a folder that is not there', ['convert', 'demo/evidence/am-under.wav', '/nowhere/x.sigmf-meta'], 1],
  ])('%s is refused in one line', (_, args, code) => {
    const { status, stderr } = run(...(args as string[]));
    expect(status).toBe(code);
    expect(stderr.trim().split('\n')).toHaveLength(1);
  });
});

describe('dialtune tone', () => {
  it('writes signals that measure as what they are, with a caution', () => {
    const sweep = join(folder, 'sweep.wav');
    const { status, stdout } = run('tone', 'sweep', '--out', sweep, '--seconds', '3', '--rate', '16000', '--level', '-10', '--json');
    expect(status).toBe(0);
    expect(JSON.parse(stdout).caution).toMatch(/dummy load/);
    const { passbandHz, clockPpm, curve } = JSON.parse(run('measure', sweep, '--as', 'response', '--json').stdout);
    expect(passbandHz).toEqual([null, null]);
    expect(Math.abs(clockPpm)).toBeLessThan(0.5);
    for (const [, db] of curve.filter(([hz]: [number]) => hz < 5000)) expect(Math.abs(db)).toBeLessThan(0.1);
  });

  it.each([
    ['no signal', ['tone', '--out', 'x.wav'], 2, 'sweep'],
    ['no file', ['tone', 'pink'], 2, '--out'],
    ['a level above full scale', ['tone', 'pink', '--out', 'x.wav', '--level', '3'], 2, '-80 to 0'],
    ['half a second of sweep', ['tone', 'sweep', '--out', 'x.wav', '--seconds', '3.5'], 2, 'whole number'],
    ['a folder that is not there', ['tone', 'pink', '--out', '/nowhere/x.wav'], 1, '/nowhere/x.wav'],
  ])('%s', (_, args, code, words) => {
    const { status, stderr } = run(...(args as string[]));
    expect(status).toBe(code);
    expect(stderr).toContain(words);
  });
});

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
    const made = run(
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
    const measured = JSON.parse(run('measure', iq, '--as', 'ssb', '--json').stdout);
    expect(measured.durationS).toBeCloseTo(JSON.parse(made.stdout).durationS, 2);
    expect(Math.abs(measured.passbandHz[0] - 320)).toBeLessThan(90);
    const audio = join(folder, 'far.wav');
    expect(run('simulate', '--station', station(), '--voice', OVER, '--out', audio, '--receiver', 'far').stdout).toContain(
      'audio of far, simulated',
    );
    expect(JSON.parse(run('measure', audio, '--json').stdout).activeSpeechLevelDb).toBeGreaterThan(-40);
  });

  it('is the same for the same seed', () => {
    const [a, b] = ['a.wav', 'b.wav'].map((name) => {
      run('simulate', '--station', station({ seed: 5 }), '--voice', OVER, '--out', join(folder, name));
      return readFileSync(join(folder, name));
    });
    expect(a.equals(b)).toBe(true);
  });

  it('tells reach with its doubt, naturalness and a second opinion', () => {
    const { status, stdout } = run('reach', '--station', station(), '--voice', OVER, '--json');
    expect(status).toBe(0);
    const told = JSON.parse(stdout);
    expect(Number.isFinite(told.reachDb)).toBe(true);
    expect(told.uncertaintyDb).toBeGreaterThan(0);
    expect(told.naturalness).toBeGreaterThan(10);
    expect(told.naturalness).toBeLessThan(100);
    expect(told.secondOpinion.stoi).toBeGreaterThan(0);
    expect(run('reach', '--station', station(), '--voice', OVER).stdout).toMatch(
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
    ['a mode without reach', ['reach', '--station', 'AM', '--voice', OVER], 1, 'single sideband only'],
  ])('%s: one clear line', (_, args, status, words) => {
    const files: Record<string, () => string> = {
      STATION: () => station(),
      BAD: () => file('bad.json', JSON.stringify({ rig, card: {}, truth: { alc: { ratio: 0 } } })),
      FOREIGN: () => file('foreign.json', JSON.stringify({ rig, card: { loudness: 3 } })),
      AM: () => file('am.json', JSON.stringify({ rig, card: {}, mode: 'am' })),
      SILENCE: () => file('silence.wav', wavBytes(8000, [silence(8000, 2)])),
    };
    const answer = run(...args.map((arg) => files[arg]?.() ?? arg));
    expect(answer.status).toBe(status);
    expect(answer.stdout).toBe('');
    expect(answer.stderr).toMatch(/^dialtune: .+\n$/);
    expect(answer.stderr).toContain(words);
  });
});
