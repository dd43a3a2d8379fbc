/** Builds the server's bundles and the web app where they are older than the sources. */
import { existsSync, mkdirSync, rmSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { bundle, newest } from './bundle.mjs';
import { run, writeWhole } from './processes.mjs';
import { root } from './root.mjs';

const SOURCES = ['src', 'package.json', 'package-lock.json', 'next.config.ts', 'tsconfig.json'];
/** Written when a build has come to its end: a build that was killed leaves everything else. */
const STAMP = join(root, '.next', 'dialtune-built');

/** Two copies that start at once build once: the second waits. @throws Error when the build fails */
export async function build() {
  mkdirSync(join(root, '.data'), { recursive: true });
  const status = await run('flock', [join(root, '.data', 'build.lock'), process.execPath, join(root, 'bin/lib/build.mjs')], {
    cwd: root,
    stdio: ['ignore', 2, 2],
  });
  if (status !== 0) throw new Error('The build failed.');
}

async function buildNow() {
  await bundle(['measureWorker', 'practiceWorker', 'prepare', 'web']);
  const changed = Math.max(...SOURCES.map((name) => newest(join(root, name))));
  if (existsSync(STAMP) && statSync(STAMP).mtimeMs > changed) return 0;
  console.error('Building ...');
  rmSync(STAMP, { force: true });
  const status = await run(process.execPath, ['node_modules/next/dist/bin/next', 'build'], {
    cwd: root,
    stdio: ['ignore', 2, 2],
    env: { ...process.env, NODE_ENV: 'production', NEXT_TELEMETRY_DISABLED: '1' },
  });
  if (status === 0) writeWhole(STAMP, '');
  return status;
}

if (import.meta.url === pathToFileURL(process.argv[1]).href) process.exitCode = (await buildNow()) ?? 1;
