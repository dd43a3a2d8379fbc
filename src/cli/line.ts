/** dialtune line: advice as it is said, as dials. */
import { type DialLine, readDialLine } from '@/core/language/index.ts';
import { nameOf, valueText } from '@/core/rig/index.ts';
import { InputError, UsageError } from './errors.ts';
import { parse, required } from './options.ts';
import { readCard, readRig } from './stationFiles.ts';

/** The one text of a command, which may begin with a minus sign, and the options beside it. */
export function splitText(args: readonly string[], names: readonly string[]): { text: string; rest: string[] } {
  const isText = (arg: string, i: number) => !arg.startsWith('--') && !names.some((name) => args[i - 1] === `--${name}`);
  const texts = args.filter(isText);
  if (texts.length !== 1) throw new UsageError(texts.length === 0 ? 'the text is missing' : 'the text is one argument: put it in quotes');
  return { text: texts[0], rest: args.filter((arg, i) => !isText(arg, i)) };
}

export async function line(args: readonly string[]): Promise<{ json: object; text: string }> {
  const { text, rest } = splitText(args, ['rig', 'card']);
  const parsed = parse(rest, ['rig', 'card']);
  const rigPath = required(parsed, 'rig');
  const cardPath = required(parsed, 'card');
  const rig = await readRig(rigPath);
  const card = await readCard(cardPath, rig);
  return answerOf(readDialLine(text, rig, card));
}

function answerOf(read: DialLine): { json: object; text: string } {
  if (read.kind === 'empty') throw new InputError('The text is empty.');
  if (read.kind === 'undo') throw new InputError('There is nothing to undo here: a card file has no earlier revision.');
  if (read.kind === 'problem') {
    if (read.explained.length === 0 || read.unread.length === 0) throw new InputError(read.text);
    // Half understood: nothing changes, and it asks.
    const { explained, unread, text } = read;
    return { json: { moves: [], reading: null, explained, warnings: [text], unread }, text };
  }
  const { moves, reading, explained, warnings } = read;
  return {
    json: {
      moves: moves.map(({ dial, from, to }) => ({ dial: dial.id, label: dial.label, menu: dial.menu, from, to })),
      reading,
      explained,
      warnings,
      unread: [],
    },
    text: [
      ...moves.map(({ dial, from, to }) => `${nameOf(dial)}: ${valueText(dial, from)} -> ${valueText(dial, to)}`),
      ...explained.filter((sentence) => !sentence.includes('→')),
      ...warnings,
    ].join('\n'),
  };
}
