/**
 * From the mouth to the mic socket: the microphone's response as it is used, its output level, how far away the mouth
 * is, and what else it hears: the room, hum, breath bursts (plosives). The distance makes the voice weaker (1/r), the
 * room stays as loud as it is.
 */
import {
  type AudioStage,
  addResponseDb,
  BiquadChain,
  curveTaps,
  FftFilter,
  gaussian,
  halfSines,
  type Kernel,
  lowPass,
  mean,
  type Random,
  seededRandom,
} from '../../dsp/index.ts';
import type { Microphone, MicrophoneUse } from '../../rig/index.ts';
import { amplitudeToDb, type Decibels, dbToAmplitude, dbToPower, type Hertz } from '../../units/index.ts';
import { microphoneResponseDb } from './microphone.ts';

/** The voice at this distance is what levels are told against. */
const REFERENCE_CM = 5;
/** Output of the three classes, re the middle one. A rough figure of the trade: a hot mic gives four times a weak one, twice over. */
const CLASS_DB: Record<Microphone['level'], Decibels> = { low: -12, medium: 0, high: 12 };

/** Noise, hum and pops around the microphone. */
export interface Room {
  /** Level of the room's noise re the voice's active level at 5 cm; null for a silent room. */
  readonly noiseDb: Decibels | null;
  /** Mains hum at the socket, re the same; null for none. */
  readonly humDb: Decibels | null;
  readonly humHz: Hertz;
  /** Breath bursts a minute, and their peak re the voice's active level. */
  readonly plosivesPerMinute: number;
  readonly plosiveDb: Decibels;
}

/** A room without noise of its own. */
export const QUIET_ROOM: Room = { noiseDb: -50, humDb: null, humHz: 50, plosivesPerMinute: 0, plosiveDb: 15 };

/** Nothing but the voice. */
export const SILENT_ROOM: Room = { ...QUIET_ROOM, noiseDb: null };

/** Active level of the voice as it enters, re full scale: other levels are told against it. */
export const VOICE_LEVEL_DB: Decibels = -26;

const TAPS_S = 0.04;
const ROOM_CORNER_HZ = 1200;
const PLOSIVE_S = 0.06;
const PLOSIVE_HZ = 35;

/** The microphone, its use, its room, and the seed of all chance. */
export interface MicrophoneSetting {
  /** Null for the voice as it was recorded: flat, at 5 cm, of medium level. */
  readonly microphone: Microphone | null;
  readonly use: MicrophoneUse | null;
  readonly room: Room;
  readonly seed: number;
}

/** Gain by output class and distance. */
export function microphoneGainDb({ microphone, use }: MicrophoneSetting): Decibels {
  if (!microphone) return 0;
  return CLASS_DB[microphone.level] - amplitudeToDb((use?.distanceCm ?? REFERENCE_CM) / REFERENCE_CM);
}

/** Whether the voice passes as it is: nothing is heard beside it, and it was recorded at the socket. */
export const isSilentMicrophone = ({ microphone, room }: MicrophoneSetting): boolean =>
  microphone === null && room.noiseDb === null && room.humDb === null && room.plosivesPerMinute === 0;

/** Voice at VOICE_LEVEL_DB in, what stands at the mic socket out. */
export function microphoneStage(setting: MicrophoneSetting, rateHz: Hertz, kernel: Kernel | null): AudioStage {
  const { microphone, use } = setting;
  const away = surroundings(setting, rateHz);
  const cable = cableHum(setting, rateHz);
  const level = dbToAmplitude(microphone ? CLASS_DB[microphone.level] : 0);
  const near = dbToAmplitude(microphoneGainDb(setting)) / level;
  const hear = (block: Float64Array) => {
    if (near !== 1) for (let n = 0; n < block.length; n++) block[n] *= near;
    away.addTo(block);
    if (level !== 1) for (let n = 0; n < block.length; n++) block[n] *= level;
    return block;
  };
  // Hum comes in behind the capsule: no distance, screen or curve of the microphone changes it.
  const withHum = (block: Float64Array) => {
    cable?.addTo(block);
    return block;
  };
  if (!microphone || !use) return { push: (block) => withHum(hear(block)), end: () => new Float64Array(0) };
  const taps = curveTaps(rateHz, (hz) => curveDb(microphone, use, hz), 2 * Math.round((TAPS_S * rateHz) / 2) + 1);
  const filter = new FftFilter({ i: taps }, kernel);
  return {
    push: (block) => withHum(filter.push(hear(block)).i),
    end: () => withHum(filter.end().i),
  };
}

