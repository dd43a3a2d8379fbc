import { describe, expect, it } from 'vitest';
import type { Finding, FindingCode, Severity } from './finding.ts';
import { type AirTest, fitForAir } from './fitForAir.ts';

const found = (code: FindingCode, severity: Severity): Finding => ({ code, severity, text: '', evidence: '' });
const test = (mode: AirTest['mode'], ...findings: Finding[]): AirTest => ({ mode, findings });

describe('fit for the air', () => {
  it('is fit where every mode was measured and nothing harms anybody', () => {
    const answer = fitForAir(['SSB', 'AM'], [test('SSB'), test('SSB', found('splatter', 'ok')), test('AM')]);
    expect(answer.state).toBe('ok');
    expect(answer.text).toBe('Fit in SSB and AM.');
    expect(answer.rows.map(({ text }) => text)).toEqual(['Fit for the air.', 'Fit for the air.']);
  });

  it('a mode that nobody measured stays open, and is not called fit', () => {
    const answer = fitForAir(['SSB', 'AM', 'FM'], [test('SSB')]);
    expect(answer.state).toBe('unknown');
    expect(answer.text).toBe('Fit in SSB; open in AM and FM.');
    expect(fitForAir([], []).state).toBe('unknown');
  });

  it('a fault of the transmitter in any recording makes its mode unfit', () => {
    const answer = fitForAir(['SSB', 'AM'], [test('SSB'), test('SSB', found('distortion', 'fault')), test('AM', found('wide', 'watch'))]);
    expect(answer.state).toBe('fault');
    expect(answer.text).toBe('Not fit in SSB; worth a look in AM.');
    expect(answer.rows[0].text).toBe('Not fit for the air: distortion.');
    expect(answer.rows[1].text).toBe('Fit, with a look at: too wide.');
  });

  it('the receiver comes first: what it may have made itself is not blamed on the transmitter', () => {
    const overloaded = test('SSB', found('receiver-overload', 'fault'), found('carrier-leak', 'watch'));
    expect(fitForAir(['SSB'], [overloaded]).rows[0]).toMatchObject({ state: 'unknown' });
    expect(fitForAir(['SSB'], [overloaded]).rows[0].text).toContain('less receiver gain');
    // A second recording without it lifts the suspicion.
    expect(fitForAir(['SSB'], [overloaded, test('SSB')]).rows[0].state).not.toBe('unknown');
  });

  it('what is only weak harms nobody, and noise in the recording is told', () => {
    expect(fitForAir(['AM'], [test('AM', found('under-modulated', 'fault'))]).rows[0]).toMatchObject({
      state: 'watch',
      text: 'Fit for the air; it harms nobody, but is hard to hear: under-modulated.',
    });
    expect(fitForAir(['FM'], [test('FM', found('noise-limited', 'watch'))]).rows[0].text).toBe(
      'Fit for the air, as far as the noise in the recording lets see.',
    );
  });
});
