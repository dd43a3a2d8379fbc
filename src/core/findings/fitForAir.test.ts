import { describe, expect, it } from 'vitest';
import type { Finding, FindingCode, Severity } from './finding.ts';
import { type AirTest, fitForAir } from './fitForAir.ts';

const found = (code: FindingCode, severity: Severity): Finding => ({ code, severity, text: '', evidence: '' });
let count = 0;
const test = (kind: AirTest['kind'], ...findings: Finding[]): AirTest => ({ id: ++count, kind, findings });

describe('fit for the air', () => {
  it('is fit where every mode was measured and nothing harms anybody', () => {
    const answer = fitForAir(['SSB', 'AM'], [test('ssb'), test('two-tone', found('splatter', 'ok')), test('am')]);
    expect(answer.state).toBe('ok');
    expect(answer.text).toBe('Fit in SSB and AM.');
    expect(answer.rows.map(({ text }) => text)).toEqual(['Fit for the air.', 'Fit for the air.']);
  });

  it('a mode that nobody measured stays open, and is not called fit', () => {
    const answer = fitForAir(['SSB', 'AM', 'FM'], [test('ssb')]);
    expect(answer.state).toBe('unknown');
    expect(answer.text).toBe('Fit in SSB; open in AM and FM.');
    expect(fitForAir([], []).state).toBe('unknown');
  });

  it('a fault of the transmitter in any recording makes its mode unfit', () => {
    const answer = fitForAir(
      ['SSB', 'AM'],
      [test('ssb'), test('two-tone', found('distortion', 'fault')), test('am', found('wide', 'watch'))],
    );
    expect(answer.state).toBe('fault');
    expect(answer.text).toBe('Not fit in SSB; worth a look in AM.');
    expect(answer.rows[0].text).toBe('Not fit for the air: distortion.');
    expect(answer.rows[1].text).toBe('Fit, with a look at: too wide.');
  });

  it('the receiver comes first: what it may have made itself is not blamed on the transmitter', () => {
    const overloaded = test('ssb', found('receiver-overload', 'fault'), found('carrier-leak', 'watch'));
    expect(fitForAir(['SSB'], [overloaded]).rows[0]).toMatchObject({ state: 'unknown' });
    expect(fitForAir(['SSB'], [overloaded]).rows[0].text).toContain('less receiver gain');
    // The newest recording without it counts.
    expect(fitForAir(['SSB'], [overloaded, test('ssb', found('splatter', 'fault'))]).rows[0].state).toBe('fault');
  });

  it('what was mended since counts no more: of each kind the newest recording, and it is named', () => {
    const [now, then] = [test('ssb'), test('ssb', found('splatter', 'fault'))];
    expect(fitForAir(['SSB'], [now, then]).rows[0]).toMatchObject({ state: 'ok', ids: [now.id] });
    expect(fitForAir(['SSB'], [then, now]).rows[0]).toMatchObject({ state: 'fault', ids: [then.id] });
  });

  it('what is only weak harms nobody, and noise in the recording is told', () => {
    expect(fitForAir(['AM'], [test('am', found('under-modulated', 'fault'))]).rows[0]).toMatchObject({
      state: 'watch',
      text: 'Fit for the air; it harms nobody, but is hard to hear: under-modulated.',
    });
    expect(fitForAir(['FM'], [test('fm', found('noise-limited', 'watch'))]).rows[0].text).toBe(
      'Fit for the air, as far as the noise in the recording shows.',
    );
  });
});
