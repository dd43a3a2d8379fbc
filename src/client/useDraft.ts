/** A form's values that outlive the page until they are saved or thrown away. */
import { useEffect, useEffectEvent, useState } from 'react';
import { forgetDraft, readDraft, writeDraft } from './drafts.ts';

export interface Draft<T> {
  readonly value: T;
  /** What the form began with. */
  readonly base: T;
  readonly isChanged: boolean;
  /** When the values were typed that came back from an earlier visit; null when none did. */
  readonly restoredAt: string | null;
  readonly set: (change: Partial<T>) => void;
  /** The values are on the server now. */
  readonly saved: () => void;
  /** Back to what the server has. */
  readonly discard: () => void;
}

interface State<T> {
  readonly key: string;
  readonly value: T;
  readonly base: T;
  readonly restoredAt: string | null;
}

const begin = <T>(key: string, start: T): State<T> => ({ key, value: start, base: start, restoredAt: null });
const isSame = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);

/** @param key names the form and the thing it is for, such as "operator 3" */
export function useDraft<T extends object>(key: string, start: T): Draft<T> {
  const [{ value, base, restoredAt }, setState] = useState(() => begin(key, start));
  const startText = JSON.stringify(start);
  // What the server has now is taken over as long as nothing was typed; what was typed keeps the base it was typed on.
  useEffect(() => {
    const now: T = JSON.parse(startText);
    const kept = readDraft(key, now);
    if (kept)
      setState((state) => ({
        key,
        value: kept.value,
        base: kept.base,
        restoredAt: isSame(kept.value, state.value) ? state.restoredAt : kept.at,
      }));
    else setState((state) => (state.key !== key || isSame(state.value, state.base) ? begin(key, now) : state));
  }, [key, startText]);
  return {
    value,
    base,
    isChanged: !isSame(value, base),
    restoredAt,
    set(change) {
      const next = { ...value, ...change };
      writeDraft(key, next, base);
      setState((state) => ({ ...state, value: { ...state.value, ...change } }));
    },
    saved() {
      forgetDraft(key);
      setState(begin(key, value));
    },
    discard() {
      forgetDraft(key);
      setState(begin(key, start));
    },
  };
}

/**
 * Keeps what an editor with a state of its own holds.
 * @param restore gets what an earlier visit left
 */
export function useKeptDraft<T>(
  key: string,
  value: T,
  base: T,
  restore: (value: T, base: T) => void,
): { restoredAt: string | null; forget: () => void } {
  const [restoredAt, setRestoredAt] = useState<string | null>(null);
  const [isReady, setIsReady] = useState(false);
  const lookUp = useEffectEvent((name: string) => {
    const kept = readDraft(name, base);
    if (kept) {
      restore(kept.value, kept.base);
      setRestoredAt(kept.at);
    }
    setIsReady(true);
  });
  // Once, when the editor opens.
  useEffect(() => lookUp(key), [key]);
  useEffect(() => {
    if (isReady) writeDraft(key, value, base);
  }, [isReady, key, value, base]);
  return {
    restoredAt,
    forget() {
      forgetDraft(key);
      setRestoredAt(null);
    },
  };
}
