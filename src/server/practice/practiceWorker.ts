/** Runs on a thread of its own: overs of a practice radio, with the operator's own voice out of a stored recording. */
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { closedLoop, type SeenOver } from '@/core/advice/index.ts';
import { gaussian, joined, seededRandom } from '@/core/dsp/index.ts';
import { bytesInMemory, openWav, readPart, type SampleSource, writeWav } from '@/core/files/index.ts';
import { measureRecording, type SsbMeasurement, type VoiceDetail } from '@/core/measure/index.ts';
import { asRead, type Card, effective } from '@/core/rig/index.ts';
import { FormatError } from '@/core/schema/index.ts';
import { dryVoice, hiddenRadio, type MeterReadings, PRACTICE_RECEIVERS, Simulation, voiceGain } from '@/core/simulate/index.ts';
import { openDatabase } from '../db/database.ts';
import type { Models } from '../db/models.ts';
import { storedBytes } from '../overs/captureBytes.ts';
import type { PracticeJob, PracticeNews } from './practice.ts';

/** An over is ten to fifteen seconds of talk; common practice. */
const OVER_S = 15;
/** Each take begins elsewhere in the recording, and is talked a little louder or softer. */
const TURN_S = 2.3;
const LOUDNESS_SD_DB = 1;
/** The recorder is set so that nothing clips, as anybody would. */
const RECORDED_PEAK = 0.9;
/** Who talks while the operator has no recording of his own: a synthetic voice of the demo, as a good receiver had it. */
const DEMO_VOICE = join(process.cwd(), 'demo', 'overs', '10-bram-clear.wav');
/** Overs at most when the engine plays a radio, and takes that no operator gets to. */
const ENGINE_OVERS = 10;
const ENGINE_TAKES = 500;

export default async function work(job: PracticeJob): Promise<PracticeNews> {
  const { sequelize, models } = openDatabase(job.databaseUrl, 1);
  try {
    const talk = await voiceOf(job, models);
    if (talk === null) return { kind: 'failed', message: 'Nobody talks in the recording of this voice.' };
    if (job.engine) return { kind: 'played', overs: await play(job, job.engine, talk) };
    const { wav, meters } = await render(job, talk, job);
    return { kind: 'done', wav, meters };
  } catch (error) {
    if (error instanceof FormatError) return { kind: 'failed', message: error.message };
    throw error;
  } finally {
    await sequelize.close();
  }
}

/** A dry voice, and the gain that brings it to the model's level. */
interface Talk {
  readonly samples: Float64Array;
  readonly sampleRateHz: number;
  readonly gainDb: number;
}

async function voiceOf({ voice }: PracticeJob, models: Models): Promise<Talk | null> {
  const recording = await openWav(
    voice ? storedBytes(models, voice.captureId, voice.bytes) : bytesInMemory(new Uint8Array(await readFile(DEMO_VOICE))),
  );
  const { sampleRateHz } = recording;
  const heard = await readPart(recording, 0, OVER_S * sampleRateHz);
  const samples = voice ? dryVoice(heard, sampleRateHz, voice) : heard;
  const gainDb = await voiceGain(await asSource(samples, sampleRateHz));
  return gainDb === null ? null : { samples, sampleRateHz, gainDb };
}

const asSource = (samples: Float64Array, sampleRateHz: number): Promise<SampleSource> =>
  openWav(bytesInMemory(writeWav({ sampleRateHz, channels: 1, bits: 32, encoding: 'float' }, [samples])));

interface Rendered {
  readonly wav: Uint8Array<ArrayBuffer>;
  readonly meters: MeterReadings;
}

