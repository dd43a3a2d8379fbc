/** The engine on a simulated station: over after over, seeing only what an operator could see, never what the radio hides. */
import { joined, mean, median } from '../../dsp/index.ts';
import { bytesInMemory, openWav, type SampleSource, writeWav } from '../../files/index.ts';
import { measureRecording, type SsbMeasurement, type VoiceDetail } from '../../measure/index.ts';
import { asRead, type Card, effective, type Purpose, type RigProfile, responseOf, valuesOf } from '../../rig/index.ts';
import { CLEAR_PATH, GOOD_RECEIVER, type MeterReadings, type SimulatedStation, Simulation } from '../../simulate/index.ts';
import type { Decibels } from '../../units/index.ts';
import { FitImpossible, fitEqualizer } from '../fitEqualizer.ts';
import { defaultTarget } from '../targets.ts';
import { toneBasis, usualErrorDb } from '../toneError.ts';
import { pooledVoice } from '../toneEstimate.ts';
import { compressionStanding } from './compression.ts';
import { CLEAN_DB, nextChannelDb } from './drive.ts';
import { nextAnswer } from './engine.ts';
import { variantOf } from './equalizerBelief.ts';
import type { NextAnswer, SchoolWish, SeenOver, Tap } from './seen.ts';

/** A radio with its operator, simulated or real: makes an over with a card and tells what could be seen of it. */
export interface LoopRadio {
  readonly rig: RigProfile;
  readonly card: Card;
  /** @param over how many were made before it */
  readonly over: (card: Card, over: number) => Promise<SeenOver>;
  /** Looks at what the answer names, and mends what is found; false where nothing was. */
  readonly mend?: (answer: NextAnswer) => Promise<boolean>;
}

/** One turn of the loop. */
export interface LoopOver {
  readonly card: Card;
  readonly seen: SeenOver;
  /** What the engine said after it. */
  readonly answer: NextAnswer;
}

/** What is wanted, and how long it may take. */
export interface LoopWish {
  readonly purpose: Purpose;
  readonly school: SchoolWish;
  /** Overs at most. */
  readonly overs: number;
}

/** How the station is operated and heard. */
export interface LoopOptions extends LoopWish {
  /** Where the station's first receiver stands. */
  readonly tap: Tap;
  /** I/Q of each over is recorded as well. */
  readonly hasIq: boolean;
  /** Gain that brings the recorded voice to the model's level. */
  readonly voiceGainDb: Decibels;
  readonly signal?: AbortSignal;
}

const RECORDED_PEAK = 0.5;

/**
 * @param advisor another than the engine, to compare with
 * @returns the overs, oldest first; the last answer is "done", "stop", or where the number of overs ended it
 */
export async function closedLoop(radio: LoopRadio, { purpose, school, overs: most }: LoopWish, advisor = nextAnswer): Promise<LoopOver[]> {
  const overs: LoopOver[] = [];
  let card: Card = { mode: radio.card.mode, values: valuesOf(radio.card, radio.rig) };
  for (let k = 0; k < most; k++) {
    const seen = await radio.over(card, k);
    const answer = advisor({ rig: radio.rig, mode: card.mode, purpose, school, overs: [...overs.map((over) => over.seen), seen] });
    overs.push({ card, seen, answer });
    if (answer.status === 'done') break;
    const isMended = answer.learned.deadDials.length > 0 && (await radio.mend?.(answer));
    if (answer.status === 'stop' && !isMended) break;
    card = { ...card, values: { ...card.values, ...Object.fromEntries(answer.set.map(({ dial, to }) => [dial.id, to])) } };
  }
  return overs;
}

/** A simulated station as the loop sees it. @param voices recordings of the operator, used in turn: no two overs say the same */
export const simulatedRadio = (station: SimulatedStation, voices: readonly SampleSource[], options: LoopOptions): LoopRadio => ({
  rig: station.rig,
  card: station.card,
  over: async (card, k) => (await makeOver({ ...station, card }, voices[k % voices.length], options)).seen,
});

/** One over of the station as its card stands, measured as an operator would have it measured. */
async function makeOver(
  station: SimulatedStation,
  voice: SampleSource,
  options: LoopOptions,
): Promise<{ seen: SeenOver; meters: MeterReadings }> {
  const [{ receiver }] = station.receivers;
  const { passbandHz } = effective(station.rig, station.card);
  const audio = await rendered(station, voice, options, false);
  const heard = await measureRecording('voice', audio.source, { passbandHz });
  const sideband = station.card.mode === 'lsb' ? 'lsb' : 'usb';
  const radio = options.hasIq
    ? await measureRecording('ssb', (await rendered(station, voice, options, true)).source, { carrierHz: 0, sideband, passbandHz })
    : null;
  const alc = audio.meters.alc.usual;
  return {
    meters: audio.meters,
    seen: {
      card: { ...station.card, use: null },
      alc: alc === null ? null : asRead(alc),
      compressionDb: Math.round(audio.meters.compressionDb),
      swr: null,
      voices:
        heard.measurement.kind === 'voice' && heard.detail
          ? [{ tap: options.tap, passbandHz: receiver.passbandHz, result: heard.measurement, detail: heard.detail as VoiceDetail }]
          : [],
      radios: radio ? [radio.measurement as SsbMeasurement] : [],
    },
  };
}

