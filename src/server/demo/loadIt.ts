/** Loads the demo club into the empty station, in a process of its own: measuring its overs is seconds of work. */
import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { database } from '../db/database.ts';
import { Refused } from '../requests/refused.ts';

/** One at a time, whoever asks; kept on globalThis as the framework may load this module more than once. */
const shared = globalThis as { dialTuneDemo?: Promise<void> };

function run(): Promise<void> {
  return new Promise((done, failed) => {
    const child = spawn(process.execPath, [join(process.cwd(), 'dist', 'prepare.mjs'), '--demo'], {
      stdio: ['ignore', 'ignore', 'inherit'],
    });
    child.on('error', failed);
    child.on('exit', (code) => (code === 0 ? done() : failed(new Error(`The demo's loader ended with ${code}.`))));
  });
}

/** @throws Refused when the station holds something of its own */
export async function loadDemoClub(): Promise<void> {
  const { operators, demo } = database().models;
  const isLoading = shared.dialTuneDemo !== undefined || (await demo.count({ where: { state: 'loading' } })) > 0;
  if (!isLoading && (await operators.count()) > 0) {
    throw new Refused('The station is not empty. Export it first, then empty it on the Station page.', 409);
  }
  shared.dialTuneDemo ??= run().finally(() => {
    shared.dialTuneDemo = undefined;
  });
  await shared.dialTuneDemo;
}
