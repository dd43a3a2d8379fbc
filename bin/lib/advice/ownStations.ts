/** Stations of the program's own transmitter, with recorded voices (tests/validation/overs.py), four texts each. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { type LoopOptions, simulatedRadio, trueState } from '../../../src/core/advice/index.ts';
import { seededRandom } from '../../../src/core/dsp/index.ts';
import { bytesInMemory, openWav } from '../../../src/core/files/index.ts';
import { type Card, dialOf, PURPOSES, parseRig, positionsOf, type RigProfile } from '../../../src/core/rig/index.ts';
import { parseStation, voiceGain } from '../../../src/core/simulate/index.ts';
import { OVERS, type Trial } from './trial.ts';

const VOICES = ['a', 'b', 'c', 'd', 'e', 'f'];
const TEXTS = 4;
const RIGS = ['tern-100', 'fulmar-8', 'knot-5'];
/** The dial of that role on all three. */
const GAIN = 'mic-gain';
/** A gain dial of so few positions spans less. */
const FEW_POSITIONS = 12;
const SCHOOLS = ['cautious', '30-50', 'full'];
const COMPRESSIONS = ['none', 'token', 'weak-mic'] as const;
/** Microphone responses: dull, boomy, bright. */
const MICROPHONES: readonly (readonly (readonly [number, number])[])[] = [
  [
    [100, 0],
    [800, 0],
    [1500, -4],
    [3000, -8],
  ],
  [
    [100, 8],
    [250, 5],
    [600, 0],
    [3000, 0],
  ],
  [
    [100, -6],
    [400, -2],
    [1000, 0],
    [3000, 7],
  ],
];

/** A station of a seed: rig, voice, microphone, a card somebody left, and what the radio hides. */
export async function ownTrial(seed: number, folder: string): Promise<Trial> {
  const random = seededRandom(7919 * seed);
  for (let k = 0; k < 10; k++) random();
  const between = (low: number, high: number) => low + (high - low) * random();
  const pick = <T>(all: readonly T[]): T => all[Math.min(all.length - 1, Math.floor(random() * all.length))];
  const rig = parseRig(JSON.parse(readFileSync(`demo/rigs/${RIGS[seed % RIGS.length]}.json`, 'utf8')));
  const evidence = ['iq', 'audio', 'weak'][seed % 3];
  const voice = pick(VOICES);
  const voices = await Promise.all(
    Array.from({ length: TEXTS }, (_, n) => openWav(bytesInMemory(new Uint8Array(readFileSync(join(folder, `${voice}-${n}.wav`)))))),
  );
  const school = pick(SCHOOLS);
  const compression = pick(COMPRESSIONS);
  const gains = positionsOf(dialOf(rig, GAIN).scale);
  const alcZone = { cautious: [0.25, 0.5], '30-50': [0.3, 0.5], full: [0.5, 0.67] }[school] as [number, number];
  const station = parseStation({
    rig,
    mode: 'usb',
    seed,
    card: badCard(rig, random),
    microphone: microphoneOf(pick(MICROPHONES)),
    operator: { loudnessDb: between(-3, 3) },
    receivers: [evidence === 'weak' ? { name: 'far', snrDb: 22, passbandHz: [200, 2900], fading: null } : { name: 'near', snrDb: 45 }],
    truth: {
      equalizerWidth: random() < 0.5 ? 'octaves' : 'q',
      equalizerBells: random() < 0.4 ? 'resonance' : 'mirrored',
      clickDb: between(0.75, 1.2),
      passbandError: [between(-40, 60), between(-100, 60)],
      micGain: { middleDb: between(12, 22), spanDb: gains.length <= FEW_POSITIONS ? between(12, 20) : between(28, 48) },
      // One of four clips below the upper zones, whatever the gain does.
      processor: {
        kind: random() < 0.5 ? 'rf' : 'audio',
        mostDb: between(14, 26),
        ceilingDb: random() < 0.25 ? between(3, 5) : between(8, 12),
      },
      amplifier: { saturationDb: between(0.4, 3), smoothness: between(1.5, 4) },
      balance: { carrierDb: -60, oppositeDb: -60 },
      room: { noiseDb: between(-55, -38), humDb: random() < 0.1 ? between(-45, -25) : null },
    },
  });
  const options: LoopOptions = {
    purpose: pick(PURPOSES.slice(0, 3)),
    school: { alcZone, compression },
    overs: OVERS,
    tap: evidence === 'weak' ? 'remote' : 'second',
    hasIq: evidence === 'iq',
    voiceGainDb: (await voiceGain(voices[0])) ?? 0,
  };
  const truth = (card: Card) => trueState(station, card, voices, options);
  return {
    name: `own ${seed}: ${rig.name}, ${evidence}, voice ${voice}, ${school}, ${compression}`,
    wish: options,
    radio: async () => simulatedRadio(station, voices, options),
    truth,
    isLevelInReach: async (card) => {
      const [least, most] = await Promise.all(
        [gains[0], gains[gains.length - 1]].map(
          async (gain) => (await truth({ ...card, values: { ...card.values, [GAIN]: gain } })).alc ?? 0,
        ),
      );
      return least <= alcZone[1] && most >= alcZone[0];
    },
  };
}

/** A card as somebody left it: any gain, some of the equalizer turned. */
function badCard(rig: RigProfile, random: () => number): Record<string, number | string> {
  const values: Record<string, number | string> = {};
  for (const dial of rig.dials) {
    if (dial.scale.kind !== 'steps') continue;
    const { min, max, step } = dial.scale;
    const at = (share: number) => min + step * Math.round((share * (max - min)) / step);
    if (dial.role === 'mic-gain') values[dial.id] = at(0.15 + 0.8 * random());
    else if (dial.stage === 'equalizer' && dial.unit === 'dB' && random() < 0.4) values[dial.id] = at(0.2 + 0.7 * random());
  }
  return values;
}

const microphoneOf = (curve: readonly (readonly [number, number])[]) => ({
  format: 'dialtune-microphone',
  version: 1,
  name: 'bench',
  kind: 'dynamic',
  pattern: 'cardioid',
  level: 'medium',
  distanceCm: 5,
  curveDistanceCm: 5,
  positions: [{ name: 'flat', curve }],
  accessories: [],
});
