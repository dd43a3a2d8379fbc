/** Carries out what a dial line says: moves and undo on the card, a reading on the over in view. */
import type { DialLine } from '@/core/language/index.ts';
import { saveRevision, undoLastChange } from '@/server/cards/actions.ts';
import type { CardView } from '@/server/cards/cards.ts';
import { saveOverNote } from '@/server/overs/actions.ts';
import { asked } from './asked.ts';

/** The over in view: readings are noted on it, and moves expect from it where it is measured. */
export interface LineOver {
  readonly id: number;
  readonly note: string;
  readonly isMeasured: boolean;
}

export async function runDialLine(
  line: DialLine,
  words: string,
  { card, over }: { card: CardView; over: LineOver | null },
): Promise<{ isDone: boolean; text: string }> {
  const [newest] = card.revisions;
  const told = <T>(answer: { ok: true; value: T } | { ok: false; message: string }, text: (value: T) => string) =>
    answer.ok ? { isDone: true, text: text(answer.value) } : { isDone: false, text: answer.message };
  if (line.kind === 'moves') {
    const answer = await asked(
      saveRevision({
        cardId: card.id,
        baseRevisionId: newest.id,
        values: Object.fromEntries(line.moves.map(({ dial, to }) => [dial.id, to])),
        reason: `as told: ${words}`,
        why: Object.fromEntries(line.moves.map(({ dial }) => [dial.id, `as told: ${words}`])),
        ...(over?.isMeasured ? { overId: over.id } : {}),
      }),
    );
    return told(answer, (number) => `On the card as revision ${number}. "undo" takes it back.`);
  }
  if (line.kind === 'undo') {
    const answer = await asked(undoLastChange({ cardId: card.id, baseRevisionId: newest.id }));
    return told(answer, (number) => `Undone, as revision ${number}.`);
  }
  if (line.kind !== 'alc') return { isDone: false, text: '' };
  if (!over) return { isDone: false, text: 'A reading belongs to an over, and this card has none in view. Add a recording first.' };
  const answer = await asked(saveOverNote({ overId: over.id, alcReading: line.reading, note: over.note, base: { note: over.note } }));
  return told(answer, () => `Noted on over ${over.id}.`);
}
