/** The practice radio on the server: overs as files, refusals in words. */
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { bytesInMemory } from '../../src/core/files/byteSource.ts';
import { openWav } from '../../src/core/files/samples.ts';
import type { SsbMeasurement } from '../../src/core/measure/measurement.ts';
import { measureRecording } from '../../src/core/measure/measureRecording.ts';
import { InvalidInput } from '../../src/core/schema/problems.ts';
import { hiddenRadio, hiddenTruths, PRACTICE_RADIOS, PRACTICE_RECEIVERS } from '../../src/core/simulate/station/hiddenRadio.ts';
import { loadBench } from '../../src/server/bench/bench.ts';
import { listCards } from '../../src/server/cards/cardList.ts';
import { loadCard } from '../../src/server/cards/cards.ts';
import { database } from '../../src/server/db/database.ts';
import { loadDemo } from '../../src/server/demo/demo.ts';
import { transmitPractice } from '../../src/server/practice/practice.ts';
import { Refused } from '../../src/server/requests/refused.ts';
import { readRequest } from '../../src/server/requests/requests.ts';

let cardId = 0;
beforeAll(async () => {
  await loadDemo('demo', new Date('2026-06-08T12:00:00Z'));
  cardId = (await realCard('Lighthouse DX')).id;
}, 300_000);
afterAll(() => database().sequelize.close());

/** Copies for practice radios, which other tests make, are named after it. */
const realCard = async (name: string) => {
  const card = (await listCards({ search: name, limit: 20 })).find((each) => each.name === name);
  if (!card) throw new Error(`no card ${name}`);
  return card;
};
const ask = async (changes: object = {}) => {
  const card = await loadCard(cardId);
  const base = { cardId, values: card?.revisions[0].values ?? {}, radio: 1, receiver: 0, isIq: true, load: 'dummy load' };
  return transmitPractice(readRequest('practice', { ...base, ...changes }));
};

describe('an over of the practice radio', () => {
  it('is a file that measures, with meters, the same every time', async () => {
    const [a, b] = [await ask(), await ask()];
    expect(Buffer.from(a.wav).equals(Buffer.from(b.wav))).toBe(true);
    expect(a.meters.alc.usual).toBeGreaterThan(0);
    expect(a.meters.power).toBeGreaterThan(0.3);
    expect(a.meters.swr).toBe(1);
    const { measurement } = await measureRecording('ssb', await openWav(bytesInMemory(a.wav)), {});
    const m = measurement as SsbMeasurement;
    const card = await loadCard(cardId);
    const { radio } = hiddenRadio(card?.rig.profile as never, 1);
    // An overdriven amplifier adds to it; less can't be there.
    expect(m.oppositeSidebandDb).toBeGreaterThan((radio.balance.oppositeDb ?? 0) - 1);
  });

  it('comes from every receiver as audio, each another', async () => {
    const seen = new Set<string>();
    for (let receiver = 0; receiver < PRACTICE_RECEIVERS.length; receiver++) {
      const { wav, fileName } = await ask({ receiver, isIq: false, load: 'antenna' });
      expect((await openWav(bytesInMemory(wav))).channels).toBe(1);
      expect(fileName).toContain('simulated radio 1');
      seen.add(Buffer.from(wav.subarray(5000, 9000)).toString('base64'));
    }
    expect(seen.size).toBe(PRACTICE_RECEIVERS.length);
  });

  it('is refused in words: no card, values off their dials, no such radio', async () => {
    await expect(ask({ cardId: 999_999 })).rejects.toThrow(Refused);
    await expect(ask({ values: { 'mic-gain': 4711 } })).rejects.toThrow(InvalidInput);
    await expect(ask({ radio: PRACTICE_RADIOS + 1 })).rejects.toThrow('radio');
    await expect(ask({ receiver: -1 })).rejects.toThrow('receiver');
  });
});

it('a card without an over of its own is heard with the operator’s voice from another card', async () => {
  const am = await realCard('Sunday AM');
  const bench = await loadBench(am.id);
  expect(bench?.over).toBeNull();
  expect(bench?.voice?.over.operator.id).toBe(bench?.card.operator.id);
  expect(bench?.voice?.over.card.id).not.toBe(am.id);
  const own = await loadBench(cardId);
  expect(own?.voice?.over.id).toBe(own?.over?.id);
  const { wav } = await ask({ cardId: am.id, values: bench?.card.revisions[0].values, isIq: false });
  const { frames, sampleRateHz } = await openWav(bytesInMemory(wav));
  const recorded = bench?.voice?.over.measured?.result.durationS ?? 0;
  expect(frames / sampleRateHz).toBeCloseTo(Math.min(15, recorded), 2);
});

it('every practice radio hides something else, told in words', async () => {
  const card = await loadCard(cardId);
  const rig = card?.rig.profile as never;
  const told = Array.from({ length: PRACTICE_RADIOS }, (_, k) => JSON.stringify(hiddenTruths(rig, hiddenRadio(rig, k + 1))));
  expect(new Set(told).size).toBe(PRACTICE_RADIOS);
  expect(hiddenRadio(rig, 3)).toEqual(hiddenRadio(rig, 3));
});
