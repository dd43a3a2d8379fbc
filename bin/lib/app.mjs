/** The app as it runs: database made ready, then the web server, both ended together. */
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import { endProcess, startProgram } from './processes.mjs';
import { root } from './root.mjs';

/** Migrates the database, and loads the demo into an empty one when asked to. */
export function prepare(databaseUrl, { demo }) {
  const { status } = spawnSync(process.execPath, [join(root, 'dist/prepare.mjs'), ...(demo ? ['--demo'] : [])], {
    cwd: root,
    stdio: ['ignore', 2, 2],
    env: { ...process.env, DIALTUNE_DATABASE_URL: databaseUrl },
  });
  if (status !== 0) throw new Error('The database could not be made ready.');
}

/** Starts the web server and waits until it answers. */
export async function startServer(databaseUrl, port) {
  const child = startProgram(
    process.execPath,
    [join(root, 'node_modules/next/dist/bin/next'), 'start', '-H', '127.0.0.1', '-p', String(port)],
    {
      cwd: root,
      stdio: ['ignore', 'ignore', 'inherit'],
      env: { ...process.env, NODE_ENV: 'production', NEXT_TELEMETRY_DISABLED: '1', DIALTUNE_DATABASE_URL: databaseUrl },
    },
  );
  const address = `http://127.0.0.1:${port}`;
  for (let tries = 0; ; tries++) {
    if (child.exitCode !== null || tries > 600) throw new Error('The web server did not start.');
    if (
      await fetch(`${address}/api/health`).then(
        ({ ok }) => ok,
        () => false,
      )
    )
      break;
    await wait(100);
  }
  return {
    address,
    pid: child.pid,
    ended: new Promise((resolve) => child.once('exit', resolve)),
    stop: () => (child.exitCode === null ? endProcess(child.pid, 'next', 5000) : Promise.resolve()),
  };
}
