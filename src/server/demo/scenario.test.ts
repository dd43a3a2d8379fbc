/** The demo scenario as it is shipped: it fits its rigs, names nothing that is not there, and shows what it should. */
import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { PURPOSES } from '@/core/rig/card.ts';
import { dialOf } from '@/core/rig/rig.ts';
import { parseCard, parseMicrophone, parseRig } from '@/core/rig/validate.ts';
import type { Scenario } from './demo.ts';

const read = (name: string) => JSON.parse(readFileSync(`demo/${name}`, 'utf8'));
const scenario: Scenario = read('scenario.json');
const rigs = new Map(scenario.rigs.map((file) => [parseRig(read(file)).name, parseRig(read(file))]));
const rigOf = (name: string) => {
  const rig = rigs.get(name);
  if (!rig) throw new Error(`The scenario names the rig ${name}, which it does not have.`);
  return rig;
};

describe('the demo scenario', () => {
  it('has the four radios, and a card for each purpose on every radio that can be tuned', () => {
    expect(rigs.size).toBe(4);
    for (const rig of rigs.values()) {
      const purposes = new Set(scenario.cards.filter((card) => card.rig === rig.name).map(({ purpose }) => purpose));
      if (rig.equalizer.kind === 'none') expect(purposes.size).toBeGreaterThan(1);
      else expect([rig.name, [...purposes].sort()]).toEqual([rig.name, [...PURPOSES].sort()]);
    }
  });

  it('every card fits its rig and names people and microphones that are there', () => {
    for (const { key, rig, mode, start, operator, microphone } of scenario.cards) {
      expect(() => parseCard({ format: 'dialtune-card', version: 1, mode, values: start }, rigOf(rig)), key).not.toThrow();
      expect(scenario.operators.map(({ name }) => name)).toContain(operator);
      expect(scenario.microphones.map(({ name }) => name)).toContain(microphone);
    }
  });

  it('microphones pass their door, and their curves are 0 dB at 1 kHz', () => {
    for (const microphone of scenario.microphones) {
      expect(parseMicrophone(microphone)).toEqual(microphone);
      for (const { curve } of [...microphone.positions, ...microphone.accessories]) {
        expect(curve.find(([hz]) => hz === 1000)?.[1]).toBe(0);
      }
    }
  });

  it('radios and memories refer to cards of the same rig', () => {
    for (const { rig, card, but } of [...scenario.radios, ...scenario.memories.map((each) => ({ ...each, but: {} }))]) {
      expect(scenario.cards.find(({ key }) => key === card)?.rig).toBe(rig);
      for (const id of Object.keys(but)) expect(dialOf(rigOf(rig), id).id).toBe(id);
    }
    for (const { rig, slot } of scenario.memories) expect(slot).toBeLessThanOrEqual(rigOf(rig).voiceMemories ?? 0);
  });

  it('calls are never issued ones, and every voice is marked synthetic', () => {
    for (const { callsign, note } of scenario.operators) {
      expect(callsign).toMatch(/^Q/);
      expect(note).toContain('Synthetic');
    }
  });
});
