import { describe, expect, it } from 'vitest';
import { distanceText, inCentimetres, inUnit } from './distance.ts';

describe('talking distances', () => {
  // An inch is 2.54 cm by definition (international inch, 1959).
  it.each([
    [2.54, '2.5 cm', '1 in'],
    [6, '6 cm', '2.4 in'],
    [0.5, '0.5 cm', '0.2 in'],
    [200, '200 cm', '78.7 in'],
  ])('%s cm', (cm, metric, imperial) => {
    expect(distanceText(cm)).toBe(metric);
    expect(distanceText(cm, 'in')).toBe(imperial);
  });

  it('come back within a tenth of an inch', () => {
    for (let cm = 0.5; cm <= 200; cm += 0.5) expect(Math.abs(inCentimetres(inUnit(cm, 'in'), 'in') - cm)).toBeLessThan(0.1301);
    expect(inCentimetres(inUnit(7.3, 'cm'), 'cm')).toBe(7.3);
  });
});
