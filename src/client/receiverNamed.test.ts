import { describe, expect, it } from 'vitest';
import { receiverNamed } from './receiverNamed.ts';

const RECEIVERS = [
  { name: 'Shack second receiver' },
  { name: 'Hill remote' },
  { name: 'Mainland remote' },
  { name: "The radio's monitor" },
];

describe('the receiver that a file name speaks of', () => {
  it.each([
    ['over 7 hill.wav', 'Hill remote'],
    ['2026-11-28_mainland-remote_usb.wav', 'Mainland remote'],
    ['a-main.wav', 'Mainland remote'],
    ['SHACK.wav', 'Shack second receiver'],
    ['radio monitor.wav', "The radio's monitor"],
  ])('%s', (file, name) => expect(receiverNamed(file, RECEIVERS)?.name).toBe(name));

  it('is none where nothing fits, or two fit alike', () => {
    expect(receiverNamed('recording.wav', RECEIVERS)).toBeNull();
    expect(receiverNamed('remote.wav', RECEIVERS)).toBeNull();
    expect(receiverNamed('hill and mainland.wav', RECEIVERS)).toBeNull();
    expect(receiverNamed('', [])).toBeNull();
  });
});
