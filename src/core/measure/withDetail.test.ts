import { expect, it } from 'vitest';
import { withDetail } from './withDetail.ts';

it('the drawing is made when it is looked at, once, and a copy has it too', () => {
  let made = 0;
  const draw = () => ({ made: ++made });
  const result = withDetail('numbers', draw);
  expect([result.measurement, made]).toEqual(['numbers', 0]);
  expect([result.detail, result.detail, made]).toEqual([{ made: 1 }, { made: 1 }, 1]);
  expect(structuredClone(withDetail('numbers', draw))).toEqual({ measurement: 'numbers', detail: { made: 2 } });
});
