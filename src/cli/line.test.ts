import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { dialtune } from '../../tests/support/dialtune.ts';
import { temporaryFolder } from '../../tests/support/files.ts';

const CARD = join(temporaryFolder(), 'card.json');
writeFileSync(CARD, JSON.stringify({ format: 'dialtune-card', version: 1, mode: 'usb', values: { 'tx-eq': 'on', 'eq-2400': 1 } }));
const line = (text: string, ...rest: string[]) => dialtune('line', text, '--rig', 'demo/rigs/fulmar-8.json', '--card', CARD, ...rest);

describe('dialtune line', () => {
  it('answers with moves, readings and what it explains', () => {
    const { status, stdout } = line('four more at 2.4 than you have now, alc is point four', '--json');
    expect(status).toBe(0);
    expect(JSON.parse(stdout)).toMatchObject({
      moves: [{ dial: 'eq-2400', label: 'Slider 2400 Hz', menu: '37', from: 1, to: 5 }],
      reading: { alc: 0.4 },
      unread: [],
    });
    expect(line('2400 +3').stdout).toContain('Slider 2400 Hz (37): +1 dB -> +4 dB');
  });

  it('takes a text that begins with a minus sign', () => {
    expect(JSON.parse(line('-3 at 400', '--json').stdout).moves).toMatchObject([{ dial: 'eq-400', to: -3 }]);
  });

  it('half understood: nothing changes, it says what it understood and asks', () => {
    const { status, stdout } = line('2400 +3 and flurb the gizmo', '--json');
    expect(status).toBe(0);
    expect(JSON.parse(stdout)).toMatchObject({
      moves: [],
      reading: null,
      unread: ['flurb', 'gizmo'],
      explained: [expect.stringContaining('2400')],
    });
  });

  it.each([
    ['flurb', 1, '"flurb" is not understood'],
    ['mic 300', 1, "can't be 300"],
    ['undo', 1, 'nothing to undo'],
    ['same again', 1, 'no move before'],
    ['', 1, 'empty'],
    ['x '.repeat(1500), 1, 'Too long'],
  ])('"%s" ends with %d and one sentence', (text, code, words) => {
    const { status, stderr, stdout } = line(text, '--json');
    expect(status).toBe(code);
    expect(stdout).toBe('');
    expect(stderr.trim().split('\n')).toHaveLength(1);
    expect(stderr).toContain(words);
  });

  it('bad usage', () => {
    expect(dialtune('line', '--rig', 'demo/rigs/fulmar-8.json').status).toBe(2);
    expect(dialtune('line', '2400', '+3', '--rig', 'demo/rigs/fulmar-8.json', '--card', CARD).stderr).toContain('in quotes');
    expect(dialtune('line', '2400 +3', '--card', CARD).stderr).toContain('--rig is missing');
  });
});

describe('dialtune report', () => {
  it('answers with signal, remarks and advice', () => {
    const { status, stdout } = dialtune('report', "You're 5 and 9 plus 20, no longer muffled, but try 3 more at 2400", '--json');
    expect(status).toBe(0);
    expect(JSON.parse(stdout)).toMatchObject({
      signal: { readability: 5, strength: 9, overS9Db: 20 },
      remarks: [{ code: 'muffled', sense: 'less', degree: 'plain', about: 'signal' }],
      advice: [{ line: '2400 +3' }],
    });
    expect(dialtune('report', 'a bit boomy').stdout).toContain('boomy: is, slight, about the signal');
    expect(dialtune('report', 'Guten Abend').stdout).toContain('Nothing in it');
  });

  it('refuses nothing and too much in one sentence', () => {
    expect(dialtune('report', ' ', '--json')).toMatchObject({ status: 1, stdout: '' });
    expect(dialtune('report', 'x'.repeat(5001)).stderr).toContain('too long');
    expect(dialtune('report').status).toBe(2);
  });
});
