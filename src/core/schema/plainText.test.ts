import { describe, expect, it } from 'vitest';
import { PLAIN_LINE, PLAIN_NAME, PLAIN_TEXT } from './plainText.ts';

const [line, name, text] = [PLAIN_LINE, PLAIN_NAME, PLAIN_TEXT].map((pattern) => new RegExp(pattern, 'u'));

describe('plain text', () => {
  it.each(['Runa', 'Ærø København', 'Žofie 80 m', '漢字', '−3 dB, 1.5 kHz', 'a"b\'c <b>', '=1+1', '👍', 'עברית'])(
    '%s is what it looks like',
    (words) => {
      expect([line, name, text].map((pattern) => pattern.test(words))).toEqual([true, true, true]);
    },
  );

  it.each([
    ['NUL', 'a\0b'],
    ['escape', 'a\u001b[31mb'],
    ['delete', 'a\u007fb'],
    ['C1 control', 'a\u0085b'],
    ['right-to-left override', 'exe\u202Egnp'],
    ['isolate', 'a\u2066b'],
    ['Arabic letter mark', 'a\u061Cb'],
    ['zero-width space', 'Ru\u200Bna'],
    ['zero-width joiner', 'a\u200Db'],
    ['word joiner', 'a\u2060b'],
    ['byte order mark', '\uFEFFa'],
    ['soft hyphen', 'a\u00ADb'],
    ['line separator', 'a\u2028b'],
  ])('%s is refused everywhere', (_, words) => {
    expect([line, name, text].map((pattern) => pattern.test(words))).toEqual([false, false, false]);
  });

  it('lines and tabs belong into text only; a name needs something to see', () => {
    expect([line, name, text].map((pattern) => pattern.test('one\ntwo\tthree'))).toEqual([false, false, true]);
    expect([line, name, text].map((pattern) => pattern.test(''))).toEqual([true, false, true]);
    expect([line, name, text].map((pattern) => pattern.test(' \u00A0\u3000'))).toEqual([true, false, true]);
  });
});
