/** dialtune fit: which equalizer dials to set to what, from one recording. */
import { defaultTarget, type Fit, FitImpossible, fitEqualizer, rankMoves } from '@/core/advice/index.ts';
import { measureVoice } from '@/core/measure/index.ts';
import { effective, factoryCard, nameOf, PURPOSES, responseOf, valueText } from '@/core/rig/index.ts';
import { InputError } from './errors.ts';
import { openVoice, readCurve } from './inputs.ts';
import { everyOf, noFiles, oneOf, optional, parse, required } from './options.ts';
import { readCard, readRig } from './stationFiles.ts';

export async function fit(args: readonly string[]): Promise<{ json: object; text: string }> {
  const parsed = parse(args, ['rig', 'voice', 'mic', 'purpose', 'card'], [], ['voice']);
  noFiles(parsed);
  const rigPath = required(parsed, 'rig');
  const [voicePath, ...furtherPaths] = everyOf(parsed, 'voice');
  const purpose = oneOf('purpose', required(parsed, 'purpose'), PURPOSES);
  const rig = await readRig(rigPath);
  const cardPath = optional(parsed, 'card');
  const card = cardPath === undefined ? factoryCard(rig) : await readCard(cardPath, rig);
  const micPath = optional(parsed, 'mic');
  const microphone = micPath === undefined ? undefined : await readCurve(micPath);
  const passbandHz = effective(rig, card).passbandHz;
  const detailOf = async (path: string) => (await measureVoice(await openVoice(path), { passbandHz })).detail;
  const detail = await detailOf(voicePath);
  const responseDb = responseOf(rig, card);
  const others = [];
  for (const path of furtherPaths) others.push({ voice: await detailOf(path), responseDb });
  try {
    const result = fitEqualizer({ rig, card, voice: detail, others, target: defaultTarget(purpose), microphone });
    const hearing = { rig, heardWith: card, voice: detail, basis: result.basis, passbandHz: result.passbandHz };
    const [next] = rankMoves(hearing, card);
    const json = {
      rig: rig.name,
      mode: card.mode,
      purpose,
      passbandHz: result.passbandHz,
      overs: result.overs,
      errorBeforeDb: result.errorBeforeDb,
      ...asJson(result.best),
      runnerUp: result.runnerUp && asJson(result.runnerUp),
      nextMove: next ? { ...moveJson(next.move), expected: next.expected } : null,
      notes: result.notes,
    };
    return { json, text: describe(rig.name, result.errorBeforeDb, result.best, result.runnerUp, result.notes) };
  } catch (error) {
    if (error instanceof FitImpossible) throw new InputError(error.message);
    throw error;
  }
}

const moveJson = ({ dial, from, to, why }: Fit['moves'][number]) => ({
  dial: dial.id,
  menu: dial.menu,
  label: dial.label,
  unit: dial.unit,
  from,
  to,
  why,
});

const asJson = (fitted: Fit) => ({
  errorAfterDb: fitted.errorDb,
  uncertaintyDb: fitted.uncertaintyDb,
  alcChangeDb: fitted.alcChangeDb,
  moves: fitted.moves.map(moveJson),
  bands: fitted.bands,
  values: fitted.values,
});

function describe(rig: string, before: number, best: Fit, second: Fit | null, notes: readonly string[]): string {
  const list = (fitted: Fit) =>
    fitted.moves.map(({ dial, from, to, why }) => `  ${nameOf(dial)}: ${valueText(dial, from)} -> ${valueText(dial, to)}  ${why}`);
  return [
    best.moves.length === 0 ? `${rig}: leave the equalizer as it is.` : `${rig}, in menu order:`,
    ...list(best),
    `off target by ${before.toFixed(1)} dB RMS now, ${best.errorDb.toFixed(1)} dB (give or take ${best.uncertaintyDb.toFixed(1)}) expected after; level into the ALC ${valueText({ unit: 'dB', scale: { kind: 'values', values: [] } }, Number(best.alcChangeDb.toFixed(1)))}: look at the ALC again.`,
    ...(second ? [`second best (${second.errorDb.toFixed(1)} dB):`, ...list(second)] : []),
    ...notes,
  ].join('\n');
}
