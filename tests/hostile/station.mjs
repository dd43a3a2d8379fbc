/** A station of its own to be hard on: bin/start in a throw-away folder, and what a page would ask of it. */
import { spawn } from 'node:child_process';
import { createHash } from 'node:crypto';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import { dataMark } from '../../bin/lib/app.mjs';
import { freePort, processesWith } from '../../bin/lib/processes.mjs';
import { root } from '../../bin/lib/root.mjs';

export const hashOf = (bytes) => createHash('sha256').update(bytes).digest('hex');

/** Numbers that look random and are the same for the same seed (mulberry32, public domain). */
export function seeded(seed) {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = Math.imul(state ^ (state >>> 15), state | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 2 ** 32;
  };
}

/** Three seconds of noise bursts as a WAV file: small, measurable, and never the same twice. */
export function recording(random) {
  const [rateHz, seconds] = [8000, 3];
  const bytes = Buffer.alloc(44 + 2 * rateHz * seconds);
  bytes.write('RIFF', 0);
  bytes.writeUInt32LE(bytes.length - 8, 4);
  bytes.write('WAVEfmt ', 8);
  for (const [at, value] of [
    [16, 16],
    [24, rateHz],
    [28, 2 * rateHz],
    [40, bytes.length - 44],
  ])
    bytes.writeUInt32LE(value, at);
  for (const [at, value] of [
    [20, 1],
    [22, 1],
    [32, 2],
    [34, 16],
  ])
    bytes.writeUInt16LE(value, at);
  bytes.write('data', 36);
  for (let n = 0; n < rateHz * seconds; n++) {
    const isLoud = Math.floor(n / 2000) % 3 > 0;
    bytes.writeInt16LE(Math.round((isLoud ? 6000 : 30) * (2 * random() - 1)), 44 + 2 * n);
  }
  return bytes;
}

export class Station {
  #child = null;
  said = '';

  static async make({ env = {} } = {}) {
    const station = new Station();
    station.folder = mkdtempSync(join(tmpdir(), 'dialtune-hostile-'));
    station.port = await freePort();
    station.address = `http://127.0.0.1:${station.port}`;
    station.env = env;
    return station;
  }

  /** Runs bin/start, with the demo unless told otherwise; does not wait for it. */
  launch(args = ['--demo']) {
    const child = spawn(join(root, 'bin/start'), args, {
      env: { ...process.env, ...this.env, DIALTUNE_DATA: this.folder, DIALTUNE_DATABASE_URL: '', PORT: String(this.port) },
    });
    const hear = (text) => {
      this.said += text;
      child.isServing ||= String(text).includes('Dial Tune is at');
    };
    child.stdout.on('data', hear);
    child.stderr.on('data', hear);
    child.ended = new Promise((resolve) => child.once('exit', resolve));
    this.#child = child;
    return child;
  }

  /** Waits until the station answers. @throws Error with what bin/start said */
  async up(patienceMs = 90_000) {
    for (const end = Date.now() + patienceMs; Date.now() < end; await wait(100)) {
      // The server of a start that was killed may answer for a moment longer.
      if (this.#child.isServing && (await this.status('/api/health')) === 200) return;
      if (this.#child.exitCode !== null) throw new Error(`bin/start ended with ${this.#child.exitCode}: ${this.said.slice(-2000)}`);
    }
    throw new Error(`The station did not come up: ${this.said.slice(-2000)}`);
  }

  async status(path) {
    return fetch(this.address + path).then(
      ({ status }) => status,
      () => 0,
    );
  }

  /** Kills one of the station's processes, if it runs now. @returns whether it did */
  kill(which) {
    const pid = which === 'start' ? this.#child?.pid : this.#pids()[which];
    try {
      process.kill(pid, 'SIGKILL');
      return true;
    } catch {
      return false;
    }
  }

  get start() {
    return this.#child;
  }

  #pids() {
    const read = (path, use) => {
      try {
        return use(readFileSync(join(this.folder, path), 'utf8'));
      } catch {
        return undefined;
      }
    };
    return { server: read('running.json', (text) => JSON.parse(text).server), database: read('mariadb/mariadbd.pid', Number) };
  }

  /** Stops it as Ctrl-C does, and looks that nothing stays behind. @returns what stayed */
  async stop() {
    if (this.#child && this.#child.exitCode === null && this.#child.signalCode === null) {
      this.#child.kill('SIGINT');
      await this.#child.ended;
    }
    const left = [dataMark(this.folder), `--datadir=${join(this.folder, 'mariadb', 'data')}`].flatMap(processesWith);
    for (const pid of left) process.kill(Number(pid), 'SIGKILL');
    rmSync(this.folder, { recursive: true, force: true, maxRetries: 20, retryDelay: 100 });
    return left;
  }

  /** What a page's server action answers. @throws Error when the server did not answer at all */
  async act(name, input) {
    actions ??= readActions();
    const response = await fetch(`${this.address}${PAGE_OF[name]}`, {
      method: 'POST',
      headers: { 'next-action': actions.get(name), accept: 'text/x-component', 'content-type': 'text/plain;charset=UTF-8' },
      body: JSON.stringify([input]),
    });
    const text = await response.text();
    const line = text.split('\n').find((each) => /^1:\{"ok":/.test(each));
    if (!line) throw new Error(`no answer (${response.status})`);
    return JSON.parse(line.slice(2));
  }

  /** Sends a recording. @returns what was stored; throws unless it is acknowledged */
  async upload(bytes, facts) {
    const wanted = { load: 'dummy load', fileName: 'talk.wav', sha256: hashOf(bytes), kind: 'voice', ...facts };
    const response = await fetch(`${this.address}/api/captures`, {
      method: 'POST',
      headers: { 'x-dialtune-capture': encodeURIComponent(JSON.stringify(wanted)) },
      body: bytes,
    });
    const answer = await response.json();
    if (!response.ok) throw new Error(answer.message);
    return { ...answer, sha256: wanted.sha256 };
  }
}

let actions = null;

/** A page that uses each action. */
const PAGE_OF = { makeCard: '/cards', saveOverNote: '/bench', lookAtDemo: '/welcome' };

/** Names of server actions to the ids under which the build knows them. */
const readActions = () =>
  new Map(
    Object.entries(JSON.parse(readFileSync(join(root, '.next/server/server-reference-manifest.json'), 'utf8')).node).map(
      ([id, { exportedName }]) => [exportedName, id],
    ),
  );
