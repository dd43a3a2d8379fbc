/** Lines typed faster than a server answers: each is shown at once, sent in its turn, and kept until it is acknowledged. */
import { useRef, useState } from 'react';
import { sayInCheck } from '@/server/aircheck/actions.ts';
import { asked } from './asked.ts';
import { useDraft } from './useDraft.ts';

export interface WaitingLine {
  readonly key: string;
  readonly text: string;
}

/**
 * @param airCheckId whose lines they are
 * @param known      keys of the lines that the server has
 */
export function useSayLine(airCheckId: number, known: ReadonlySet<string>) {
  const draft = useDraft(`air check ${airCheckId}`, { text: '', waiting: [] as WaitingLine[] });
  const [message, setMessage] = useState<string | null>(null);
  const queue = useRef<Promise<void>>(Promise.resolve());
  const acknowledged = useRef(new Set<string>());
  const isOpen = ({ key }: WaitingLine) => !known.has(key) && !acknowledged.current.has(key);
  const waiting = draft.value.waiting.filter(isOpen);
  // A render may still be of before what was typed or answered last: these are as it is now.
  const latest = useRef({ text: draft.value.text, waiting });
  const keep = (change: Partial<typeof latest.current>) => {
    latest.current = { ...latest.current, ...change };
    draft.set({ ...latest.current });
  };
  const send = (line: WaitingLine) => {
    queue.current = queue.current.then(async () => {
      if (acknowledged.current.has(line.key)) return;
      const answer = await asked(sayInCheck({ airCheckId, text: line.text, clientKey: line.key }));
      setMessage(answer.ok ? null : answer.message);
      if (!answer.ok) return;
      acknowledged.current.add(line.key);
      keep({ waiting: latest.current.waiting.filter(({ key }) => key !== line.key) });
    });
  };
  /** What an earlier visit of the page left. */
  const left = waiting.filter(({ key }) => latest.current.waiting.every((line) => line.key !== key));
  const all = () => [...left, ...latest.current.waiting];
  return {
    text: draft.value.text,
    /** Not acknowledged yet. */
    waiting,
    /** Nobody is sending them: it takes a press. */
    isStuck: message !== null || left.length > 0,
    message,
    setText: (text: string) => keep({ text }),
    say(words: string) {
      const line = { key: crypto.randomUUID(), text: words.trim() };
      keep({ text: '', waiting: [...all(), line] });
      send(line);
    },
    /** Everything that is still waiting, once more. */
    again() {
      keep({ waiting: all() });
      latest.current.waiting.forEach(send);
    },
  };
}
