/** What is kept of a compiled bundle changes nothing that it does. */
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync, statSync, truncateSync, utimesSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, expect, it } from 'vitest';

let folder: string;
const bundle = () => join(folder, 'small.cjs');
const kept = () => join(folder, 'compiled');
/** A module with one function, `sum` of two numbers. */
const WASM = [
  [0, 97, 115, 109, 1, 0, 0, 0],
  [1, 7, 1, 96, 2, 127, 127, 1, 127],
  [3, 2, 1, 0],
  [7, 7, 1, 3, 115, 117, 109, 0, 0],
  [10, 9, 1, 7, 0, 32, 0, 32, 1, 106, 11],
].flat();
const write = (word: string) => {
  const code = `const late = () => '${word}'; process.exitCode = process.argv[2] === 'bad' ? 1 : 0; console.log(late(), ...process.argv.slice(2));`;
  writeFileSync(bundle(), code);
};
let flags: string[] = [];
const run = (...args: string[]) => {
  const all = [...flags, 'bin/lib/kept.cjs', bundle(), ...args];
  const { stdout, stderr, status } = spawnSync(process.execPath, all, { encoding: 'utf8' });
  return { said: stdout.trim(), stderr, status };
};
const files = () => readdirSync(kept()).map((name) => join(kept(), name));

beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'dialtune-kept-'));
  write('first');
  flags = [];
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

const writeWasm = () =>
  writeFileSync(
    bundle(),
    `const { exports: e } = new WebAssembly.Instance(new WebAssembly.Module(Uint8Array.of(${WASM}))); console.log(e.sum(40, 2));`,
  );
const codes = () => files().filter((file) => file.includes('code-'));

it('machine code is kept as well, and made again where it is cut off, of another build, or another kind of file', () => {
  writeWasm();
  flags = ['--allow-natives-syntax', '--no-liftoff'];
  const right = { said: '42', stderr: '', status: 0 };
  expect(run('measure')).toEqual(right);
  const [file] = codes();
  const whole = readFileSync(file);
  const { ino } = statSync(file);
  expect(run('measure')).toEqual(right);
  expect(statSync(file).ino).toBe(ino);
  for (const spoilt of [
    whole.subarray(0, 100),
    whole.subarray(0, 4),
    Buffer.alloc(0),
    Buffer.concat([whole, whole]),
    Buffer.from('none'),
  ]) {
    writeFileSync(file, spoilt);
    expect(run('measure')).toEqual(right);
    expect(readFileSync(file)).toHaveLength(whole.length);
  }
  // What V8 itself refuses: the code of another version of it.
  writeFileSync(file, Buffer.from(whole).fill(1, 4, 12));
  expect(run('measure')).toEqual(right);
  expect(readFileSync(file)).toEqual(whole);
  utimesSync(bundle(), new Date(), new Date(Date.now() + 5000));
  expect(run('measure')).toEqual(right);
  expect(codes()).toHaveLength(2);
});

it('without the flags it needs no machine code is kept', () => {
  writeWasm();
  for (const some of [[], ['--no-liftoff'], ['--allow-natives-syntax']]) {
    flags = some;
    expect(run('measure')).toEqual({ said: '42', stderr: '', status: 0 });
    expect(codes()).toHaveLength(0);
  }
});
