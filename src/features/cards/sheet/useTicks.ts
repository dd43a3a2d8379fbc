'use client';
/** Which lines of a sheet are done: kept at once on the server, as what the radio holds. */
import { useRef, useState } from 'react';
import { asked } from '@/client/asked.ts';
import type { SheetLine } from '@/core/rig/index.ts';
import type { CardView } from '@/server/cards/cards.ts';
import { tick } from '@/server/station/actions.ts';

export interface Ticks {
  readonly done: ReadonlySet<string>;
  readonly message: string | null;
  /** Something is still on its way to the server. */
  readonly isSaving: boolean;
  /** Ticks lines off, or takes that back. */
  readonly set: (lines: readonly SheetLine[], isDone: boolean) => void;
}

export function useTicks(card: CardView): Ticks {
  const [done, setDone] = useState<ReadonlySet<string>>(new Set());
  const [message, setMessage] = useState<string | null>(null);
  const [isSaving, setIsSaving] = useState(false);
  const mark = (lines: readonly SheetLine[], isDone: boolean) =>
    setDone((before) => {
      const after = new Set(before);
      for (const { dial } of lines) isDone ? after.add(dial.id) : after.delete(dial.id);
      return after;
    });
  const waiting = useRef<{ lines: readonly SheetLine[]; isDone: boolean }[]>([]);
  /** One request at a time, with all that was ticked meanwhile. */
  const send = async () => {
    setIsSaving(true);
    while (waiting.current.length > 0) {
      const sent = waiting.current;
      const ticks = sent.flatMap(({ lines, isDone }) => lines.map((line) => tickOf(card, line, isDone)));
      const answer = await asked(tick({ ticks }));
      waiting.current = waiting.current.slice(sent.length);
      setMessage(answer.ok ? null : answer.message);
      if (!answer.ok) for (const { lines, isDone } of sent) mark(lines, !isDone);
    }
    setIsSaving(false);
  };
  const set = (lines: readonly SheetLine[], isDone: boolean) => {
    if (lines.length === 0) return;
    mark(lines, isDone);
    waiting.current = [...waiting.current, { lines, isDone }];
    if (waiting.current.length === 1) void send();
  };
  return { done, message, isSaving, set };
}

const tickOf = (card: CardView, { dial, from, to }: SheetLine, isDone: boolean) => ({
  rigId: card.rig.id,
  dialId: dial.id,
  value: isDone ? to : (from ?? dial.rest),
  cardRevisionId: card.revisions[0].id,
});
