/** dialtune simulate: an over of a simulated station, as a receiver's audio or as I and Q. */
import { createWriteStream } from 'node:fs';
import { pipeline } from 'node:stream/promises';
import { wavCoder, wavHeader } from '@/core/files/index.ts';
import { readJson } from '@/core/schema/index.ts';
import { parseStation, type SimulatedStation, Simulation, voiceGain } from '@/core/simulate/index.ts';
import { InputError, UsageError } from './errors.ts';
import { about, openVoice, readText } from './inputs.ts';
import { noFiles, optional, parse, required } from './options.ts';

export const readStation = (path: string): Promise<SimulatedStation> =>
  about(path, async () => parseStation(readJson(await readText(path))));

export async function simulate(args: readonly string[]): Promise<{ json: object; text: string }> {
  const parsed = parse(args, ['station', 'voice', 'out', 'receiver'], ['iq', 'transmitter']);
  noFiles(parsed);
  const isAlone = parsed.values.transmitter === true;
  if (isAlone && (parsed.values.iq === true || optional(parsed, 'receiver') !== undefined))
    throw new UsageError('--transmitter is the transmitter by itself: it does not go with --iq or --receiver');
  const station = await readStation(required(parsed, 'station'));
  if (isAlone && station.card.mode !== 'usb' && station.card.mode !== 'lsb')
    throw new UsageError(`--transmitter is for single sideband; the card is for ${station.card.mode.toUpperCase()}`);
  const voicePath = optional(parsed, 'voice') ?? station.voicePath;
  if (voicePath === null) throw new UsageError('--voice is missing, and the station file names none');
  const out = required(parsed, 'out');
  const receiver = receiverNamed(station, optional(parsed, 'receiver'));
  const source = await openVoice(voicePath);
  const gain = await about(voicePath, () => voiceGain(source));
  if (gain === null) throw new InputError(`${voicePath}: nobody talks in it.`);
  const isIq = parsed.values.iq === true;
  const simulation = new Simulation(source, station, gain, { receiver, isIq, isAlone });
  const { sampleRateHz, channels } = simulation;
  const shape = { sampleRateHz, channels, bits: 16, encoding: 'pcm' as const };
  const frames = Math.floor((source.frames * sampleRateHz) / source.sampleRateHz);
  try {
    const coded = wavCoder(shape);
    await pipeline(async function* () {
      yield wavHeader(shape, frames);
      for await (const block of simulation.blocks()) if (block[0].length > 0) yield coded(block);
    }, createWriteStream(out));
  } catch (error) {
    const { code } = error as NodeJS.ErrnoException;
    if (code) throw new InputError(`${out}: it could not be written (${code}).`);
    throw error;
  }
  const { alc, power, compressionDb } = simulation.readings();
  const percent = (share: number | null) => (share === null ? 'nothing' : `${Math.round(100 * share)} %`);
  return {
    json: {
      out,
      sampleRateHz,
      channels,
      durationS: frames / sampleRateHz,
      receiver: isAlone ? null : receiver.name,
      mode: station.card.mode,
      alc,
      power,
      compressionDb,
    },
    text: `${out}: ${(frames / sampleRateHz).toFixed(1)} s of ${isAlone ? 'the transmitter’s audio' : isIq ? 'I and Q' : `audio of ${receiver.name}`}, simulated. ALC ${percent(alc.usual)} of its scale (highest ${percent(alc.highest)}), peak power ${percent(Math.min(1, power))}.`,
  };
}

function receiverNamed({ receivers }: SimulatedStation, name: string | undefined) {
  if (name === undefined) return receivers[0];
  const found = receivers.find((each) => each.name === name);
  if (!found) throw new UsageError(`--receiver is "${name}"; the station has ${receivers.map((each) => each.name).join(', ')}`);
  return found;
}
