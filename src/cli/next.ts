/** dialtune next: the next move from a history file. */
import { dirname, resolve } from 'node:path';
import {
  type HeardReport,
  type History,
  type NextAnswer,
  nextAnswer,
  parseHistory,
  type SeenOver,
  type SeenVoice,
  type TestMeasurement,
} from '@/core/advice/index.ts';
import { readReport } from '@/core/language/index.ts';
import { measureFile, measureRecording, NotMeasurable, type SsbMeasurement, type VoiceDetail } from '@/core/measure/index.ts';
import { effective, nameOf, valueText } from '@/core/rig/index.ts';
import { readJson } from '@/core/schema/index.ts';
import { InputError } from './errors.ts';
import { openFile } from './fileSource.ts';
import { about, isText, readText } from './inputs.ts';
import { noFiles, parse, required } from './options.ts';
import { openRecording } from './recording.ts';

export async function next(args: readonly string[]): Promise<{ json: object; text: string }> {
  const parsed = parse(args, ['history']);
  noFiles(parsed);
  const path = required(parsed, 'history');
  const history = await about(path, async () => parseHistory(readJson(await readText(path))));
  const overs: SeenOver[] = [];
  for (const over of history.overs) overs.push(await seenOver(history, over, dirname(path)));
  const answer = nextAnswer({ ...history, overs });
  return { json: answerJson(answer), text: answerText(answer) };
}

/** Measures what was captured of an over. Paths are relative to the history. */
async function seenOver({ rig, mode }: History, over: History['overs'][number], folder: string): Promise<SeenOver> {
  const card = { mode, values: over.card, use: over.use ?? null };
  const { passbandHz } = effective(rig, card);
  const voices: SeenVoice[] = [];
  const radios: SsbMeasurement[] = [];
  const tests: TestMeasurement[] = [];
  for (const { file, as, carrier, sideband, receiver } of over.captures ?? []) {
    const path = resolve(folder, file);
    const options = {
      passbandHz,
      ...(as === 'ssb' && { carrierHz: carrier, sideband: sideband ?? (mode === 'lsb' ? 'lsb' : 'usb') }),
    } as const;
    const measured =
      as === 'response' && isText(path)
        ? about(path, async () => measureFile(as, await openFile(path), {}))
        : measureRecording(as, await openRecording(path), options);
    const { measurement, detail } = await measured.catch((error: Error) => {
      if (error instanceof NotMeasurable) throw new InputError(`${path}: ${error.message}`);
      throw error;
    });
    if (measurement.kind === 'ssb') radios.push(measurement);
    else if (measurement.kind === 'two-tone' || measurement.kind === 'response') tests.push(measurement);
    else if (measurement.kind === 'voice' && detail)
      voices.push({
        tap: receiver.kind,
        ...(receiver.passbandHz && { passbandHz: [receiver.passbandHz[0], receiver.passbandHz[1]] as const }),
        result: measurement,
        detail: detail as VoiceDetail,
      });
  }
  const { alc = null, compressionDb = null, powerW = null, swr = null, adjacentDb = null } = over.meters ?? {};
  const reports = (over.reports ?? []).map(({ text, path: by, receiver = '' }): HeardReport => {
    const { remarks } = readReport(text);
    return { station: receiver, path: by, remarks };
  });
  return { card, alc, compressionDb, powerW, swr, adjacentDb, voices, radios, tests, reports };
}

/** As the contract has it. */
export function answerJson({ status, why, set, expected, confidence, runnersUp, goal, learned }: NextAnswer): object {
  const expectedJson = {
    ...(expected.alc && { alc: expected.alc }),
    ...(expected.compressionDb && { compressionDb: expected.compressionDb }),
    ...(expected.toneErrorDb && { toneErrorDb: expected.toneErrorDb }),
    ...(expected.adjacentDb && { adjacentDb: expected.adjacentDb }),
    ...(expected.bandsDb && { bandsDb: expected.bandsDb }),
  };
  return {
    status,
    ...(status === 'move' && {
      move: {
        set: set.map(({ dial, from, to }) => ({ dial: dial.id, menu: dial.menu, label: dial.label, from, to })),
        why,
        expected: expectedJson,
        confidence,
      },
    }),
    ...(status === 'measure' && { measure: { what: 'over', why } }),
    ...(status === 'stop' && { stop: { why } }),
    runnersUp,
    goal,
    learned,
    notes: status === 'done' ? { done: why } : {},
  };
}

export function answerText({ status, why, set }: NextAnswer): string {
  const dials = set.map(({ dial, from, to }) => `  ${nameOf(dial)}: ${valueText(dial, from)} -> ${valueText(dial, to)}`);
  return [`${status}: ${why}`, ...dials].join('\n');
}
