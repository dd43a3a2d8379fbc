import { type ChildProcess, spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, fitShown, freshOver, test } from './support.ts';

const freePort = () =>
  new Promise<number>((resolve) => {
    const server = createServer().listen(0, '127.0.0.1', () => {
      const address = server.address();
      server.close(() => resolve(typeof address === 'object' && address ? address.port : 0));
    });
  });

/** bin/start with a data folder of its own; resolves with what it printed last once it serves. */
function start(folder: string, port: number): Promise<{ child: ChildProcess; said: string }> {
  const child = spawn('bin/start', { env: { ...process.env, DIALTUNE_DATA: folder, DIALTUNE_DATABASE_URL: '', PORT: String(port) } });
  return new Promise((resolve, reject) => {
    let said = '';
    const hear = (text: Buffer) => {
      said += text.toString();
      if (said.includes('Dial Tune is at')) resolve({ child, said });
    };
    child.stdout.on('data', hear);
    child.stderr.on('data', hear);
    child.on('exit', (code) => reject(new Error(`bin/start ended with ${code}: ${said}`)));
  });
}

const stop = (child: ChildProcess, signal: NodeJS.Signals = 'SIGINT') =>
  new Promise<number | null>((resolve) => {
    child.removeAllListeners('exit');
    child.on('exit', (code) => resolve(code));
    child.kill(signal);
  });

const isAlive = (pid: number): boolean => {
  try {
    return !readFileSync(`/proc/${pid}/stat`, 'utf8').includes(') Z ');
  } catch {
    return false;
  }
};

test.use({ mayLoseServer: true });

test('bin/start keeps everything over a stop, a killed database and a killed start', async ({ page }) => {
  test.setTimeout(240_000);
  const folder = mkdtempSync(join(tmpdir(), 'dialtune-start-'));
  const port = await freePort();
  const address = `http://127.0.0.1:${port}`;
  const databasePid = () => Number(readFileSync(join(folder, 'mariadb', 'mariadbd.pid'), 'utf8'));
  let running = await start(folder, port);
  try {
    await page.goto(`${address}/overs`);
    await page.locator('input[type=file]').setInputFiles(freshOver('08-bram-muffled.wav'));
    await page.getByRole('button', { name: 'Measure' }).click();
    await page.getByRole('link', { name: 'See it on the Bench' }).click({ timeout: 20_000 });
    await fitShown(page);
    await page.getByRole('button', { name: 'Put these on the card' }).click();
    await expect(page.getByRole('button', { name: 'Nothing to put on the card' })).toBeVisible({ timeout: 20_000 });
    const shown = new URL(page.url());

    // Stopped by Ctrl-C: nothing stays behind; started again: the same, quickly.
    const pid = databasePid();
    expect(await stop(running.child)).toBe(0);
    expect(isAlive(pid)).toBe(false);
    running = await start(folder, port);
    expect(running.said).not.toContain('Making the database folder');
    await page.goto(`${address}${shown.pathname}${shown.search}`);
    await expect(page.getByRole('button', { name: 'Nothing to put on the card' })).toBeVisible({ timeout: 20_000 });

    // The database killed under a running app comes back by itself.
    process.kill(databasePid(), 'SIGKILL');
    await expect(async () => {
      expect((await page.request.get(`${address}/api/health`)).ok()).toBe(true);
      await page.goto(`${address}/overs`);
      await expect(page.getByRole('heading', { name: 'Overs' })).toBeVisible();
    }).toPass({ timeout: 60_000 });

    // A second start beside the first is refused in words.
    await expect(start(folder, port)).rejects.toThrow('running already');

    // bin/start itself killed: server and database are left behind; the next start clears them away.
    const left = databasePid();
    await stop(running.child, 'SIGKILL');
    expect(isAlive(left)).toBe(true);
    running = await start(folder, port);
    await page.goto(`${address}${shown.pathname}${shown.search}`);
    await fitShown(page);
    expect(isAlive(left)).toBe(false);
  } finally {
    await stop(running.child);
    rmSync(folder, { recursive: true, force: true });
  }
});
