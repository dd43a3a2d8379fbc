import { describe, expect, it } from 'vitest';
import { FormatError } from '../schema/formatError.ts';
import { curveCsv, parseCurve } from './curveFile.ts';
import { parseScopeTrace } from './scopeTrace.ts';

const expected = [
  [100, -3.5],
  [1000, 0],
  [2500, 1.25],
];

describe('a curve', () => {
  it.each([
    ['commas', '100,-3.5\n1000,0\n2500,1.25\n'],
    ['commas and spaces', '100, -3.5\r\n1000, 0\r\n2500, 1.25'],
    ['semicolons and decimal commas', 'Hz;dB\n100;-3,5\n1000;0\n2500;1,25'],
    ['tabs and decimal commas', '100\t-3,5\n1000\t0\n2500\t1,25'],
    ['spaces and decimal commas', '100 -3,5\n1000 0,0\n2500 1,25'],
    ['spaces', '# a curve\nFrequency Level\n\n 100   -3.5\n1000 0\n2500 1.25'],
    ['exponents and a byte order mark', '\uFEFF1e2,-3.5\n1E3,0\n2.5e3,1.25'],
    ['quotes and a comma at the end', '"100","-3.5",\n"1000","0",\n"2500","1.25",'],
  ])('is read with %s', (_, text) => {
    expect(parseCurve(text)).toEqual(expected);
  });

  it.each([
    ['decimal commas between commas', '100,0,-3,5\n1000,0,0,0', /Line 1.*semicolons/],
    ['a word in the middle', '100,1\nloud,2\n300,3', /Line 2/],
    ['three columns', '100 1 2\n200 1 2', /Line 1/],
    ['one point', '100 1', /two points/],
    ['nothing', '', /two points/],
    ['headings only', 'Hz,dB\n', /two points/],
    ['a frequency of 0', '0,1\n100,1', /frequency of 0/],
    ['points out of order', '200,1\n100,1', /does not come after/],
    ['hexadecimal', '0x10,1\n0x20,1', /Line 1/],
    ['infinity', '100,1\n200,Infinity', /Line 2/],
  ])('is refused with %s', (_, text, message) => {
    expect(() => parseCurve(text)).toThrow(FormatError);
    expect(() => parseCurve(text)).toThrow(message);
  });

  it('goes out as CSV and comes back', () => {
    expect(parseCurve(curveCsv(expected as [number, number][]))).toEqual(expected);
  });
});

describe('a scope trace', () => {
  const rows = Array.from({ length: 20 }, (_, n) => `${n}e-6,${(n % 3) - 1}`);
  it('is read', () => {
    const { seconds, volts } = parseScopeTrace(['Second,Volt', ...rows].join('\n'));
    expect([seconds.length, volts[2], seconds[19]]).toEqual([20, 1, 19e-6]);
  });

  it.each([
    ['too few points', rows.slice(0, 5), /16 points/],
    ['time going back', [...rows, '0,1'], /Line 21.*does not come after/],
  ])('is refused with %s', (_, lines, message) => {
    expect(() => parseScopeTrace(lines.join('\n'))).toThrow(message);
  });
});
