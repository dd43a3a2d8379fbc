/** Child processes that outlive a Ctrl-C until they are told, and what an earlier run may have left behind. */
import { spawn } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { setTimeout as wait } from 'node:timers/promises';

/** Starts a program in a process group of its own, so that Ctrl-C does not reach it before we say so. */
export const startProgram = (program, args, options = {}) => spawn(program, args, { detached: true, ...options });

/** Command line of a running process; empty when there is none. */
export function commandLine(pid) {
  try {
    return readFileSync(`/proc/${pid}/cmdline`, 'utf8').replaceAll('\0', ' ').trim();
  } catch {
    return '';
  }
}

/** Ends a process by its id when its command line holds `mark`; waits until it is gone. */
export async function endProcess(pid, mark, patienceMs = 20_000) {
  for (let waited = 0; commandLine(pid).includes(mark); waited += 100) {
    if (waited === 0) process.kill(pid, 'SIGTERM');
    if (waited > patienceMs) process.kill(pid, 'SIGKILL');
    await wait(100);
  }
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
