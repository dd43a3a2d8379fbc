/** Runs on a thread of its own: one over of a practice radio, with the operator's own voice out of a stored recording. */
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { gaussian, joined, seededRandom } from '@/core/dsp/index.ts';
import { bytesInMemory, openWav, readPart, writeWav } from '@/core/files/index.ts';
import { FormatError } from '@/core/schema/index.ts';
import { dryVoice, hiddenRadio, PRACTICE_RECEIVERS, Simulation, voiceGain } from '@/core/simulate/index.ts';
import { openDatabase } from '../db/database.ts';
import { storedBytes } from '../overs/captureBytes.ts';
import type { PracticeJob, PracticeNews } from './practice.ts';

/** An over is ten to fifteen seconds of talk; common practice. */
const OVER_S = 15;
/** Who talks while the operator has no recording of his own: a synthetic voice of the demo, as a good receiver had it. */
const DEMO_VOICE = join(process.cwd(), 'demo', 'overs', '10-bram-clear.wav');

/** Each take begins elsewhere in the recording, and is talked a little louder or softer. */
const TURN_S = 2.3;
const LOUDNESS_SD_DB = 1;

function turned(samples: Float64Array, by: number): Float64Array {
  const at = Math.round(by) % samples.length;
  return joined([samples.subarray(at), samples.subarray(0, at)]);
}

export default async function over({
  databaseUrl,
  voice,
  rig,
  microphone,
  card,
  radio,
  receiver,
  isIq,
  take,
}: PracticeJob): Promise<PracticeNews> {
  const { sequelize, models } = openDatabase(databaseUrl, 1);
  try {
    const recording = await openWav(
      voice ? storedBytes(models, voice.captureId, voice.bytes) : bytesInMemory(new Uint8Array(await readFile(DEMO_VOICE))),
    );
    const { sampleRateHz } = recording;
    const heard = await readPart(recording, 0, OVER_S * sampleRateHz);
    const samples = turned(voice ? dryVoice(heard, sampleRateHz, voice) : heard, take * TURN_S * sampleRateHz);
    const mono = { sampleRateHz, channels: 1, bits: 32, encoding: 'float' } as const;
    const source = await openWav(bytesInMemory(writeWav(mono, [samples])));
    const gain = await voiceGain(source);
    if (gain === null) return { kind: 'failed', message: 'Nobody talks in the recording of this voice.' };
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
    const simulation = new Simulation(source, station, gain, { receiver: { ...heardBy, path }, isIq });
    const parts: (readonly Float64Array[])[] = [];
    for await (const block of simulation.blocks()) parts.push(block.map((channel) => channel.slice()));
    const channels = Array.from({ length: simulation.channels }, (_, c) => joined(parts.map((part) => part[c])));
    const shape = { sampleRateHz: simulation.sampleRateHz, channels: channels.length, bits: 16, encoding: 'pcm' } as const;
    return { kind: 'done', wav: writeWav(shape, channels) as Uint8Array<ArrayBuffer>, meters: simulation.readings() };
  } catch (error) {
    if (error instanceof FormatError) return { kind: 'failed', message: error.message };
    throw error;
  } finally {
    await sequelize.close();
  }
}
