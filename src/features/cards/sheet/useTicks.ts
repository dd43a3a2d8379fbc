'use client';
/** Which lines of a sheet are done: kept at once on the server, as what the radio holds. */
import { useState } from 'react';
import { asked } from '@/client/asked.ts';
import type { SheetLine } from '@/core/rig/index.ts';
import type { CardView } from '@/server/cards/cards.ts';
import { tick } from '@/server/station/actions.ts';

export interface Ticks {
  readonly done: ReadonlySet<string>;
  readonly message: string | null;
  /** Ticks lines off, or takes that back. */
  readonly set: (lines: readonly SheetLine[], isDone: boolean) => void;
}

export function useTicks(card: CardView): Ticks {
  const [done, setDone] = useState<ReadonlySet<string>>(new Set());
  const [message, setMessage] = useState<string | null>(null);
  const mark = (lines: readonly SheetLine[], isDone: boolean) =>
    setDone((before) => {
      const after = new Set(before);
      for (const { dial } of lines) isDone ? after.add(dial.id) : after.delete(dial.id);
      return after;
    });
  const set = (lines: readonly SheetLine[], isDone: boolean) => {
    if (lines.length === 0) return;
    mark(lines, isDone);
    void asked(
      tick({
        ticks: lines.map(({ dial, from, to }) => ({
          rigId: card.rig.id,
          dialId: dial.id,
          value: isDone ? to : (from ?? dial.rest),
          cardRevisionId: card.revisions[0].id,
        })),
      }),
    ).then((answer) => {
      setMessage(answer.ok ? null : answer.message);
      if (!answer.ok) mark(lines, !isDone);
    });
  };
  return { done, message, set };
}
