import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { dialtune } from '../../tests/support/dialtune.ts';
import { temporaryFolder } from '../../tests/support/files.ts';

const folder = temporaryFolder();

const _file = (name: string, content: Uint8Array | string) => {
  const path = join(folder, name);
  writeFileSync(path, content);
  return path;
};

describe('dialtune tone', () => {
  it('writes signals that measure as what they are, with a caution', () => {
    const sweep = join(folder, 'sweep.wav');
    const { status, stdout } = dialtune('tone', 'sweep', '--out', sweep, '--seconds', '3', '--rate', '16000', '--level', '-10', '--json');
    expect(status).toBe(0);
    expect(JSON.parse(stdout).caution).toMatch(/dummy load/);
    const { passbandHz, clockPpm, curve } = JSON.parse(dialtune('measure', sweep, '--as', 'response', '--json').stdout);
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
    const { status, stderr } = dialtune(...(args as string[]));
    expect(status).toBe(code);
    expect(stderr).toContain(words);
  });
});
