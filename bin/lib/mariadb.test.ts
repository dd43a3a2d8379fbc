import { chmodSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { delimiter, join } from 'node:path';
import { afterEach, beforeEach, expect, it } from 'vitest';
// @ts-expect-error plain JavaScript
import { startMariadb } from './mariadb.mjs';

const usual = process.env.PATH ?? '';
const usualTmp = process.env.TMPDIR;
let folder = '';
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'dialtune-install-'));
});
afterEach(() => {
  process.env.PATH = usual;
  if (usualTmp === undefined) delete process.env.TMPDIR;
  else process.env.TMPDIR = usualTmp;
  rmSync(folder, { recursive: true, force: true });
});

/** A mariadb-install-db before the real one, which fails so many times; each call leaves a line in `calls`. */
function failing(times: number): void {
  const script = `#!/bin/sh
echo call >> "${folder}/calls"
if [ "$(wc -l < "${folder}/calls")" -le ${times} ]; then
  echo "[ERROR] the machine is busy"
  exit 1
fi
PATH="${usual}" exec mariadb-install-db "$@"
`;
  writeFileSync(join(folder, 'mariadb-install-db'), script);
  chmodSync(join(folder, 'mariadb-install-db'), 0o755);
  process.env.PATH = `${folder}${delimiter}${usual}`;
}
const calls = () => readFileSync(join(folder, 'calls'), 'utf8').trim().split('\n').length;

it('a database folder that could not be made once is made the next time', async () => {
  failing(1);
  const database = await startMariadb(join(folder, 'mariadb'));
  await database.stop();
  expect(calls()).toBe(2);
});

it('what another server keeps in the folder for temporary files stays', async () => {
  const others = join(folder, '#sql-temptable-1-2-3.MAI');
  writeFileSync(others, 'of a query that runs');
  process.env.TMPDIR = folder;
  chmodSync(folder, 0o777);
  const database = await startMariadb(join(folder, 'mariadb'));
  await database.stop();
  expect(readFileSync(others, 'utf8')).toBe('of a query that runs');
});

it('one that can never be made is told with the reason', async () => {
  failing(99);
  await expect(startMariadb(join(folder, 'mariadb'))).rejects.toThrow(
    /could not be made \(1\): \[ERROR\] the machine is busy\. All that was said/,
  );
  expect(calls()).toBe(3);
});
