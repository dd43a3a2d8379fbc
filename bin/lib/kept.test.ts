/** What is kept of a compiled bundle changes nothing that it does. */
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readdirSync, rmSync, statSync, truncateSync, utimesSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, expect, it } from 'vitest';

let folder: string;
const bundle = () => join(folder, 'small.cjs');
const kept = () => join(folder, 'compiled');
const write = (word: string) => {
  const code = `const late = () => '${word}'; process.exitCode = process.argv[2] === 'bad' ? 1 : 0; console.log(late(), ...process.argv.slice(2));`;
  writeFileSync(bundle(), code);
};
const run = (...args: string[]) => {
  const { stdout, stderr, status } = spawnSync(process.execPath, ['bin/lib/kept.cjs', bundle(), ...args], { encoding: 'utf8' });
  return { said: stdout.trim(), stderr, status };
};
const files = () => readdirSync(kept()).map((name) => join(kept(), name));

beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'dialtune-kept-'));
  write('first');
});
afterEach(() => rmSync(folder, { recursive: true }));

it('is kept once for each command and used from then on', () => {
  expect(run('measure', '--as', 'ssb')).toEqual({ said: 'first measure --as ssb', stderr: '', status: 0 });
  const [file] = files();
  const { mtimeMs, ino } = statSync(file);
  expect(run('measure', '--as', 'ssb').said).toBe('first measure --as ssb');
  expect(statSync(file)).toMatchObject({ mtimeMs, ino });
  run('measure', '--as', 'voice');
  expect(files()).toHaveLength(2);
});

it('a run that ends early, or only tells how it is called, is not kept', () => {
  expect(run('bad').status).toBe(1);
  run('measure', '--help');
  expect(() => files()).toThrow();
});

it('a bundle of the same length is another one', () => {
  run('measure');
  write('other');
  utimesSync(bundle(), new Date(), new Date(Date.now() + 5000));
  expect(run('measure').said).toBe('other measure');
});

it('what was cut off or is none is made again', () => {
  run('measure');
  const [file] = files();
  const whole = statSync(file).size;
  for (const spoil of [() => truncateSync(file, 100), () => writeFileSync(file, 'none'), () => writeFileSync(file, '')]) {
    spoil();
    expect(run('measure')).toEqual({ said: 'first measure', stderr: '', status: 0 });
    expect(statSync(file).size).toBeGreaterThan(whole / 2);
  }
});

it('works without a place to keep anything', () => {
  writeFileSync(kept(), 'a file where the folder would be');
  expect(run('measure')).toEqual({ said: 'first measure', stderr: '', status: 0 });
});
