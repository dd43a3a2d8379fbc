import { readFileSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { describe, expect, it } from 'vitest';
import { dialtune } from '../../tests/support/dialtune.ts';
import { temporaryFolder } from '../../tests/support/files.ts';

const folder = temporaryFolder();
const rig = JSON.parse(readFileSync('demo/rigs/fulmar-8.json', 'utf8'));
const history = (changes: object = {}) => {
  const path = join(folder, 'history.json');
  writeFileSync(
    path,
    JSON.stringify({
      format: 'dialtune-history',
      version: 1,
      rig,
      mode: 'usb',
      purpose: 'balanced',
      school: { name: 'cautious', compression: 'none' },
      overs: [
        {
          card: { 'mic-gain': 80, 'tx-eq': 'off' },
          meters: { alc: 0.8, swr: 1.1 },
          captures: [{ file: resolve('demo/overs/08-bram-muffled.wav'), as: 'voice', receiver: { kind: 'second' } }],
        },
      ],
      ...changes,
    }),
  );
  return path;
};
const next = (changes?: object) => dialtune('next', '--history', history(changes), '--json');

describe('dialtune next', () => {
  it('measures the captures and answers as the contract has it, the same every time', () => {
    const { status, stdout } = next();
    expect(status).toBe(0);
    const answer = JSON.parse(stdout);
    expect(answer).toMatchObject({ status: 'move', goal: { alc: 'high', drive: 'unknown', compression: 'ok' } });
    // A muffled voice: the equalizer takes the lows away, and with them level; from above the zone the gain never goes up.
    const dials = answer.move.set.map(({ dial }: { dial: string }) => dial);
    expect(dials).toContain('tx-eq');
    const gain = answer.move.set.find(({ dial }: { dial: string }) => dial === 'mic-gain');
    expect(gain?.to ?? 80).toBeLessThanOrEqual(80);
    const [low, likely, high] = answer.move.expected.alc;
    expect(low).toBeLessThanOrEqual(likely);
    expect(likely).toBeLessThanOrEqual(high);
    expect(answer.goal.bestToneErrorDb).toBeLessThan(answer.goal.toneErrorDb);
    const { law } = answer.learned.alc;
    for (const [least, usual, most] of [law.stepDb, law.scaleDb, law.perStep]) {
      expect(least).toBeGreaterThan(0);
      expect(least).toBeLessThan(usual);
      expect(usual).toBeLessThan(most);
    }
    expect(next().stdout).toBe(stdout);
  });

  it('without any over asks for one; with a bad SWR stops', () => {
    expect(JSON.parse(next({ overs: [] }).stdout)).toMatchObject({ status: 'measure', measure: { what: 'over' } });
    expect(JSON.parse(next({ overs: [{ card: {}, meters: { swr: 5 } }] }).stdout).status).toBe('stop');
  });

  it.each<[string, object, RegExp]>([
    [
      'a file that is not there',
      { overs: [{ card: {}, captures: [{ file: 'gone.wav', as: 'voice', receiver: { kind: 'second' } }] }] },
      /gone.wav: no such file/,
    ],
    ['a school nobody has', { school: { name: 'loud' } }, /no school "loud"/],
    ['a card off its scale', { overs: [{ card: { 'mic-gain': 500 } }] }, /can't be 500/],
  ])('%s: one clear line, exit 1', (_, changes, words) => {
    const { status, stderr, stdout } = next(changes);
    expect(status).toBe(1);
    expect(stdout).toBe('');
    expect(stderr).toMatch(words);
    expect(stderr.trim().split('\n')).toHaveLength(1);
  });

  it('bad usage is exit 2', () => {
    expect(dialtune('next').status).toBe(2);
    expect(dialtune('advise', '--station', 'demo/rigs/fulmar-8.json').status).toBe(1);
  });
});
