/**
 * A simulated station as a file: rig, card, microphone, voice, what the radio hides ("truth"), and who listens. What
 * is left out has usual values; what is not known here is left alone.
 */
import type { FromSchema } from 'json-schema-to-ts';
import {
  type Card,
  type Microphone,
  type MicrophoneUse,
  MODES,
  microphoneUseSchema,
  PURPOSES,
  parseCard,
  parseMicrophone,
  parseRig,
  type RigProfile,
  usualUse,
} from '../../rig/index.ts';
import * as quick from '../../schema/checksQuick.js';
import * as thorough from '../../schema/checksThorough.js';
import { checker, InvalidInput, PLAIN_LINE } from '../../schema/index.ts';
import { HF_CLASSES } from '../path/fading.ts';
import { CLEAR_PATH, type PathShape } from '../path/path.ts';
import { FAST_AGC, SLOW_AGC } from '../receiver/agc.ts';
import { GOOD_RECEIVER, type ReceiverShape } from '../receiver/receiver.ts';
import { type MicrophoneSetting, QUIET_ROOM } from '../transmitter/microphoneStage.ts';
import { type RadioTruth, USUAL_RADIO } from '../transmitter/parameters.ts';

const number = (minimum: number, maximum: number) => ({ type: 'number', minimum, maximum }) as const;
const decibels = number(-200, 100);
const hertz = number(-5000, 20000);
const seconds = number(1e-5, 60);
const level = { type: ['number', 'null'], minimum: -200, maximum: 100 } as const;

const truth = {
  type: 'object',
  description: 'What the radio is inside, which no operator sees.',
  properties: {
    equalizerWidth: { enum: ['octaves', 'q'], description: 'What the width number really means.' },
    equalizerBells: { enum: ['mirrored', 'resonance'], description: 'What a parametric band really is, as in a rig profile.' },
    clickDb: { ...number(0.1, 5), description: 'What one decibel on an equalizer dial really is.' },
    passbandError: {
      anyOf: [hertz, { type: 'array', items: [hertz, hertz], minItems: 2, maxItems: 2, additionalItems: false }],
      description: 'By how many hertz the edges lie off: both, or the low and the high one.',
    },
    transitionHz: number(100, 2000),
    micGain: { type: 'object', properties: { middleDb: decibels, spanDb: number(0, 120) } },
    processor: { type: 'object', properties: { kind: { enum: ['audio', 'rf'] }, mostDb: number(0, 60), ceilingDb: decibels } },
    amplifier: { type: 'object', properties: { saturationDb: decibels, smoothness: number(0.5, 20), mostTurn: number(-2, 2) } },
    alc: {
      type: 'object',
      properties: {
        thresholdDb: decibels,
        ratio: number(1.01, 1000),
        attackS: seconds,
        releaseS: seconds,
        reserveDb: number(0, 100),
        scaleDb: number(0.1, 100),
        holdS: number(0, 60),
      },
    },
    balance: { type: 'object', properties: { carrierDb: level, oppositeDb: level } },
    deviationHz: { type: 'object', properties: { wide: number(100, 20000), narrow: number(100, 20000) } },
    room: {
      type: 'object',
      properties: {
        noiseDb: level,
        humDb: level,
        humHz: number(20, 400),
        plosivesPerMinute: number(0, 600),
        plosiveDb: decibels,
      },
    },
  },
} as const;

const receiver = {
  type: 'object',
  properties: {
    name: { type: 'string', maxLength: 60, pattern: PLAIN_LINE },
    passbandHz: { type: 'array', items: [number(20, 8000), number(20, 8000)], minItems: 2, maxItems: 2, additionalItems: false },
    snrDb: { ...level, description: 'Peak envelope power over the noise in 3 kHz; null for none.' },
    fading: { enum: [null, ...Object.keys(HF_CLASSES)] },
    impulsesPerSecond: number(0, 1000),
    agc: { enum: ['slow', 'fast', 'off'] },
    mistuneHz: number(-500, 500),
    overloadDb: level,
    noiseReduction: number(0, 1),
    blanker: { type: ['number', 'null'], minimum: 1, maximum: 100 },
    deviationHz: number(100, 20000),
  },
} as const;

/** JSON Schema of a simulated station. Rig, card and microphone are checked by their own schemas behind it. */
export const stationSchema = {
  $schema: 'http://json-schema.org/draft-07/schema#',
  title: 'Dial Tune simulated station',
  type: 'object',
  properties: {
    rig: { type: 'object' },
    card: {
      type: 'object',
      description: 'Dial values by id, or a card file.',
    },
    mode: { enum: MODES },
    microphone: { type: 'object', description: 'A microphone file; left out: flat, of medium level, at 5 cm.' },
    use: microphoneUseSchema,
    operator: {
      type: 'object',
      properties: { voice: { type: 'string', maxLength: 1000 }, loudnessDb: decibels },
    },
    purpose: { enum: PURPOSES },
    seed: { type: 'integer' },
    truth,
    receivers: { type: 'array', maxItems: 20, items: receiver },
    school: { type: 'object' },
  },
  required: ['rig', 'card'],
} as const;

