import { describe, expect, it } from 'vitest';
import { type Token, tokens } from './tokens.ts';

/** As they are read: sign, value and unit of numbers, words, marks in brackets. */
const shown = (text: string, menu: readonly string[] = []) =>
  tokens(text, (spelled) => menu.includes(spelled))
    .map((token: Token) => {
      if (token.kind === 'mark') return `[${token.text}]`;
      if (token.kind === 'word') return token.text;
      const sign = token.sign < 0 ? '-' : token.sign > 0 ? '+' : '';
      return `${sign}${Number(token.value.toFixed(3))}${token.unit ?? ''}${token.isPart ? ' part' : ''}${token.isAddress ? ' address' : ''}`;
    })
    .join(' ');

describe('numbers', () => {
  it.each([
    ['2.4k', '2400khz'],
    ['2k4', '2400khz'],
    ['2.4 kHz', '2400khz'],
    ['2400 Hz', '2400hz'],
    ['1,6k', '1600khz'],
    ['2,400', '2400'],
    ['twenty four hundred', '2400'],
    ['twenty-four hundred', '2400'],
    ['24 hundred', '2400'],
    ['two thousand four hundred', '2400'],
    ['two hundred and fifty', '250'],
    ['one fifty', '150'],
    ['twelve fifty', '1250'],
    ['point four', '0.4'],
    ['two point five', '2.5'],
    ['two and a half dB', '2.5db'],
    ['half a click', '0.5clicks'],
    ['a couple of notches', '2clicks'],
    ['a dB', '1db'],
    ['minus three', '-3'],
    ['− 2 db', '-2db'],
    ['half', '0.5 part'],
    ['two thirds of the way', '0.667 part'],
    ['6 out of 10', '0.6 part'],
    ['6/10', '0.6 part'],
    ['forty per cent', '40%'],
    ['low one', 'low one'],
  ])('%s', (text, wanted) => {
    expect(shown(text)).toBe(wanted);
  });
});

describe('marks', () => {
  it.each([
    ['200-2900', '200 [~] 2900'],
    ['2400-3', '2400 -3'],
    ['2400 - 3', '2400 -3'],
    ['30->26', '30 [>] 26'],
    ['mic 30. comp off!', 'mic 30 [,] comp off [,]'],
    ['👍 2400 +3', '2400 +3'],
  ])('%s', (text, wanted) => {
    expect(shown(text)).toBe(wanted);
  });
  it('menu addresses as the radio spells them', () => {
    expect(shown('EX-11 4, 4.12 -6, 41-49', ['ex-11', '4.12', '41'])).toBe('ex-11 4 [,] 4.12 address -6 [,] 41 address [~] 49');
  });
});
