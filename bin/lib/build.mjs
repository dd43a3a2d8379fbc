/** Builds the server's bundles and the web app where they are older than the sources. */
import { spawnSync } from 'node:child_process';
import { existsSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { bundle, newest } from './bundle.mjs';
import { root } from './root.mjs';

const SOURCES = ['src', 'package-lock.json', 'next.config.ts', 'tsconfig.json'];

/** @throws Error when the build fails */
export async function build() {
  await bundle(['measureWorker', 'practiceWorker', 'prepare']);
  const stamp = join(root, '.next', 'BUILD_ID');
  const changed = Math.max(...SOURCES.map((name) => newest(join(root, name))));
  if (existsSync(stamp) && statSync(stamp).mtimeMs > changed) return;
  console.error('Building ...');
  const { status } = spawnSync(process.execPath, ['node_modules/next/dist/bin/next', 'build'], {
    cwd: root,
    stdio: ['ignore', 2, 2],
    env: { ...process.env, NODE_ENV: 'production', NEXT_TELEMETRY_DISABLED: '1' },
  });
  if (status !== 0) throw new Error('The build failed.');
}
