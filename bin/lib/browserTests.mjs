/** Runs the browser tests (or another Playwright config) against the built app with throw-away databases. */
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { prepare, startServer } from './app.mjs';
import { build } from './build.mjs';
import { startMariadb } from './mariadb.mjs';
import { freePort, run } from './processes.mjs';
import { root } from './root.mjs';

/** A MariaDB that goes away with its folder. @param use gets its address */
export async function withDatabase(use) {
  const folder = mkdtempSync(join(tmpdir(), 'dialtune-test-'));
  const database = await startMariadb(join(folder, 'mariadb'));
  try {
    return await use(database.url);
  } finally {
    await database.stop();
    rmSync(folder, { recursive: true, force: true });
  }
}

/** Each of Playwright's workers has a station of its own: their tests change what is in it. */
const STATIONS = 2;

/** @returns Playwright's exit code */
export async function browserTests(args = [], env = {}) {
  await build();
  const isOther = args.includes('--config');
  return withStations(isOther ? 1 : STATIONS, (addresses) =>
    run(
      process.execPath,
      ['node_modules/@playwright/test/cli.js', 'test', ...(isOther ? [] : ['--config', 'tests/playwright.config.ts']), ...args],
      { cwd: root, stdio: 'inherit', env: { ...process.env, ...env, DIALTUNE_ADDRESSES: addresses.join(',') } },
    ),
  );
}

/** So many apps with the demo, each on a database of its own. @param use gets their addresses */
function withStations(count, use, addresses = []) {
  if (addresses.length === count) return use(addresses);
  return withDatabase(async (url) => {
    await prepare(url, { demo: true });
    const server = await startServer(url, await freePort());
    try {
      return await withStations(count, use, [...addresses, server.address]);
    } finally {
      await server.stop();
    }
  });
}

if (import.meta.url === pathToFileURL(process.argv[1]).href) {
  process.exitCode = (await browserTests(process.argv.slice(2))) ?? 1;
}
