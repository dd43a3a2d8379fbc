/** Keeping programs running: deaths counted by time, pauses that grow, nothing given up, notes whole or not at all. */
import { spawn } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
// @ts-expect-error plain JavaScript
import { endLeftovers, keepRunning, processesWith, writeWhole } from './processes.mjs';

const folder = mkdtempSync(join(tmpdir(), 'dialtune-processes-'));
afterAll(() => rmSync(folder, { recursive: true }));

const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));
const until = async (isTrue: () => boolean) => {
  for (let tries = 0; tries < 400 && !isTrue(); tries++) await pause(25);
  expect(isTrue()).toBe(true);
};

/** A program that does nothing, until it is ended. */
const idle = (mark: string) => spawn(process.execPath, ['-e', 'setInterval(() => {}, 1000)', '--', mark], { stdio: 'ignore' });

describe('a program that is kept running', () => {
  it('is started again whenever it dies, at once at first, later after pauses; it says so, and never gives up', async () => {
    const said: string[] = [];
    let starts = 0;
    const kept = await keepRunning({
      name: 'The program',
      mark: '--kept',
      say: (text: string) => said.push(text),
      start() {
        starts++;
        return { child: idle('--kept'), isUp: async () => {} };
      },
    });
    for (let death = 1; death <= 6; death++) {
      process.kill(kept.pid, 'SIGKILL');
      await until(() => starts === death + 1);
    }
    expect(said).toHaveLength(6);
    expect(said[0]).toBe('The program ended (SIGKILL); starting it again.');
    expect(said[4]).toBe('The program ended (SIGKILL), 5 times in a minute; starting it again.');
    expect(said[5]).toBe('The program ended (SIGKILL), 6 times in a minute; starting it again in 1 s.');
    await kept.stop();
    expect(processesWith('--kept')).toEqual([]);
    await pause(100);
    expect(starts).toBe(7);
  });

  it('that dies before it works, started again, breaks nothing', async () => {
    const said: string[] = [];
    let starts = 0;
    const kept = await keepRunning({
      name: 'The program',
      mark: '--fragile',
      say: (text: string) => said.push(text),
      start() {
        starts++;
        const child = starts === 2 ? spawn(process.execPath, ['-e', 'process.exit(3)']) : idle('--fragile');
        return { child, isUp: () => (starts === 2 ? new Promise(() => {}) : Promise.resolve()) };
      },
    });
    process.kill(kept.pid, 'SIGKILL');
    await until(() => starts === 3);
    expect(said).toEqual([
      'The program ended (SIGKILL); starting it again.',
      'The program ended (code 3), 2 times in a minute; starting it again.',
    ]);
    await kept.stop();
  });

  it('that does not come up the first time is an error, and is not tried again', async () => {
    let starts = 0;
    const start = () => {
      starts++;
      return { child: spawn(process.execPath, ['-e', 'process.exit(7)']), isUp: () => new Promise(() => {}) };
    };
    await expect(keepRunning({ name: 'The program', mark: 'x', start })).rejects.toThrow('The program did not start (code 7).');
    const missing = () => ({ child: spawn(join(folder, 'nothing')), isUp: () => new Promise(() => {}) });
    await expect(keepRunning({ name: 'The program', mark: 'x', start: missing })).rejects.toThrow('ENOENT');
    expect(starts).toBe(1);
  });
});

it('what an earlier run left is found by its argument, and only that', async () => {
  const [own, other] = [idle('--data=/one'), idle('--data=/one/more')];
  await until(() => processesWith('--data=/one').length === 1 && processesWith('--data=/one/more').length === 1);
  await endLeftovers('--data=/one');
  expect([processesWith('--data=/one'), processesWith('--data=/one/more')]).toEqual([[], [String(other.pid)]]);
  expect(own.killed).toBe(false);
  other.kill();
});

it('notes are written whole or not at all', () => {
  const path = join(folder, 'note.json');
  writeWhole(path, 'one');
  writeWhole(path, 'two');
  expect(readFileSync(path, 'utf8')).toBe('two');
  expect(() => writeWhole(join(folder, 'no', 'note.json'), 'three')).toThrow('ENOENT');
  expect(readdirSync(folder)).toEqual(['note.json']);
});