type StationFile = FromSchema<typeof stationSchema>;
const checkStation = checker('station file', quick.station, thorough.station);

/** A receiver of a station file. */
export interface SimulatedReceiver {
  readonly name: string;
  readonly receiver: ReceiverShape;
  readonly path: PathShape;
}

/** A station file, read. */
export interface SimulatedStation {
  /** As the profile has it: what the operator believes. */
  readonly rig: RigProfile;
  readonly card: Card;
  readonly microphone: MicrophoneSetting;
  readonly loudnessDb: number;
  /** The same rig as it really is. */
  readonly trueRig: RigProfile;
  readonly radio: RadioTruth;
  readonly receivers: readonly SimulatedReceiver[];
  /** Path of the recording of the voice, where the file names one. */
  readonly voicePath: string | null;
}

const LOCAL: SimulatedReceiver = { name: 'local second receiver', receiver: GOOD_RECEIVER, path: { ...CLEAR_PATH, snrDb: 60 } };

/** @throws InvalidInput listing everything that is wrong */
export function parseStation(input: unknown): SimulatedStation {
  const problems = checkStation(input);
  if (problems.length > 0) throw new InvalidInput(problems);
  const file = input as StationFile;
  const rig = parseRig(file.rig);
  const card = cardOf(file, rig);
  const seed = file.seed ?? 1;
  const microphone = file.microphone === undefined ? null : parseMicrophone(file.microphone);
  return {
    rig,
    card,
    microphone: {
      microphone,
      use: microphone && useOf(file, microphone),
      room: { ...QUIET_ROOM, ...file.truth?.room } as MicrophoneSetting['room'],
      seed,
    },
    loudnessDb: file.operator?.loudnessDb ?? 0,
    trueRig: trueRig(rig, file.truth),
    radio: radioOf(file.truth),
    receivers: (file.receivers ?? []).length > 0 ? (file.receivers ?? []).map((each, k) => receiverOf(each, seed + 10 * k)) : [LOCAL],
    voicePath: file.operator?.voice ?? null,
  };
}

function cardOf(file: StationFile, rig: RigProfile): Card {
  const isFile = 'values' in file.card && typeof file.card.values === 'object';
  const mode = file.mode ?? (isFile ? undefined : rig.modes[0]);
  const card = { format: 'dialtune-card', version: 1, ...(isFile ? file.card : { values: file.card }), ...(mode ? { mode } : {}) };
  return parseCard(card, rig);
}

const useOf = (file: StationFile, microphone: Microphone): MicrophoneUse => (file.use as MicrophoneUse | undefined) ?? usualUse(microphone);

type Truth = NonNullable<StationFile['truth']>;

/** The rig with its width numbers and its bands being what they really are. */
function trueRig(rig: RigProfile, truth: Truth | undefined): RigProfile {
  const { equalizer } = rig;
  if (equalizer.kind !== 'parametric') return rig;
  const { width, bells } = equalizer;
  return {
    ...rig,
    equalizer: {
      ...equalizer,
      width: truth?.equalizerWidth === undefined ? width : { meaning: truth.equalizerWidth },
      bells: truth?.equalizerBells ?? bells,
    },
  };
}

function radioOf(truth: Truth | undefined): RadioTruth {
  const error = truth?.passbandError ?? 0;
  const [low, high] = typeof error === 'number' ? [error, error] : [error[0], error[1]];
  return {
    micGain: { ...USUAL_RADIO.micGain, ...truth?.micGain },
    processor: { ...USUAL_RADIO.processor, ...truth?.processor },
    passband: { errorHz: [low, high], transitionHz: truth?.transitionHz ?? USUAL_RADIO.passband.transitionHz },
    alc: { ...USUAL_RADIO.alc, ...truth?.alc },
    amplifier: { ...USUAL_RADIO.amplifier, ...truth?.amplifier },
    balance: { ...USUAL_RADIO.balance, ...truth?.balance },
    deviationHz: { ...USUAL_RADIO.deviationHz, ...truth?.deviationHz },
    equalizerScale: truth?.clickDb ?? USUAL_RADIO.equalizerScale,
  };
}

function receiverOf(file: FromSchema<typeof receiver>, seed: number): SimulatedReceiver {
  const { name = 'receiver', snrDb = 60, fading = null, impulsesPerSecond = 0, agc = 'slow' } = file;
  const usual = GOOD_RECEIVER;
  return {
    name,
    receiver: {
      passbandHz: file.passbandHz ? [file.passbandHz[0], file.passbandHz[1]] : usual.passbandHz,
      agc: agc === 'off' ? null : agc === 'fast' ? FAST_AGC : SLOW_AGC,
      mistuneHz: file.mistuneHz ?? 0,
      overloadDb: file.overloadDb ?? null,
      noiseReduction: file.noiseReduction ?? 0,
      blanker: file.blanker ?? null,
      deviationHz: file.deviationHz ?? usual.deviationHz,
    },
    path: {
      snrDb,
      fading: fading as PathShape['fading'],
      impulses: impulsesPerSecond > 0 ? { perSecond: impulsesPerSecond, peakDb: 10 } : null,
      seed,
    },
  };
}