async function rendered(station: SimulatedStation, voice: SampleSource, { voiceGainDb, signal }: LoopOptions, isIq: boolean) {
  const simulation = new Simulation(voice, station, voiceGainDb, { receiver: station.receivers[0], isIq, signal });
  const parts: Float64Array[][] = Array.from({ length: simulation.channels }, () => []);
  for await (const block of simulation.blocks()) for (const [c, samples] of block.entries()) parts[c].push(samples);
  const { sampleRateHz, channels } = simulation;
  const whole = parts.map(joined);
  // The recorder is set so that nothing clips, as anybody would.
  const peak = whole.reduce((most, part) => part.reduce((high, x) => Math.max(high, Math.abs(x)), most), 0);
  const gain = isIq || peak === 0 ? 1 : RECORDED_PEAK / peak;
  const wav = writeWav(
    { sampleRateHz, channels, bits: 32, encoding: 'float' },
    whole.map((part) => part.map((x) => gain * x)),
  );
  return { source: await openWav(bytesInMemory(wav)), meters: simulation.readings() };
}

/** How the station really stands: what no operator sees. */
export interface TrueState {
  readonly alc: number | null;
  readonly isAlcInZone: boolean;
  readonly adjacentDb: Decibels | null;
  readonly isDriveClean: boolean;
  readonly isCompressionRight: boolean;
  readonly toneErrorDb: Decibels | null;
  readonly bestToneErrorDb: Decibels | null;
  readonly isToneRight: boolean;
  readonly isReached: boolean;
}

/** The tone is right within this of what the rig can do. */
const TONE_DB: Decibels = 1;

/** A card of the station, judged over several texts through a good receiver next door. */
export async function trueState(
  station: SimulatedStation,
  card: Card,
  voices: readonly SampleSource[],
  options: LoopOptions,
): Promise<TrueState> {
  const near = { ...station, card, receivers: [{ name: 'next door', receiver: GOOD_RECEIVER, path: { ...CLEAR_PATH, snrDb: 60 } }] };
  const made = await Promise.all(voices.map((voice) => makeOver(near, voice, { ...options, tap: 'second', hasIq: true })));
  const rig = variantOf(station.trueRig, null, station.radio.equalizerScale);
  const { errorDb, bestDb } = toneOf(rig, card, made, options.purpose);
  const alcs = made.map(({ meters }) => meters.alc.usual).filter((alc) => alc !== null);
  const alc = alcs.length === 0 ? null : mean(alcs);
  const dirt = made.map(({ seen }) => nextChannelDb(seen.radios) ?? -100);
  const adjacentDb = median(dirt);
  const [low, high] = options.school.alcZone;
  const isAlcInZone = alc !== null && alc >= low - 0.025 && alc <= high + 0.025;
  const isDriveClean = adjacentDb <= CLEAN_DB;
  const isToneRight = errorDb !== null && bestDb !== null && errorDb - bestDb <= TONE_DB;
  const isCompressionRight =
    compressionStanding(rig, card, options.school.compression, Math.round(made[0].meters.compressionDb)).state === 'ok';
  return {
    alc,
    isAlcInZone,
    adjacentDb,
    isDriveClean,
    isCompressionRight,
    toneErrorDb: errorDb,
    bestToneErrorDb: bestDb,
    isToneRight,
    isReached: isAlcInZone && isDriveClean && isToneRight && isCompressionRight,
  };
}

const NO_COSTS = { move: 0, lift: 0, boost: 0, cut: 0, crowding: 0, level: 0 };

/** The tone of all texts together, and the least error that the dials can reach: nothing estimated, nothing held back. */
function toneOf(rig: RigProfile, card: Card, made: readonly { seen: SeenOver }[], purpose: Purpose) {
  const responseDb = responseOf(rig, card);
  const overs = made.flatMap(({ seen }) => seen.voices.slice(0, 1).map(({ detail }) => ({ voice: detail, responseDb })));
  if (overs.length === 0) return { errorDb: null, bestDb: null };
  const passbandHz = effective(rig, card).passbandHz;
  const voice = pooledVoice(overs, passbandHz);
  const target = defaultTarget(purpose);
  const errorDb = usualErrorDb(
    toneBasis(voice, target, passbandHz),
    responseDb.map(() => 0),
  );
  try {
    return { errorDb, bestDb: Math.min(errorDb, fitEqualizer({ rig, card, voice, target, isExact: true, costs: NO_COSTS }).best.errorDb) };
  } catch (error) {
    if (error instanceof FitImpossible) return { errorDb, bestDb: errorDb };
    throw error;
  }
}