/** Below the voice and above it a curve goes on as it ends there; the proximity effect would rise without end. */
const curveDb = (microphone: Microphone, use: MicrophoneUse, hz: Hertz): Decibels =>
  microphoneResponseDb(microphone, use, [Math.max(60, Math.min(8000, hz))])[0];

interface Surroundings {
  addTo(block: Float64Array): void;
}

function surroundings({ room, seed, microphone, use }: MicrophoneSetting, rateHz: Hertz): Surroundings {
  const sources: Surroundings[] = [];
  if (room.noiseDb !== null) sources.push(roomNoise(VOICE_LEVEL_DB + room.noiseDb, rateHz, seededRandom(seed)));
  if (room.plosivesPerMinute > 0) {
    // A screen takes the breath off; from 15 cm on it has spread out. Common practice, as told.
    const isScreened = microphone !== null && (use?.accessories.length ?? 0) > 0;
    const far = (use?.distanceCm ?? REFERENCE_CM) / REFERENCE_CM;
    const peakDb = VOICE_LEVEL_DB + room.plosiveDb - 2 * amplitudeToDb(far) - (isScreened ? 15 : 0);
    sources.push(plosives(peakDb, room.plosivesPerMinute, rateHz, seededRandom(seed + 1)));
  }
  return {
    addTo(block) {
      for (const source of sources) source.addTo(block);
    },
  };
}

const cableHum = ({ room }: MicrophoneSetting, rateHz: Hertz): Surroundings | null =>
  room.humDb === null ? null : hum(VOICE_LEVEL_DB + room.humDb, room.humHz, rateHz);

/** Noise that falls above 1.2 kHz, as fans and rooms do. */
function roomNoise(levelDb: Decibels, rateHz: Hertz, random: Random): Surroundings {
  const filter = lowPass(rateHz, ROOM_CORNER_HZ, 0.5);
  const chain = new BiquadChain([filter]);
  const normal = gaussian(random);
  // Mean power gain of the filter over all frequencies.
  const steps = 2000;
  const gainsDb = new Float64Array(steps);
  addResponseDb(
    filter,
    halfSines(
      rateHz,
      Array.from(gainsDb, (_, k) => ((k + 0.5) * rateHz) / 2 / steps),
    ),
    gainsDb,
  );
  const gain = dbToAmplitude(levelDb) / Math.sqrt(mean(gainsDb.map(dbToPower)));
  return {
    addTo(block) {
      const noise = new Float64Array(block.length);
      for (let n = 0; n < noise.length; n++) noise[n] = gain * normal();
      chain.process(noise);
      for (let n = 0; n < block.length; n++) block[n] += noise[n];
    },
  };
}

/** The mains' fundamental and two harmonics, as rectifiers leave them. */
function hum(levelDb: Decibels, hz: Hertz, rateHz: Hertz): Surroundings {
  const parts = [1, 0.7, 0.4];
  const gain = (dbToAmplitude(levelDb) * Math.SQRT2) / Math.hypot(...parts);
  let at = 0;
  return {
    addTo(block) {
      for (let n = 0; n < block.length; n++, at++)
        for (let k = 0; k < parts.length; k++) block[n] += gain * parts[k] * Math.sin((2 * Math.PI * hz * (k + 1) * at) / rateHz);
    },
  };
}

/** Bursts of a low, dying swing at random moments. */
function plosives(peakDb: Decibels, perMinute: number, rateHz: Hertz, random: Random): Surroundings {
  const peak = dbToAmplitude(peakDb);
  const length = Math.round(PLOSIVE_S * rateHz);
  const mean = (60 / perMinute) * rateHz;
  const wait = () => Math.round(mean * (0.5 + random()));
  let until = wait();
  return {
    addTo(block) {
      for (let n = 0; n < block.length; n++, until--) {
        if (until <= -length) until = wait();
        if (until > 0) continue;
        const share = -until / length;
        block[n] += peak * Math.exp(-4 * share) * Math.sin((2 * Math.PI * PLOSIVE_HZ * -until) / rateHz);
      }
    },
  };
}
