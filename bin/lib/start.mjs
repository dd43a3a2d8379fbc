/** What bin/start does once everything is installed. */
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { prepare, startServer } from './app.mjs';
import { build } from './build.mjs';
import { startMariadb } from './mariadb.mjs';
import { commandLine, endProcess, isFree } from './processes.mjs';
import { root } from './root.mjs';

const port = Number(process.env.PORT ?? 3000);
/** The database and the note of what runs; tests use a folder of their own. */
const data = process.env.DIALTUNE_DATA ?? join(root, '.data');
const note = join(data, 'running.json');

/** Ends what a killed run left; refuses when one is alive. */
async function clearTheWay() {
  mkdirSync(data, { recursive: true });
  if (existsSync(note)) {
    const { start, server } = JSON.parse(readFileSync(note, 'utf8') || '{}');
    if (commandLine(start).includes('bin/lib/start.mjs')) throw new Error(`Dial Tune is running already (process ${start}).`);
    await endProcess(server, 'next');
  }
  if (!(await isFree(port)))
    throw new Error(`Port ${port} on 127.0.0.1 is taken by another program. PORT=3100 bin/start uses another one.`);
}

async function main() {
  await clearTheWay();
  writeFileSync(note, JSON.stringify({ start: process.pid }));
  let database = null;
  let server = null;
  let isEnding = false;
  const end = async (code) => {
    if (isEnding) return;
    isEnding = true;
    await server?.stop();
    await database?.stop();
    rmSync(note, { force: true });
    process.exit(code);
  };
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => end(0));
  try {
    await build();
    const given = process.env.DIALTUNE_DATABASE_URL || null;
    if (!given) database = await startMariadb(join(data, 'mariadb'));
    const url = given ?? database.url;
    prepare(url, { demo: true });
    server = await startServer(url, port);
    writeFileSync(note, JSON.stringify({ start: process.pid, server: server.pid }));
    console.log(`Dial Tune is at ${server.address}  (Ctrl-C stops it)`);
    await server.ended;
    if (!isEnding) console.error('The web server ended by itself.');
    await end(1);
  } catch (error) {
    console.error(error.message);
    await end(1);
  }
}

main().catch((error) => {
  console.error(error.message);
  process.exit(1);
});
