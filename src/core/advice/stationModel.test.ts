import { beforeAll, describe, expect, it } from 'vitest';
import { microphone as testMicrophone } from '../../../tests/support/microphones.ts';
import { toneRig } from '../../../tests/support/rigs.ts';
import { sourceOf, voiceLike } from '../../../tests/support/signals.ts';
import { factoryCard } from '../rig/card.ts';
import { usualUse } from '../rig/microphone.ts';
import { type RecordedWith, StationModel } from './stationModel.ts';
import { defaultTarget } from './targets.ts';

const RATE = 12000;
const rig = toneRig();
const card = factoryCard(rig);
const microphone = testMicrophone({ distanceCm: 5 });
const use = usualUse(microphone);
const recorded: RecordedWith = {
  detail: { stripActive: Array.from({ length: 40 }, () => true), stripSeconds: 0.1 },
  rig,
  heardWith: card,
  microphone,
  use,
  driven: { card, alc: 0.4 },
};

describe('a station as the model has it', () => {
  let model: StationModel;
  beforeAll(async () => {
    model = await StationModel.of(await sourceOf(RATE, [voiceLike(RATE, 4)]), recorded);
  });

  it('judges a card once: the same question has the very same answer', () => {
    const first = model.judge(card);
    expect(first).not.toEqual(expect.any(String));
    expect(model.judge({ ...card, values: { ...card.values } })).toBe(first);
  });

  it('the microphone farther away is another place, kept as well', () => {
    const far = { usedAs: { ...use, distanceCm: 20 } };
    const away = model.judge(card, far);
    expect(away).not.toBe(model.judge(card));
    expect(model.judge(card, far)).toBe(away);
  });

  it('reads on the ALC what was read on it, with the card that it was read with', async () => {
    const brighter = { ...card, values: { ...card.values, treble: 6, bass: 6 } };
    const source = await sourceOf(RATE, [voiceLike(RATE, 4)]);
    for (const driven of [card, brighter]) {
      const judged = (await StationModel.of(source, { ...recorded, driven: { card: driven, alc: 0.6 } })).judge(driven);
      expect(typeof judged === 'string' ? judged : judged.alc.usual).toBeCloseTo(0.6, 1);
    }
  });

  it('AM is told in a sentence, by every question', async () => {
    const am = { ...card, mode: 'am' as const };
    const sentence = 'Reach is calculated for single sideband only.';
    expect(model.judge(am)).toBe(sentence);
    expect(await model.soundWays(am, defaultTarget('natural'), undefined, () => {})).toBe(sentence);
  });

  it('two stages are heard at one level and one length', () => {
    const { sounds, rateHz } = model.hear([
      { card, at: 'voice' },
      { card, at: 'heard' },
    ]);
    expect(rateHz).toBeGreaterThan(8000);
    expect(sounds[0]).toHaveLength(sounds[1].length);
  });

  it('silence is refused', async () => {
    await expect(StationModel.of(await sourceOf(RATE, [new Float64Array(RATE * 3)]), recorded)).rejects.toThrow(RangeError);
  });
});
