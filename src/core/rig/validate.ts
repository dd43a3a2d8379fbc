/** The one door for rig profiles, cards and microphones: schema first, then what a schema cannot say. */
import * as quick from '../schema/checksQuick.js';
import * as thorough from '../schema/checksThorough.js';
import { checker, InvalidInput, type Problem } from '../schema/index.ts';
import type { CardFile } from './card.ts';
import { isOnScale, rangeText } from './dialScale.ts';
import type { Microphone } from './microphone.ts';
import type { RigProfile } from './rig.ts';
import { rigProblems } from './rigProblems.ts';

const checkRig = checker('rig profile', quick.rig, thorough.rig);
const checkCard = checker('card', quick.card, thorough.card);
const checkMicrophone = checker('microphone', quick.microphone, thorough.microphone);

/** What the files of this program call themselves, in words. */
const FORMATS: Readonly<Record<string, string>> = {
  'dialtune-rig': 'a rig profile',
  'dialtune-microphone': 'a microphone',
  'dialtune-card': 'a card',
  'dialtune-station': 'a station archive',
};

/** A file of another kind, or of a newer program, is called that. */
function formatProblems(input: unknown, wanted: string): Problem[] {
  const { format, version } = (typeof input === 'object' && input !== null ? input : {}) as { format?: unknown; version?: unknown };
  if (typeof format !== 'string' || !Object.hasOwn(FORMATS, format)) return [];
  if (format !== wanted) return [{ place: 'format', text: `This is ${FORMATS[format]}, not ${FORMATS[wanted]}.` }];
  if (typeof version !== 'number' || version <= 1) return [];
  return [{ place: 'version', text: `This is ${FORMATS[format]} of a newer Dial Tune (version ${version}), which this one can't read.` }];
}

/** Runs the checks in turn; each only where those before found nothing. @throws InvalidInput */
function pass<T>(
  format: string,
  input: unknown,
  bySchema: (input: unknown) => readonly Problem[],
  byMeaning: (input: T) => readonly Problem[],
): T {
  const foreign = formatProblems(input, format);
  const problems = foreign.length > 0 ? foreign : bySchema(input);
  if (problems.length > 0) throw new InvalidInput(problems);
  const deeper = byMeaning(input as T);
  if (deeper.length > 0) throw new InvalidInput(deeper);
  return input as T;
}

/** @throws InvalidInput listing everything that is wrong */
export const parseRig = (input: unknown): RigProfile => pass('dialtune-rig', input, checkRig, rigProblems);

/** @throws InvalidInput listing everything that is wrong */
export const parseMicrophone = (input: unknown): Microphone => pass('dialtune-microphone', input, checkMicrophone, microphoneProblems);

/** Checks a card file against its schema and its rig. @throws InvalidInput listing everything that is wrong */
export const parseCard = (input: unknown, rig: RigProfile): CardFile =>
  pass('dialtune-card', input, checkCard, (card: CardFile) => cardProblems(card, rig));

/** What is wrong with a profile that is still being written; nothing when it can be used. */
export function problemsOfRig(input: unknown): readonly Problem[] {
  const problems = checkRig(input);
  return problems.length > 0 ? problems : rigProblems(input as RigProfile);
}

function cardProblems(card: CardFile, rig: RigProfile): Problem[] {
  const problems: Problem[] = [];
  if (card.rig !== undefined && card.rig !== rig.name) {
    problems.push({ place: 'rig', text: `This card belongs to ${card.rig}, not to ${rig.name}.` });
  }
  if (!rig.modes.includes(card.mode)) problems.push({ place: 'mode', text: `${rig.name} has no mode ${card.mode}.` });
  for (const [id, value] of Object.entries(card.values)) {
    const place = `values.${id}`;
    const dial = rig.dials.find((each) => each.id === id);
    if (!dial) problems.push({ place, text: `${rig.name} has no dial "${id}".` });
    else if (!isOnScale(dial.scale, value)) problems.push({ place, text: `${dial.label} can't be ${value}; it goes ${rangeText(dial)}.` });
  }
  return problems;
}

function microphoneProblems(microphone: Microphone): Problem[] {
  const problems: Problem[] = [];
  for (const list of ['positions', 'accessories'] as const) {
    const names = microphone[list].map(({ name }) => name);
    microphone[list].forEach(({ name, curve }, i) => {
      const place = `${list}.${i}`;
      if (names.indexOf(name) !== i) problems.push({ place, text: `Two of the ${list} are called "${name}".` });
      const at = curve.findIndex(([hz], k) => k > 0 && hz <= curve[k - 1][0]);
      if (at > 0) {
        problems.push({
          place: `${place}.curve.${at}`,
          text: `The curve of "${name}" is out of order: ${curve[at][0]} Hz does not come after ${curve[at - 1][0]} Hz.`,
        });
      }
    });
  }
  return problems;
}
