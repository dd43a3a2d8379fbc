import { describe, expect, it } from 'vitest';
import { steps } from '../../../tests/support/rigs.ts';
import { changeText, expectText, moveText } from './moveText.ts';

describe('words', () => {
  const dial = steps('x', -20, 20, 1, { label: 'Low band, level', menu: '4.12' });

  it('name a move with its unit once', () => {
    expect(moveText(dial, 2, -8)).toBe('Low band, level, 4.12: +2 → −8 dB');
    expect(changeText({ ...dial, unit: '' }, 2, 3)).toBe('2 → 3');
  });

  it('tell what to expect', () => {
    const text = expectText({ hz: 2512, changeDb: 5.21, alcChangeDb: 0.1, errorBeforeDb: 4.2, errorAfterDb: 2.1 });
    expect(text).toBe('Expect +5.2 dB at 2.51 kHz against the rest; level into the ALC about the same; off target 4.2 → 2.1 dB.');
    expect(expectText({ hz: 200, changeDb: -3, alcChangeDb: -1.5, errorBeforeDb: 1, errorAfterDb: 1 })).toContain(
      'level into the ALC −1.5 dB',
    );
  });
});
