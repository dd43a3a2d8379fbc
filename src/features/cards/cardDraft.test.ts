import { describe, expect, it } from 'vitest';
import { twoBankRig } from '../../../tests/support/rigs.ts';
import { draftFromFile } from './cardDraft.ts';

describe('a card file', () => {
  const rig = { id: 7, name: 'Test rig', profile: twoBankRig(), isRetired: false };
  const station = {
    rigs: [rig],
    operators: [{ id: 3, name: 'Runa', callsign: 'Q0RUN', note: '', isRetired: false }],
    microphones: [],
    receivers: [],
  };
  const file = (change: object = {}) =>
    JSON.stringify({
      format: 'dialtune-card',
      version: 1,
      rig: 'Test rig',
      operator: 'Q0RUN',
      name: 'Net',
      mode: 'usb',
      values: { mic: 30 },
      ...change,
    });
  it('leads to its rig and its operator', () => {
    expect(draftFromFile(file(), station)).toMatchObject({ name: 'Net', rigId: 7, operatorId: 3, mode: 'usb', values: { mic: 30 } });
  });
  it.each([
    [file({ rig: 'Other' }), /no rig named Other/],
    [file({ values: { mic: 300 } }), /mic can't be 300/],
    [file({ values: { nope: 3 } }), /no dial "nope"/],
    [file({ mode: 'fm' }), /no mode fm/],
    ['{', /not valid JSON/],
    ['null', /must be object/],
    ['{"rig":"Test rig","__proto__":{"x":1}}', /not allowed/],
  ])('%#: what is wrong is said', (text, words) => {
    expect(draftFromFile(text, station)).toMatchObject({ problem: expect.stringMatching(words) });
  });
});
