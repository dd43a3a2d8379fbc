/** dialtune reach: how far a card reaches and how natural it sounds, for one voice on a simulated station. */
import { readPart } from '@/core/files/index.ts';
import { CardJudge, canJudge, cardWords } from '@/core/intelligibility/index.ts';
import { parseCard } from '@/core/rig/index.ts';
import { readJson } from '@/core/schema/index.ts';
import { InputError, UsageError } from './errors.ts';
import { about, openVoice, readText } from './inputs.ts';
import { noFiles, optional, parse, required } from './options.ts';
import { readStation } from './simulate.ts';

/** What is judged of a long recording. */
const MOST_S = 30;

export async function reach(args: readonly string[]): Promise<{ json: object; text: string }> {
  const parsed = parse(args, ['station', 'voice', 'card']);
  noFiles(parsed);
  const station = await readStation(required(parsed, 'station'));
  const voicePath = optional(parsed, 'voice') ?? station.voicePath;
  if (voicePath === null) throw new UsageError('--voice is missing, and the station file names none');
  const cardPath = optional(parsed, 'card');
  const card =
    cardPath === undefined ? station.card : await about(cardPath, async () => parseCard(readJson(await readText(cardPath)), station.rig));
  if (!canJudge(card)) throw new InputError(`Reach is calculated for single sideband only, and the card is for ${card.mode}.`);
  const source = await openVoice(voicePath);
  try {
    const judge = new CardJudge(
      { samples: await readPart(source, 0, MOST_S * source.sampleRateHz), rateHz: source.sampleRateHz },
      { rig: station.trueRig, radio: station.radio, microphone: station.microphone },
      { ...station.receivers[0].receiver, agc: null },
    );
    const { reach: found, naturalness, alc, peakToAverageDb } = judge.judge(card);
    const secondOpinion = judge.secondOpinion(card);
    const json = {
      mode: card.mode,
      ...found,
      naturalness: naturalness.score,
      naturalnessParts: naturalness,
      alc,
      peakToAverageDb,
      secondOpinion,
    };
    return { json, text: cardWords({ reach: found, naturalness, alc, peakToAverageDb }) };
  } catch (error) {
    if (error instanceof RangeError) throw new InputError(`${voicePath}: ${error.message}`);
    throw error;
  }
}
