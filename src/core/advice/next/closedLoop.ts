/** The engine on a simulated station: over after over, seeing only what an operator could see, never what the radio hides. */
import { joined } from '../../dsp/index.ts';
import { bytesInMemory, openWav, type SampleSource, writeWav } from '../../files/index.ts';
import { measureRecording, type SsbMeasurement, type VoiceDetail } from '../../measure/index.ts';
import { type Card, effective, type Purpose, type RigProfile, valuesOf } from '../../rig/index.ts';
import { CLEAR_PATH, GOOD_RECEIVER, type MeterReadings, type SimulatedStation, Simulation } from '../../simulate/index.ts';
import type { Decibels } from '../../units/index.ts';
import { CLEAN_DB, nextAnswer } from './engine.ts';
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
/** A meter is read to a twentieth of its scale. */
const toTwentieth = (share: number): number => Math.round(20 * Math.min(1, Math.max(0, share))) / 20;

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
    if (answer.status === 'stop' && !(await radio.mend?.(answer))) break;
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
      alc: alc === null ? null : toTwentieth(alc),
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

/** A card of the station, judged through a good receiver next door. */
export async function trueState(station: SimulatedStation, card: Card, voice: SampleSource, options: LoopOptions): Promise<TrueState> {
  const near = { ...station, card, receivers: [{ name: 'next door', receiver: GOOD_RECEIVER, path: { ...CLEAR_PATH, snrDb: 60 } }] };
  const { seen, meters } = await makeOver(near, voice, { ...options, tap: 'second', hasIq: true });
  const { goal } = nextAnswer({ rig: station.trueRig, mode: card.mode, purpose: options.purpose, school: options.school, overs: [seen] });
  const [low, high] = options.school.alcZone;
  const alc = meters.alc.usual;
  const { wantedSide = null, otherSide = null } = seen.radios[0]?.adjacentDb ?? {};
  const adjacentDb = wantedSide === null && otherSide === null ? null : Math.max(wantedSide ?? -200, otherSide ?? -200);
  const isAlcInZone = alc !== null && alc >= low - 0.025 && alc <= high + 0.025;
  const isDriveClean = adjacentDb !== null && adjacentDb <= CLEAN_DB;
  const isToneRight = goal.toneErrorDb !== null && goal.bestToneErrorDb !== null && goal.toneErrorDb - goal.bestToneErrorDb <= TONE_DB;
  const isCompressionRight = goal.compression === 'ok';
  return {
    alc,
    isAlcInZone,
    adjacentDb,
    isDriveClean,
    isCompressionRight,
    toneErrorDb: goal.toneErrorDb,
    bestToneErrorDb: goal.bestToneErrorDb,
    isToneRight,
    isReached: isAlcInZone && isDriveClean && isToneRight && isCompressionRight,
  };
}
