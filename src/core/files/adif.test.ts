import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { adifHeader, adifRecord, adifTime, parseAdif, timeOfAdif } from './adif.ts';

describe('ADIF', () => {
  it('reads a log as the specification lays it out', () => {
    // Header, tags of mixed case, types and line ends as in ADIF 3.1.4's own example (from memory; calls invented).
    const log =
      'Made on 2026-11-22\n\n<adif_ver:5>3.1.4\n<USERDEF1:8:N>QRP_ARCI\n<EOH>\n\n' +
      '<qso_date:8>19900620\n<time_on:4>1523\n<call:5>Q9ABC\n<band:3>20M\n<mode:3:S>SSB\n<eor>\n';
    expect(parseAdif(log)).toEqual([{ QSO_DATE: '19900620', TIME_ON: '1523', CALL: 'Q9ABC', BAND: '20M', MODE: 'SSB' }]);
  });

  it('comes back as it was written, whatever the text holds', () => {
    fc.assert(
      fc.property(fc.array(fc.string({ unit: fc.constantFrom(...'ab <>:5é\n') }), { minLength: 1, maxLength: 5 }), (texts) => {
        const log = adifHeader('1', new Date(0)) + texts.map((text) => adifRecord({ CALL: 'Q1ABC', COMMENT: text })).join('');
        const back = parseAdif(log);
        expect(back).toHaveLength(texts.length);
        back.forEach((record, k) => {
          const line = texts[k].replace(/\s*[\r\n]+\s*/g, ' ').trim();
          expect(record.COMMENT_INTL ?? record.COMMENT ?? '').toBe(line);
        });
      }),
    );
  });

  it('times in UTC, whole or without seconds; days that no calendar has are none', () => {
    const at = new Date('2026-11-28T20:15:09.000Z');
    expect(adifTime(at)).toEqual({ QSO_DATE: '20261128', TIME_ON: '201509' });
    expect(timeOfAdif({ QSO_DATE: '20261128', TIME_ON: '201509' })).toEqual(at);
    expect(timeOfAdif({ QSO_DATE: '20261128', TIME_ON: '2015' })?.toISOString()).toBe('2026-11-28T20:15:00.000Z');
    expect(timeOfAdif({ QSO_DATE: '20260231' })).toBeNull();
    expect(timeOfAdif({ CALL: 'Q1ABC' })).toBeNull();
  });

  it.each([
    ['not a log', 'no ADIF log'],
    ['<CALL>Q1ABC<EOR>', 'the field CALL has no length'],
    ['<CALL:50>Q1ABC<EOR>', 'runs past the end'],
    ['', 'no ADIF log'],
  ])('refuses "%s" in words', (text, words) => {
    expect(() => parseAdif(text)).toThrow(words);
  });
});
