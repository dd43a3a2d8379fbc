/** bin/start, whatever an earlier run, a kill or another copy has left. */
import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, it } from 'vitest';
// @ts-expect-error plain JavaScript
import { build } from '../../bin/lib/build.mjs';
// @ts-expect-error plain JavaScript
import { Station } from './station.mjs';

const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));
const lines = async (station: { address: string }) => (await (await fetch(`${station.address}/api/overs.csv`)).text()).split('\r\n').length;

it('makes again what is half made, and keeps what is whole', async () => {
  await build();
  const station = await Station.make();
  try {
    // A first start that was killed while it made the database, and notes torn by a power cut.
    mkdirSync(join(station.folder, 'mariadb/data/mysql'), { recursive: true });
    mkdirSync(join(station.folder, 'mariadb/data.making-1/mysql'), { recursive: true });
    writeFileSync(join(station.folder, 'mariadb/data/ibdata1'), 'torn');
    writeFileSync(join(station.folder, 'mariadb/password'), 'to');
    writeFileSync(join(station.folder, 'mariadb/mariadbd.pid'), '1');
    writeFileSync(join(station.folder, 'running.json'), '{"start":12');
    // Without --demo it is empty, and every way leads to the page that offers the demo.
    station.launch([]);
    await station.up();
    expect(await lines(station)).toBeLessThan(4);
    expect(await (await fetch(`${station.address}/bench`)).text()).toContain('/welcome');
    expect(await station.act('lookAtDemo', {})).toMatchObject({ ok: true });
    expect(await station.act('lookAtDemo', {})).toMatchObject({ ok: false, status: 409 });
    expect(readdirSync(join(station.folder, 'mariadb')).filter((name) => name.startsWith('data'))).toEqual(['data']);
    expect(existsSync(join(station.folder, 'mariadb/data/mariadbd.sock'))).toBe(true);
    expect(readdirSync(tmpdir()).filter((name) => /^dialtune-\d+\.sock$/.test(name))).toEqual([]);
    const before = await lines(station);
    expect(before).toBeGreaterThan(10);

    // A second copy on the same folder is refused in words; the first one does not notice.
    const first = station.start;
    const second = station.launch();
    expect(await second.ended).toBe(1);
    expect(station.said).toContain('running already');
    expect(await station.status('/overs')).toBe(200);

    // Killed: its server goes with it, its database is ended by the next start, nothing is lost.
    first.kill('SIGKILL');
    await first.ended;
    station.launch();
    await station.up();
    expect(await lines(station)).toBe(before);

    // Killed while the web server starts.
    station.start.kill('SIGINT');
    expect(await station.start.ended).toBe(0);
    const third = station.launch();
    for (let tries = 0; tries < 600 && !/"server"/.test(noteOf(station.folder)); tries++) await pause(50);
    third.kill('SIGKILL');
    await third.ended;
    station.launch();
    await station.up();
    expect(await lines(station)).toBe(before);
    expect(await station.stop()).toEqual([]);
  } finally {
    await station.stop();
  }
});

const noteOf = (folder: string): string => {
  try {
    return readFileSync(join(folder, 'running.json'), 'utf8');
  } catch {
    return '';
  }
};

it('two copies that start at once do not disturb each other; a port that is taken is named', async () => {
  const [one, other] = [await Station.make(), await Station.make()];
  const taken = createServer().listen(0, '127.0.0.1');
  try {
    one.launch();
    other.launch();
    await Promise.all([one.up(), other.up()]);
    expect([await one.status('/overs'), await other.status('/overs')]).toEqual([200, 200]);
    await other.stop();
    expect(await one.status('/overs')).toBe(200);
    const third = await Station.make();
    const address = taken.address();
    third.port = typeof address === 'object' && address ? address.port : 0;
    expect(await third.launch().ended).toBe(1);
    expect(third.said).toContain(`Port ${third.port} on 127.0.0.1 is taken by another program`);
    await third.stop();
    expect(await one.stop()).toEqual([]);
  } finally {
    taken.close();
    await one.stop();
    await other.stop();
  }
});
