/** What bin/start does once everything is installed; bin/start holds the lock of the data folder meanwhile. */
import { mkdirSync, rmSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { dataMark, prepare, startServer } from './app.mjs';
import { build } from './build.mjs';
import { startMariadb } from './mariadb.mjs';
import { endLeftovers, isFree, writeWhole } from './processes.mjs';
import { root } from './root.mjs';

const port = Number(process.env.PORT ?? 3000);
/** The database and the note of what runs; tests use a folder of their own. */
const data = resolve(process.env.DIALTUNE_DATA ?? join(root, '.data'));
/** For people and scripts: which processes this is. Nothing is decided by it. */
const note = join(data, 'running.json');

/** Ends what a killed run left, and looks whether the port is ours to take. */
async function clearTheWay() {
  mkdirSync(data, { recursive: true });
  rmSync(join(data, 'scratch'), { recursive: true, force: true });
  await endLeftovers(dataMark(data));
  if (!(await isFree(port)))
    throw new Error(`Port ${port} on 127.0.0.1 is taken by another program. PORT=3100 bin/start uses another one.`);
}

let database = null;
let server = null;
let isEnding = false;

async function end(code) {
  if (isEnding) return;
  isEnding = true;
  await server?.stop();
  await database?.stop();
  rmSync(note, { force: true });
  process.exit(code);
}

async function main() {
  await clearTheWay();
  const remember = (facts) => writeWhole(note, JSON.stringify({ start: process.pid, ...facts }));
  remember({});
  await build();
  const given = process.env.DIALTUNE_DATABASE_URL || null;
  if (!given) database = await startMariadb(join(data, 'mariadb'));
  const url = given ?? database.url;
  // Without it a new station is empty, and its first page offers the demo.
  await prepare(url, { demo: process.argv.includes('--demo') });
  server = await startServer(url, port, {
    data,
    env: { DIALTUNE_DATA: data },
    onStart: (pid) => remember({ server: pid, database: database?.pid }),
  });
  console.log(`Dial Tune is at ${server.address}  (Ctrl-C stops it)`);
}

for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => end(0));
main().catch((error) => {
  if (isEnding) return;
  console.error(error.message);
  void end(1);
});
