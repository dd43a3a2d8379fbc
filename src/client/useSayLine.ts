/** Lines typed faster than a server answers: each is shown at once, sent in its turn, and kept until it is acknowledged. */
import { useRef, useState } from 'react';
import { sayInCheck } from '@/server/aircheck/actions.ts';
import { asked } from './asked.ts';
import { useDraft } from './useDraft.ts';

export interface WaitingLine {
  readonly key: string;
  readonly text: string;
}

/** @param airCheckId whose lines they are */
export function useSayLine(airCheckId: number) {
  const draft = useDraft(`air check ${airCheckId}`, { text: '', waiting: [] as WaitingLine[] });
  const { text, waiting } = draft.value;
  const [message, setMessage] = useState<string | null>(null);
  const queue = useRef<Promise<void>>(Promise.resolve());
  const latest = useRef<readonly WaitingLine[]>(waiting);
  latest.current = waiting;
  const send = (line: WaitingLine) => {
    queue.current = queue.current.then(async () => {
      if (!latest.current.some(({ key }) => key === line.key)) return;
      const answer = await asked(sayInCheck({ airCheckId, text: line.text, clientKey: line.key }));
      setMessage(answer.ok ? null : answer.message);
      if (!answer.ok) return;
      latest.current = latest.current.filter(({ key }) => key !== line.key);
      draft.set({ waiting: [...latest.current] });
    });
  };
  return {
    text,
    /** Not acknowledged yet. */
    waiting,
    message,
    setText: (words: string) => draft.set({ text: words }),
    say(words: string) {
      const line = { key: crypto.randomUUID(), text: words.trim() };
      latest.current = [...latest.current, line];
      draft.set({ text: '', waiting: [...latest.current] });
      send(line);
    },
    /** Everything that is still waiting, once more. */
    again: () => latest.current.forEach(send),
  };
}
