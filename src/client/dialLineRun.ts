/** Carries out what a dial line says: moves and undo on the card, readings beside them. */
import { saidIn } from '@/core/advice/index.ts';
import type { DialLine, LineContext, MeterReading } from '@/core/language/index.ts';
import { valueOn } from '@/core/rig/index.ts';
import { saveRevision, undoLastChange } from '@/server/cards/actions.ts';
import type { CardView } from '@/server/cards/cards.ts';
import { saveReading } from '@/server/readings/actions.ts';
import { asked } from './asked.ts';

/** The over in view: readings are noted with it where it was made with the card as it stands, and moves expect from it. */
export interface LineOver {
  readonly id: number;
  readonly revisionId: number;
  readonly isMeasured: boolean;
}

interface LineTarget {
  readonly card: CardView;
  readonly over: LineOver | null;
}

/** What a line may refer back to: the card's last change. */
export function lineContext({ mode, rig, revisions: [newest, before] }: CardView): LineContext {
  if (!before) return {};
  const earlier = { mode, values: before.values };
  const now = { mode, values: newest.values };
  return {
    before: earlier,
    lastMoves: rig.profile.dials
      .map((dial) => ({ dial, from: valueOn(earlier, dial), to: valueOn(now, dial) }))
      .filter(({ from, to }) => from !== to),
  };
}

interface Outcome {
  readonly isDone: boolean;
  readonly text: string;
}

/** @returns what became of it, in one sentence */
export async function runDialLine(line: DialLine, words: string, target: LineTarget): Promise<Outcome> {
  const { card } = target;
  if (line.kind === 'undo') {
    const answer = await asked(undoLastChange({ cardId: card.id, baseRevisionId: card.revisions[0].id }));
    return answer.ok ? { isDone: true, text: `Undone, as revision ${answer.value}.` } : { isDone: false, text: answer.message };
  }
  if (line.kind !== 'do') return { isDone: false, text: '' };
  // A reading is of the card as it stood when it was read.
  const read = line.reading ? await keepReading(line.reading, words, target) : null;
  if (read && !read.isDone) return read;
  if (line.moves.length === 0) return read ?? { isDone: true, text: 'The dials stand so already.' };
  const moved = await putOnCard(line, words, target);
  return read && moved.isDone ? { isDone: true, text: `${read.text} ${moved.text}` } : moved;
}

async function keepReading(reading: MeterReading, words: string, { card: { revisions }, over }: LineTarget): Promise<Outcome> {
  const [newest] = revisions;
  const overId = over?.revisionId === newest.id ? over.id : null;
  const numbers = { alc: null, compressionDb: null, powerW: null, swr: null, ...reading };
  const answer = await asked(saveReading({ cardRevisionId: newest.id, overId, said: saidIn(words), ...numbers }));
  if (!answer.ok) return { isDone: false, text: answer.message };
  return { isDone: true, text: `Noted with revision ${newest.number}${overId === null ? '' : ` and over ${overId}`}.` };
}

async function putOnCard(
  { moves }: Extract<DialLine, { kind: 'do' }>,
  words: string,
  { card: { id, revisions }, over }: LineTarget,
): Promise<Outcome> {
  const reason = `as told: ${words}`.replace(/\s+/g, ' ').slice(0, 300);
  const answer = await asked(
    saveRevision({
      cardId: id,
      baseRevisionId: revisions[0].id,
      values: Object.fromEntries(moves.map(({ dial, to }) => [dial.id, to])),
      reason,
      why: Object.fromEntries(moves.map(({ dial }) => [dial.id, reason])),
      ...(over?.isMeasured ? { overId: over.id } : {}),
    }),
  );
  return answer.ok
    ? { isDone: true, text: `On the card as revision ${answer.value}. "undo" takes it back.` }
    : { isDone: false, text: answer.message };
}
