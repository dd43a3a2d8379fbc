/** The app as it runs: database made ready, then the web server, both ended together. */
import { join } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import { keepRunning, run, startProgram } from './processes.mjs';
import { root } from './root.mjs';

/** Migrates the database, and loads the demo into an empty one when asked to. */
export async function prepare(databaseUrl, { demo }) {
  const status = await run(process.execPath, [join(root, 'dist/prepare.mjs'), ...(demo ? ['--demo'] : [])], {
    cwd: root,
    stdio: ['ignore', 2, 2],
    env: { ...process.env, DIALTUNE_DATABASE_URL: databaseUrl },
  });
  if (status !== 0) throw new Error('The database could not be made ready.');
}

/** How the processes of a data folder are known. */
export const dataMark = (data) => `--data=${data}`;

/**
 * Starts the web server, waits until it answers, and starts it again should it die.
 * @param data folder whose processes it belongs to
 * @param onStart gets its process id as soon as there is one
 */
export async function startServer(databaseUrl, port, { data = root, env = {}, onStart = () => {} } = {}) {
  const address = `http://127.0.0.1:${port}`;
  const kept = await keepRunning({
    name: 'The web server',
    mark: dataMark(data),
    start() {
      const child = startProgram(process.execPath, [join(root, 'dist/web.mjs'), dataMark(data)], {
        cwd: root,
        // With a line to us: it ends when we are gone.
        stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
        env: {
          ...process.env,
          NODE_ENV: 'production',
          NEXT_TELEMETRY_DISABLED: '1',
          DIALTUNE_DATABASE_URL: databaseUrl,
          PORT: String(port),
          ...env,
        },
      });
      child.unref();
      if (child.pid) onStart(child.pid);
      return { child, isUp: () => isAnswering(address) };
    },
  });
  return {
    address,
    get pid() {
      return kept.pid;
    },
    stop: () => kept.stop(),
  };
}

async function isAnswering(address) {
  for (let tries = 0; tries < 600; tries++) {
    if (
      await fetch(`${address}/api/health`).then(
        ({ ok }) => ok,
        () => false,
      )
    )
      return;
    await wait(100);
  }
  throw new Error('The web server does not answer.');
}
