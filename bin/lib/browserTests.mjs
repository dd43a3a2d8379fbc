/** Runs the browser tests (or another Playwright config) against the built app with a throw-away database. */
import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { prepare, startServer } from './app.mjs';
import { build } from './build.mjs';
import { startMariadb } from './mariadb.mjs';
import { freePort } from './processes.mjs';
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

/** @returns Playwright's exit code */
export async function browserTests(url, args = [], env = {}) {
  await build();
  await prepare(url, { demo: true });
  const server = await startServer(url, await freePort());
  try {
    return await new Promise((resolve) => {
      const config = args.includes('--config') ? [] : ['--config', 'tests/playwright.config.ts'];
      const child = spawn(process.execPath, ['node_modules/@playwright/test/cli.js', 'test', ...config, ...args], {
        cwd: root,
        stdio: 'inherit',
        env: { ...process.env, ...env, DIALTUNE_ADDRESS: server.address },
      });
      child.on('exit', (code) => resolve(code ?? 1));
    });
  } finally {
    await server.stop();
  }
}

if (import.meta.url === pathToFileURL(process.argv[1]).href) {
  process.exitCode = await withDatabase((url) => browserTests(url, process.argv.slice(2)));
}
