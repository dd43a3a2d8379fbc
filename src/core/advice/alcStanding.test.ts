import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { factoryCard, type MicrophoneUse, parseRig } from '../rig/index.ts';
import { alcStanding, changedSince, gainSentence, type StandingCard } from './alcStanding.ts';

const rig = parseRig(JSON.parse(readFileSync('demo/rigs/tern-100.json', 'utf8')));
const USE: MicrophoneUse = { position: null, accessories: [], distanceCm: 6 };
const card = (values: Record<string, number | string> = {}, use: MicrophoneUse | null = USE): StandingCard => ({
  mode: 'usb',
  values: { ...factoryCard(rig, 'usb').values, ...values },
  use,
});
const gainDial = rig.dials.find(({ role }) => role === 'mic-gain');
if (!gainDial) throw new Error('the rig has no gain');

describe('what an ALC reading is worth', () => {
  it('holds while nothing before the ALC has changed', () => {
    const { newest } = alcStanding(rig, card(), [{ card: card(), alc: 0.4 }], null);
    expect(newest).toMatchObject({ alc: 0.4, changed: [] });
  });

  it('is stale after the gain, the compressor, the microphone or the mode changed, and says so', () => {
    expect(changedSince(rig, card({ [gainDial.id]: 40 }), card({ [gainDial.id]: 30 }))).toEqual([expect.stringContaining(gainDial.label)]);
    expect(changedSince(rig, card(), card({}, { ...USE, distanceCm: 3 }))).toEqual(['the microphone']);
    expect(changedSince(rig, card(), { ...card(), mode: 'lsb' })).toEqual(['the mode']);
    expect(changedSince(rig, card(), card({ processor: 'on' })).join()).toContain('Processor');
    expect(changedSince(rig, card({ 'mic-eq': 'on' }), card({ 'mic-eq': 'on', 'n-high-level': 6 }))).toEqual(['the equalizer']);
  });

  it('expects more after the microphone came nearer: half the distance is 6 dB', () => {
    const { newest } = alcStanding(rig, card({}, { ...USE, distanceCm: 3 }), [{ card: card(), alc: 0.3 }], null);
    expect(newest?.expected[1]).toBeGreaterThan(0.55);
  });

  it('without a reading there is no verdict, but a first gain to try', () => {
    const { newest, gain } = alcStanding(rig, card(), [], null);
    expect(newest).toBeNull();
    expect(gain?.dial.id).toBe(gainDial.id);
  });

  it('the next value in a sentence', () => {
    const { gain } = alcStanding(rig, card({ [gainDial.id]: 60 }), [{ card: card({ [gainDial.id]: 60 }), alc: 0.9 }], null);
    expect(gain && gainSentence(rig, gain)).toMatch(
      new RegExp(`^${gainDial.label} .*60.* → .*, expect about 0\\.\\d\\d \\([01]\\.\\d\\d to [01]\\.\\d\\d\\)\\.$`),
    );
  });
});
