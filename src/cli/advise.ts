/** dialtune advise: the engine in a loop on a simulated station; it sees meters and captures, never what the radio hides. */
import { closedLoop, type LoopOptions, schoolOf, simulatedRadio, trueState } from '@/core/advice/index.ts';
import { PURPOSES, type Purpose } from '@/core/rig/index.ts';
import { readJson } from '@/core/schema/index.ts';
import { parseStation, voiceGain } from '@/core/simulate/index.ts';
import { InputError, UsageError } from './errors.ts';
import { about, openVoice, readText } from './inputs.ts';
import { answerJson, answerText } from './next.ts';
import { everyOf, noFiles, oneOf, optional, parse, required, wholeOf } from './options.ts';

const USUAL_OVERS = 10;
const MOST_OVERS = 50;

/** What of a station file the simulation does not need. */
interface Wishes {
  readonly purpose?: string;
  readonly school?: Parameters<typeof schoolOf>[0];
}

export async function advise(args: readonly string[]): Promise<{ json: object; text: string }> {
  const parsed = parse(args, ['station', 'voice', 'overs', 'tap'], ['iq'], ['voice']);
  noFiles(parsed);
  const path = required(parsed, 'station');
  const { station, wishes, school } = await about(path, async () => {
    const raw = readJson(await readText(path));
    const read = parseStation(raw);
    return { station: read, wishes: raw as Wishes, school: schoolOf((raw as Wishes).school, read.rig) };
  });
  const purpose: Purpose = oneOf('purpose', wishes.purpose ?? 'balanced', PURPOSES);
  const told = everyOf(parsed, 'voice');
  const paths = told.length > 0 ? told : station.voicePath === null ? [] : [station.voicePath];
  if (paths.length === 0) throw new UsageError('--voice is missing, and the station file names none');
  const overs = wholeOf(parsed, 'overs', 1) ?? USUAL_OVERS;
  if (overs > MOST_OVERS) throw new UsageError(`--overs is ${overs}; ${MOST_OVERS} are the most`);
  const voices = await Promise.all(paths.map(openVoice));
  const gain = await about(paths[0], () => voiceGain(voices[0]));
  if (gain === null) throw new InputError(`${paths[0]}: nobody talks in it.`);
  const tap = oneOf('tap', optional(parsed, 'tap') ?? 'second', ['second', 'remote', 'tap', 'monitor'] as const);
  const options: LoopOptions = { purpose, school, overs, tap, hasIq: parsed.values.iq === true, voiceGainDb: gain };
  const before = await trueState(station, station.card, voices, options);
  const loop = await closedLoop(simulatedRadio(station, voices, options), options);
  const last = loop[loop.length - 1];
  const after = await trueState(station, last.card, voices, options);
  return {
    json: {
      overs: loop.map(({ card, seen, answer }) => ({ card: card.values, alc: seen.alc, ...answerJson(answer) })),
      count: loop.length,
      status: last.answer.status,
      before,
      after,
      reached: after.isReached,
    },
    text: [
      ...loop.map(({ answer }, k) => `over ${k + 1}: ${answerText(answer)}`),
      `${after.isReached ? 'The goal is reached' : 'The goal is not reached'} after ${loop.length} ${loop.length === 1 ? 'over' : 'overs'}.`,
    ].join('\n'),
  };
}
