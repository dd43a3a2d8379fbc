/** Child processes that outlive a Ctrl-C until they are told, are started again when they die, and what an earlier run left. */
import { spawn } from 'node:child_process';
import { readdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { setTimeout as wait } from 'node:timers/promises';

/** Starts a program in a process group of its own, so that Ctrl-C does not reach it before we say so. */
export const startProgram = (program, args, options = {}) => spawn(program, args, { detached: true, ...options });

/** Runs a program to its end. @returns its exit code; null when it was killed */
export const run = (program, args, options = {}) =>
  new Promise((resolve, reject) => {
    const child = spawn(program, args, options);
    child.once('error', reject);
    child.once('exit', (code) => resolve(code));
  });

/** Command line of a running process; empty when there is none. */
export function commandLine(pid) {
  try {
    return readFileSync(`/proc/${pid}/cmdline`, 'utf8').replaceAll('\0', ' ').trim();
  } catch {
    return '';
  }
}

/** Ids of the running processes that were given exactly this argument. */
export const processesWith = (argument) =>
  readdirSync('/proc').filter((name) => /^\d+$/.test(name) && ` ${commandLine(name)} `.includes(` ${argument} `));

/** Ends a process by its id when its command line holds `mark`; waits until it is gone. */
export async function endProcess(pid, mark, patienceMs = 20_000) {
  for (let waited = 0; commandLine(pid).includes(mark); waited += 100) {
    try {
      if (waited === 0) process.kill(pid, 'SIGTERM');
      if (waited > patienceMs) process.kill(pid, 'SIGKILL');
    } catch (error) {
      // It ended between the look and the signal.
      if (error.code !== 'ESRCH') throw error;
    }
    await wait(100);
  }
}

/** Ends whatever of an earlier run was given this argument, say a data folder. */
export async function endLeftovers(argument) {
  for (const pid of processesWith(argument)) await endProcess(Number(pid), argument);
}

/** Deaths further back than this are forgotten. */
const REMEMBERED_MS = 60_000;
/** So many deaths in that time are answered at once; each further one doubles the pause. */
const AT_ONCE = 5;
const LONGEST_PAUSE_S = 30;

/**
 * Starts a program and starts it again whenever it dies, with growing pauses when it dies again and again. It never
 * gives up, and says what it does.
 * @param name how it is called to people, with its article
 * @param start spawns it; `isUp` resolves once it works
 * @throws Error when it does not come up the first time
 */
export async function keepRunning({ name, mark, start, say = (text) => console.error(text) }) {
  let child = null;
  let isStopping = false;
  let isUp = false;
  let deaths = [];
  const launch = () => {
    const started = start();
    child = started.child;
    // A program that can't be spawned at all tells so here; it never exits.
    const gone = new Promise((resolve) => {
      child.once('exit', (code, signal) => resolve(signal ?? `code ${code}`));
      child.once('error', (error) => resolve(error.message));
    });
    void gone.then(async (why) => {
      if (isStopping || !isUp) return;
      deaths = [...deaths.filter((time) => time > Date.now() - REMEMBERED_MS), Date.now()];
      const pauseS = deaths.length <= AT_ONCE ? 0 : Math.min(LONGEST_PAUSE_S, 2 ** (deaths.length - AT_ONCE - 1));
      const often = deaths.length > 1 ? `, ${deaths.length} times in a minute` : '';
      say(`${name} ended (${why})${often}; starting it again${pauseS > 0 ? ` in ${pauseS} s` : ''}.`);
      await wait(1000 * pauseS, undefined, { ref: !isStopping });
      // One that dies before it works is started again by its own exit.
      if (!isStopping) launch().catch(() => {});
    });
    return Promise.race([started.isUp(), gone.then((why) => Promise.reject(new Error(`${name} did not start (${why}).`)))]);
  };
  await launch();
  isUp = true;
  return {
    get pid() {
      return child.pid;
    },
    async stop() {
      isStopping = true;
      if (child.exitCode === null && child.signalCode === null && child.pid) await endProcess(child.pid, mark);
    },
  };
}

/** Writes a file whole or not at all, whatever happens meanwhile. */
export function writeWhole(path, text, mode = 0o600) {
  const half = `${path}.${process.pid}`;
  writeFileSync(half, text, { mode });
  renameSync(half, path);
}

/** A TCP port on loopback that is free now. */
export const freePort = () =>
  new Promise((resolve, reject) => {
    const server = createServer();
    server.on('error', reject);
    server.listen(0, '127.0.0.1', () => {
      const { port } = server.address();
      server.close(() => resolve(port));
    });
  });

/** Whether nothing listens on a loopback port. */
export const isFree = (port) =>
  new Promise((resolve) => {
    const server = createServer();
    server.on('error', () => resolve(false));
    server.listen(port, '127.0.0.1', () => server.close(() => resolve(true)));
  });