/** One take of the radio as a file. */
async function render(
  { rig, microphone, radio }: PracticeJob,
  { samples, sampleRateHz, gainDb }: Talk,
  { card, receiver, isIq, take }: Pick<PracticeJob, 'card' | 'receiver' | 'isIq' | 'take'>,
): Promise<Rendered> {
  const source = await asSource(turned(samples, take * TURN_S * sampleRateHz), sampleRateHz);
  const hidden = hiddenRadio(rig, radio);
  const station = {
    rig,
    card,
    microphone: { ...microphone, room: hidden.room, seed: radio + 100 * take },
    loudnessDb: take === 0 ? 0 : LOUDNESS_SD_DB * gaussian(seededRandom(1000 * radio + take))(),
    trueRig: hidden.trueRig,
    radio: hidden.radio,
    receivers: PRACTICE_RECEIVERS,
    voicePath: null,
  };
  const heardBy = PRACTICE_RECEIVERS[receiver];
  const path = { ...heardBy.path, seed: heardBy.path.seed + 100 * take };
  const simulation = new Simulation(source, station, gainDb, { receiver: { ...heardBy, path }, isIq });
  const parts: (readonly Float64Array[])[] = [];
  for await (const block of simulation.blocks()) parts.push(block.map((channel) => channel.slice()));
  const whole = Array.from({ length: simulation.channels }, (_, c) => joined(parts.map((part) => part[c])));
  const channels = isIq ? whole : whole.map(asRecorded);
  const shape = { sampleRateHz: simulation.sampleRateHz, channels: channels.length, bits: 16, encoding: 'pcm' } as const;
  return { wav: writeWav(shape, channels) as Uint8Array<ArrayBuffer>, meters: simulation.readings() };
}

function turned(samples: Float64Array, by: number): Float64Array {
  const at = Math.round(by) % samples.length;
  return joined([samples.subarray(at), samples.subarray(0, at)]);
}

function asRecorded(samples: Float64Array): Float64Array {
  const peak = samples.reduce((most, x) => Math.max(most, Math.abs(x)), 0);
  return peak === 0 ? samples : samples.map((x) => (RECORDED_PEAK * x) / peak);
}

/** The advice engine on the same radio, from the same card. */
async function play(job: PracticeJob, wish: NonNullable<PracticeJob['engine']>, talk: Talk) {
  const loop = { rig: job.rig, card: job.card, over: (card: Card, k: number) => seen(job, talk, card, ENGINE_TAKES + k) };
  const overs = await closedLoop(loop, { ...wish, overs: ENGINE_OVERS });
  return overs.map(({ seen: { alc }, answer: { status, why, set, goal } }) => ({
    alc,
    status,
    why,
    set: set.map(({ dial, from, to }) => ({ dialId: dial.id, from, to })),
    toneErrorDb: goal.toneErrorDb,
  }));
}

/** What an operator with a second receiver and its I/Q sees of an over. */
async function seen(job: PracticeJob, talk: Talk, card: Card, take: number): Promise<SeenOver> {
  const { passbandHz } = effective(job.rig, card);
  const audio = await render(job, talk, { card, receiver: 0, isIq: false, take });
  const heard = await measureRecording('voice', await openWav(bytesInMemory(audio.wav)), { passbandHz });
  const { measurement, detail } = heard;
  const isSideband = card.mode === 'usb' || card.mode === 'lsb';
  const radio = isSideband ? await render(job, talk, { card, receiver: 0, isIq: true, take }) : null;
  const sideband = card.mode === 'lsb' ? 'lsb' : 'usb';
  const radios = radio
    ? [(await measureRecording('ssb', await openWav(bytesInMemory(radio.wav)), { carrierHz: 0, sideband, passbandHz })).measurement]
    : [];
  const { alc, compressionDb } = audio.meters;
  const [low, high] = PRACTICE_RECEIVERS[0].receiver.passbandHz;
  return {
    card: { ...card, use: null },
    alc: alc.usual === null ? null : asRead(alc.usual),
    compressionDb: Math.round(compressionDb),
    swr: null,
    voices:
      measurement.kind === 'voice' && detail
        ? [{ tap: 'second', passbandHz: [low, high], result: measurement, detail: detail as VoiceDetail }]
        : [],
    radios: radios as SsbMeasurement[],
  };
}
