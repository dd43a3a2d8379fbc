import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { dialtune } from '../../tests/support/dialtune.ts';
import { temporaryFolder } from '../../tests/support/files.ts';

const folder = temporaryFolder();

const RIG = 'demo/rigs/tern-100.json';

const OVER = 'demo/overs/08-bram-muffled.wav';

const file = (name: string, content: Uint8Array | string) => {
  const path = join(folder, name);
  writeFileSync(path, content);
  return path;
};

describe('dialtune fit', () => {
  it('names dials, menu addresses and values that a practised operator would nod at', () => {
    const { status, stdout } = dialtune('fit', '--rig', RIG, '--voice', OVER, '--purpose', 'pile-up', '--json');
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
      JSON.parse(dialtune('fit', '--rig', RIG, '--voice', OVER, '--purpose', 'pile-up', '--json', ...extra).stdout).errorBeforeDb;
    expect(before(['--mic', bright])).toBeLessThan(before([]) - 2);
  });

  it.each([
    ['no rig', ['--voice', OVER, '--purpose', 'contest'], 2, '--rig is missing'],
    ['a purpose that is none', ['--rig', RIG, '--voice', OVER, '--purpose', 'fun'], 2, 'natural, balanced, pile-up, contest'],
    ['a rig without equalizer', ['--rig', 'demo/rigs/dunlin-fm.json', '--voice', OVER, '--purpose', 'natural'], 1, 'has no equalizer'],
    ['a rig file that is no rig', ['--rig', 'package.json', '--voice', OVER, '--purpose', 'natural'], 1, 'not a valid rig profile'],
    ['a rig file that is no JSON', ['--rig', OVER, '--voice', OVER, '--purpose', 'natural'], 1, 'not valid JSON'],
  ])('%s', (_, args, code, words) => {
    const { status, stderr } = dialtune('fit', ...(args as string[]));
    expect(status).toBe(code);
    expect(stderr).toContain(words);
  });
});
