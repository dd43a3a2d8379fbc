import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { dialtune } from '../../tests/support/dialtune.ts';
import { temporaryFolder } from '../../tests/support/files.ts';

const folder = temporaryFolder();

const OVER = 'demo/overs/08-bram-muffled.wav';

const _file = (name: string, content: Uint8Array | string) => {
  const path = join(folder, name);
  writeFileSync(path, content);
  return path;
};

describe('dialtune convert', () => {
  it('goes to SigMF and back, sample by sample, and both measure alike', () => {
    const meta = join(folder, 'clean.sigmf-meta');
    expect(dialtune('convert', 'demo/evidence/ssb-clean.wav', meta).status).toBe(0);
    const back = join(folder, 'back.wav');
    expect(dialtune('convert', meta, back).status).toBe(0);
    expect(readFileSync(back).subarray(44).equals(readFileSync('demo/evidence/ssb-clean.wav').subarray(44))).toBe(true);
    const numbers = (path: string) => dialtune('measure', path, '--as', 'ssb', '--carrier', '3000', '--json').stdout;
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
    const { status, stderr } = dialtune(...(args as string[]));
    expect(status).toBe(code);
    expect(stderr.trim().split('\n')).toHaveLength(1);
  });
});
