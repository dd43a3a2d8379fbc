import { describe, expect, it } from 'vitest';
import { KIND_NAMES, KIND_NOTES, radioKindOf } from './kinds.ts';
import { MEASUREMENT_KINDS } from './measurement.ts';

describe('kinds of evidence', () => {
  it('each has a name and a note; a card’s mode tells which radio kind is meant', () => {
    for (const kind of MEASUREMENT_KINDS) {
      expect(KIND_NAMES[kind].length).toBeGreaterThan(2);
      expect(KIND_NOTES[kind].length).toBeGreaterThan(10);
    }
    expect((['usb', 'lsb', 'am', 'fm'] as const).map(radioKindOf)).toEqual(['ssb', 'ssb', 'am', 'fm']);
  });
});
