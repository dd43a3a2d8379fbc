import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { dialtune } from '../../tests/support/dialtune.ts';
import { temporaryFolder } from '../../tests/support/files.ts';

const folder = temporaryFolder();

const RIG = 'demo/rigs/tern-100.json';

const file = (name: string, content: Uint8Array | string) => {
  const path = join(folder, name);
  writeFileSync(path, content);
  return path;
};

describe('dialtune sheet', () => {
  const card = (values: object) => JSON.stringify({ format: 'dialtune-card', version: 1, mode: 'usb', values });

  it('lists what must change between two cards, in menu order', () => {
    const from = file('from.json', card({ 'mic-eq': 'on', 'n-low-level': 3 }));
    const to = file('to.json', card({ 'mic-eq': 'on', 'n-high-level': 6, 'n-low-level': -2 }));
    const { lines } = JSON.parse(dialtune('sheet', '--rig', RIG, '--card', to, '--from', from, '--json').stdout);
    expect(lines.map(({ menu, from: old, to: next }: Record<string, unknown>) => [menu, old, next])).toEqual([
      ['4.12', 3, -2],
      ['4.18', 0, 6],
    ]);
    expect(dialtune('sheet', '--rig', RIG, '--card', to).stdout).toContain('[ ] High band N, level (4.18): 0 dB -> +6 dB');
  });

  it('refuses a value off the dial, and says the range', () => {
    const bad = file('bad.json', card({ 'n-low-level': 99 }));
    const { status, stderr } = dialtune('sheet', '--rig', RIG, '--card', bad);
    expect(status).toBe(1);
    expect(stderr).toContain("can't be 99; it goes -20 to 20 dB");
  });
});
