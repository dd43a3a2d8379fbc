import { describe, expect, it } from 'vitest';
import { headline } from '../measure/headline.ts';
import type { Measurement } from '../measure/measurement.ts';
import { roughPercent } from '../units/numberText.ts';
import type { Finding } from './finding.ts';
import { judge, limitText, receiverFirst, severityOf, worstFirst } from './judging.ts';
import { LIMIT_NAMES, LIMITS, type Limit } from './limits.ts';

const SAY = { code: 'hum', text: 'Hum.', evidence: 'at −40 dB' } as const;

it('percent, in plain digits', () => {
  expect([0.00012, 0.0456, 0.84, 0.997, 3.6].map(roughPercent)).toEqual(['0.012 %', '4.6 %', '84 %', '100 %', '360 %']);
});

describe('limits', () => {
  it.each(LIMIT_NAMES)('%s: a fault is worse than a watch, and both have a source', (name) => {
    const { watch, fault, bad, source, what }: Limit = LIMITS[name];
    expect(watch === null && fault === null).toBe(false);
    if (watch !== null && fault !== null) expect(bad === 'above' ? fault > watch : fault < watch).toBe(true);
    expect(source).toMatch(/common practice|47 CFR|ITU/);
    expect(what.length).toBeGreaterThan(3);
  });

  it('grade a number on their own side', () => {
    expect([-50, -45, -30].map((value) => severityOf('hum', value))).toEqual([null, 'watch', 'fault']);
    expect([25, 14, 9].map((value) => severityOf('roomNoise', value))).toEqual([null, 'watch', 'fault']);
    expect(severityOf('highLevel', 0)).toBe('watch');
    expect([0, 1e-6].map((value) => severityOf('clipping', value))).toEqual([null, 'watch']);
  });

  it('a station’s own replaces the built-in one, and says so', () => {
    const own = { hum: { watch: null, fault: -20 } };
    expect(severityOf('hum', -25, own)).toBeNull();
    expect(judge('hum', -10, own, SAY)?.evidence).toBe('at −40 dB (fault from −20 dB, this station’s own limit)');
  });

  it('are told in words', () => {
    expect(limitText('hum')).toBe('watch from −45, fault from −30 dB, common practice');
    expect(limitText('roomNoise')).toBe('watch at 14 or less, fault at 9 or less dB, common practice');
    expect(limitText('clipping')).toContain('watch at any');
  });

  it('findings come worst first, and may be capped', () => {
    const watch = judge('hum', -40, undefined, SAY);
    const capped = judge('hum', -10, undefined, { ...SAY, most: 'watch' });
    const fault = judge('hum', -10, undefined, SAY);
    expect(worstFirst([watch, null, fault]).map((found) => found.severity)).toEqual(['fault', 'watch']);
    expect(capped?.severity).toBe('watch');
    expect(judge('hum', null, undefined, SAY)).toBeNull();
  });
});

describe('the receiver first', () => {
  const found = (code: string, severity = 'fault') => ({ code, severity, text: '', evidence: '' }) as Finding;

  it('with overload suspected no fault of the transmitter is pronounced', () => {
    const all = [found('overdrive'), found('receiver-overload', 'watch'), found('splatter'), found('low-level', 'watch')];
    expect(receiverFirst(all).map(({ code }) => code)).toEqual(['receiver-overload', 'low-level']);
    expect(receiverFirst([found('overdrive'), null]).map(({ code }) => code)).toEqual(['overdrive']);
    expect(receiverFirst([found('overdrive'), found('receiver-overload', 'ok')])).toHaveLength(2);
  });
});

describe('the headline of a measurement', () => {
  it.each([
    [{ kind: 'voice', snrDb: 31.44, activeSpeechLevelDb: -20 }, '31.4 dB signal-to-noise'],
    [{ kind: 'voice', snrDb: null, activeSpeechLevelDb: -20 }, 'speech at −20.0 dB'],
    [{ kind: 'ssb', occupiedBandwidthHz: 2456.7 }, '2457 Hz wide'],
    [{ kind: 'am', modulationDepth: { positive: null, negative: null } }, 'not measurable'],
    [{ kind: 'fm', peakDeviationHz: 4800 }, '4800 Hz deviation'],
    [{ kind: 'two-tone', imd3PepDb: -32.06 }, 'IMD3 −32.1 dB PEP'],
    [{ kind: 'response', passbandHz: [250, null] }, '250 to ? Hz'],
    [{ kind: 'power', pepW: 98.76 }, '98.8 W PEP'],
  ])('%#', (measurement, text) => {
    expect(headline(measurement as unknown as Measurement)).toBe(text);
  });
});
